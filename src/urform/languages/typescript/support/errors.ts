/** The base of all errors of creation. Each keeps its details as data. */
export abstract class CreationError extends Error {
  /** The product or family that was asked for, or that declares the field. */
  readonly owner: string;

  constructor(owner: string, message: string) {
    super(owner + message);
    this.owner = owner;
  }
}

/** Required fields were not given. */
export class MissingFieldsError extends CreationError {
  override readonly name: string = "MissingFieldsError";
  readonly fields: readonly string[];

  constructor(owner: string, fields: readonly string[]) {
    super(owner, `: missing ${fields.join(", ")}`);
    this.fields = fields;
  }
}

/**
 * A value is outside its limit: the value itself, the length of a collection,
 * or undefined where it is a secret.
 */
export class LimitError extends CreationError {
  override readonly name: string = "LimitError";
  readonly field: string;
  readonly limit: string;
  /** What the limit is set to, where it has a bound. */
  readonly bound: unknown;
  readonly value: unknown;

  /** `wanted` is what the field takes, such as "a number". */
  constructor(
    owner: string,
    field: string,
    limit: string,
    bound?: unknown,
    value?: unknown,
    wanted = "",
  ) {
    super(owner, "");
    this.message = said(owner, field, limit, bound, value, wanted);
    this.field = field;
    this.limit = limit;
    this.bound = bound;
    this.value = value;
  }
}

/** The key is unknown. */
export class UnknownKeyError extends CreationError {
  override readonly name: string = "UnknownKeyError";
  readonly key: string;
  readonly known: readonly string[];

  constructor(owner: string, key: string, known: readonly string[]) {
    super(owner, `: unknown key "${key}", known: ${known.join(", ")}`);
    this.key = key;
    this.known = known;
  }
}

/** The key is taken. */
export class DuplicateKeyError extends CreationError {
  override readonly name: string = "DuplicateKeyError";
  readonly key: string;

  constructor(owner: string, key: string) {
    super(owner, `: key "${key}" is taken`);
    this.key = key;
  }
}

/** These values give no product. */
export class RefusedError extends CreationError {
  override readonly name: string = "RefusedError";
  readonly reason: string;

  constructor(owner: string, reason: string) {
    super(owner, `: refused, ${reason}`);
    this.reason = reason;
  }
}

const MOST_SHOWN = 80;
const WITHIN: Readonly<Record<string, string>> = {
  each: "an element of ",
  key: "a key of ",
};
const WANTED: Readonly<Record<string, string>> = {
  min: "at least {} is allowed",
  max: "at most {} is allowed",
  above: "more than {} is wanted",
  below: "less than {} is wanted",
  finite: "a finite number is wanted",
  choice: "a declared word is wanted",
  not_blank: "a text that is not blank is wanted",
  min_length: "a length of at least {} is allowed",
  max_length: "a length of at most {} is allowed",
  one_of: "one of {} is wanted",
  pattern: "a text that matches {} is wanted",
  uri: "a URI is wanted",
  date: "a date is wanted",
  time: "a time of day is wanted",
  instant: "an instant is wanted",
  duration: "a duration is wanted",
  decimal: "a decimal number is wanted",
  uuid: "a UUID is wanted",
  unique: "each element is allowed once",
};
const WANTED_IN_TIME: Readonly<Record<string, string>> = {
  min: "{} or later is allowed",
  max: "{} or earlier is allowed",
  above: "later than {} is wanted",
  below: "earlier than {} is wanted",
};
const COUNTED = ["a duration", "a decimal number"]; // told by texts, and neither earlier nor later
const SHORT: Readonly<Record<string, string>> = {
  "\n": "\\n",
  "\r": "\\r",
  "\t": "\\t",
  '"': '\\"',
  "\\": "\\\\",
};

/** What the error of a limit says. */
function said(
  owner: string,
  field: string,
  limit: string,
  bound: unknown,
  value: unknown,
  wanted: string,
): string {
  const [part, name] = limit.includes(".") ? limit.split(".") : ["", limit];
  const path = `${WITHIN[part as string] ?? ""}${owner}.${field}`;
  const isReal = wanted === "a number";
  const bounds = (Array.isArray(bound) ? bound : [bound]) as unknown[];
  const listed = bounds.map((each) => shownIn(each, isReal)).join(", ");
  const isInTime = typeof bound === "string" && !COUNTED.includes(wanted);
  const inTime = isInTime && WANTED_IN_TIME[name as string];
  const asked = inTime || (WANTED[name as string] ?? `${wanted} is wanted`);
  const allowed = asked.replace("{}", () => listed);
  if (value === undefined) {
    return `${path}: ${allowed}`;
  }
  if (typeof value === "number" && asked.startsWith("a length of ")) {
    const most = allowed.replace("a length of ", "");
    return `${path} has the length ${String(value)}; ${most}`;
  }
  if (name === "unique") {
    return `${path} has ${shownIn(value, isReal)} twice; ${allowed}`;
  }
  return `${path} is ${shownIn(value, isReal)}; ${allowed}`;
}

/** A text in quotes, cut, its controls escaped; a number, as a real with its point; of everything else the type. */
function shownIn(value: unknown, isReal: boolean): string {
  if (typeof value === "string") {
    return quoted(value);
  }
  if (typeof value === "number") {
    const digits = String(value);
    return isReal && /^-?\d+$/.test(digits) ? `${digits}.0` : digits;
  }
  if (typeof value === "object" && value !== null) {
    return `of type ${value.constructor.name}`;
  }
  return String(value);
}

/** A text in quotes, cut, its controls escaped. */
export function quoted(text: string): string {
  const characters = Array.from(text.slice(0, 2 * MOST_SHOWN + 2));
  const more = characters.length > MOST_SHOWN ? "…" : "";
  const cut = characters.slice(0, MOST_SHOWN).map(escaped).join("");
  return `"${cut}${more}"`;
}

function escaped(character: string): string {
  const code = character.charCodeAt(0);
  const short = SHORT[character];
  if (short !== undefined) {
    return short;
  }
  return code < 0x20 || (code >= 0x7f && code <= 0x9f)
    ? `\\u${code.toString(16).padStart(4, "0")}`
    : character;
}
