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

/** A value is outside its limit. */
export class LimitError extends CreationError {
  override readonly name: string = "LimitError";
  readonly field: string;
  readonly limit: string;
  /** What the limit is set to, where it has a bound. */
  readonly bound: unknown;

  constructor(owner: string, field: string, limit: string, bound?: unknown) {
    const shown = bound === undefined ? "" : ` ${bound as string}`;
    super(owner, `.${field}: breaks ${limit}${shown}`);
    this.field = field;
    this.limit = limit;
    this.bound = bound;
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
