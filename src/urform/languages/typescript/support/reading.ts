// Records: what `JSON.parse` gives for a product, and what is written of it.
// A record that is in order is handed to the constructor as it is, which checks it; only where that fails is it read name by
// name, to tell everything that is wrong with it.

import {
  byCodePoint,
  distinct,
  integer,
  real,
  same,
  sized,
  text,
} from "./check.js";
import type { NumberLimits, SizeLimits, TextLimits } from "./check.js";
import { CreationError, LimitError, quoted, RefusedError } from "./errors.js";

const MOST_LEVELS = 200;
/** In code points: nothing is suggested for a longer name. */
const FARTHEST = 80;
const PLAIN = /^[A-Za-z_][A-Za-z0-9_]*$/;
const WHOLE = /^(?:0|-?[1-9][0-9]*)$/;
/** What is thrown where a record has to be read name by name. */
const UNUSUAL = new Error("unusual");

/**
 * One thing that is wrong with a record: where, and what. `limit` is a limit's name, or one of missing, type, kind, unknown,
 * twice, refused, depth, text; `value` what was found, unless that is a secret. In a list `record` is its place, from 0.
 */
export interface RecordProblem {
  readonly path: string;
  readonly text: string;
  readonly owner: string;
  readonly field: string;
  readonly limit: string;
  readonly bound: unknown;
  readonly value: unknown;
  readonly record: number | undefined;
  /** The path and what is wrong there. */
  toString(): string;
}

class Told implements RecordProblem {
  readonly path: string;
  readonly text: string;
  readonly owner: string;
  readonly field: string;
  readonly limit: string;
  readonly bound: unknown;
  readonly value: unknown;
  readonly record: number | undefined;

  constructor(
    path: string,
    text: string,
    owner: string,
    field: string,
    limit: string,
    bound?: unknown,
    value?: unknown,
    record?: number,
  ) {
    this.path = path;
    this.text = text;
    this.owner = owner;
    this.field = field;
    this.limit = limit;
    this.bound = bound;
    this.value = value;
    this.record = record;
  }

  toString(): string {
    return this.path === "" ? this.text : `${this.path}: ${this.text}`;
  }

  at(path: string, record?: number): Told {
    const { text, owner, field, limit, bound, value } = this;
    return new Told(path, text, owner, field, limit, bound, value, record);
  }
}

/** No product is made of a record; `problems` are all that are wrong with it. */
export class RecordError extends CreationError {
  override readonly name: string = "RecordError";
  readonly problems: readonly RecordProblem[];

  constructor(owner: string, problems: readonly RecordProblem[]) {
    const told = problems.map((each) => `\n  ${each.toString()}`).join("");
    super(owner, `: not made of this record${told}`);
    this.problems = problems;
  }
}

type Fields = Readonly<Record<string, unknown>>;

/** The problems of one record, each with the way to it from the inside out. */
export class Reading {
  readonly problems: [string[], Told][] = [];
  level = 0;

  tell(problem: Told): void {
    this.problems.push([[], problem]);  // «#tell#»
  }

  /** The problems since then are below a name, or an element. */
  below(step: string, before: number): void {
    for (const [way] of this.problems.slice(before)) {
      way.push(step);  // «#step#»
    }
  }

  /** Whether there are more levels than any record should have; one more is begun otherwise. */
  tooDeep(owner: string): boolean {
    this.level += 1;
    if (this.level <= MOST_LEVELS) {
      return false;
    }
    this.level -= 1;
    const said = `this is more than ${String(MOST_LEVELS)} levels deep`;
    this.tell(new Told("", said, owner, "", "depth", MOST_LEVELS));
    return true;
  }

  /** All of them, with their paths. */
  told(): RecordProblem[] {
    return this.problems.map(([way, problem]) => {
      const path = way.reverse().join("") + problem.path;
      return problem.at(path.startsWith(".") ? path.slice(1) : path);
    });
  }
}

function stepTo(name: string): string {
  return PLAIN.test(name) ? `.${name}` : `[${quoted(name)}]`;
}

/** Reads, and writes, values of one type for one field. `quick` is undefined where the constructor takes them as they are. */
export abstract class Reader {
  abstract readonly wanted: string;
  readonly owner: string;
  readonly field: string;
  within = "";
  isSecret = false;

  constructor(owner: string, field: string) {
    this.owner = owner;
    this.field = field;
  }

  /** Whether the constructor takes values as they are. */
  get isPlain(): boolean {
    return true;
  }

  abstract read(value: unknown, reading: Reading): unknown;

  quick(value: unknown, level: number): unknown {
    void level;
    return value;
  }

  write(held: unknown): unknown {
    return held;
  }

  /** The same for an element, or a key. */
  inside(within: "each." | "key."): this {
    this.within = within;
    return this;
  }

  /** The same for a text that no message tells. */
  secret(): this {
    this.isSecret = true;
    return this;
  }

  get path(): string {
    const part = { "": "", "each.": "an element of ", "key.": "a key of " };
    return `${part[this.within as "each."]}${this.owner}.${this.field}`;
  }

  missing(reading: Reading): undefined {
    const said = `${this.path} is missing`;
    const limit = `${this.within}missing`;
    reading.tell(new Told("", said, this.owner, this.field, limit));
  }

  /** A value is of another type. */
  unfit(value: unknown, reading: Reading, limit = "type"): undefined {
    const found = this.isSecret ? ":" : ` is ${shownNode(value)};`;
    const said = `${this.path}${found} ${this.wanted}`;
    const told = this.isSecret ? undefined : value;
    const name = this.within + limit;
    reading.tell(
      new Told("", said, this.owner, this.field, name, undefined, told),
    );
  }

  /** A value, if it keeps its limits. */
  checked<V>(check: () => V, reading: Reading): V | undefined {
    try {
      return check();
    } catch (error) {
      if (!(error instanceof LimitError)) {
        throw error;
      }
      reading.tell(ofLimit(error, ""));
      return undefined;
    }
  }
}

function ofLimit(error: LimitError, path: string): Told {
  const { message, owner, field, limit, bound, value } = error;
  return new Told(path, message, owner, field, limit, bound, value);
}

/** What texts are held against. */
interface Form {
  check(
    owner: string,
    field: string,
    value: string,
    within: string,
    secret: boolean,
  ): string;
}

export class TextReader extends Reader {
  readonly wanted = "a text is wanted";
  readonly limits: TextLimits;
  readonly forms: readonly Form[];

  constructor(
    owner: string,
    field: string,
    limits: TextLimits = {},
    forms: readonly Form[] = [],
  ) {
    super(owner, field);
    this.limits = limits;
    this.forms = forms;
    this.isSecret = limits.secret === true;
  }

  read(value: unknown, reading: Reading): unknown {
    if (typeof value !== "string") {
      return this.unfit(value, reading);
    }
    const { owner, field, limits, forms, within, isSecret } = this;
    return this.checked(() => {
      const kept = text(owner, field, value, limits, within);
      for (const form of forms) {
        form.check(owner, field, kept, within, isSecret);
      }
      return kept;
    }, reading);
  }
}

/** What is held as the text that it is read from, such as a date; `check` tells whether it is one. */
export class ToldReader<T, L> extends Reader {
  readonly wanted: string;
  readonly check: Check<T, L>;
  readonly limits: L | undefined;

  constructor(
    owner: string,
    field: string,
    wanted: string,
    check: Check<T, L>,
    limits?: L,
  ) {
    super(owner, field);
    this.wanted = wanted;
    this.check = check;
    this.limits = limits;
  }

  read(value: unknown, reading: Reading): unknown {
    if (typeof value !== "string") {
      return this.unfit(value, reading);
    }
    const told = value as T;  // «#date#»
    const { owner, field, limits, within } = this;
    return this.checked(
      () => this.check(owner, field, told, limits, within),
      reading,
    );
  }
}

type Check<T, L> = (
  owner: string,
  field: string,
  value: T,
  limits: L | undefined,
  within: string,
) => T;

export class IntegerReader extends Reader {
  readonly wanted = "an integer is wanted";
  readonly limits: NumberLimits;

  constructor(owner: string, field: string, limits: NumberLimits = {}) {
    super(owner, field);
    this.limits = limits;
  }

  read(value: unknown, reading: Reading): unknown {
    if (typeof value !== "number" || !Number.isSafeInteger(value)) {
      return this.unfit(value, reading);
    }
    const { owner, field, limits, within } = this;
    return this.checked(
      () => integer(owner, field, value, limits, within),
      reading,
    );
  }
}

export class RealReader extends Reader {
  readonly wanted = "a number is wanted";
  readonly limits: NumberLimits;

  constructor(owner: string, field: string, limits: NumberLimits = {}) {
    super(owner, field);
    this.limits = limits;
  }

  read(value: unknown, reading: Reading): unknown {
    if (typeof value !== "number") {
      return this.unfit(value, reading);
    }
    const { owner, field, limits, within } = this;
    return this.checked(
      () => real(owner, field, value, limits, within),
      reading,
    );
  }
}

export class TruthReader extends Reader {
  readonly wanted = "true or false is wanted";

  read(value: unknown, reading: Reading): unknown {
    return typeof value === "boolean" ? value : this.unfit(value, reading);
  }
}

/** A word of a choice, by its name in records. */
export class WordReader extends Reader {
  readonly wanted: string;
  readonly words: ReadonlyMap<unknown, string>;
  readonly names: ReadonlyMap<unknown, string>;

  constructor(
    owner: string,
    field: string,
    words: readonly (readonly [string, string])[],
  ) {
    super(owner, field);
    this.words = new Map(words);
    this.names = new Map(words.map(([name, word]) => [word, name]));
    const listed = words.map(([name]) => quoted(name)).join(", ");
    this.wanted = `one of ${listed} is wanted`;
  }

  override get isPlain(): boolean {
    return [...this.words].every(([name, word]) => name === word);
  }

  override quick(value: unknown): unknown {
    const word = this.words.get(value);
    if (word === undefined) {
      throw UNUSUAL;
    }
    return word;
  }

  read(value: unknown, reading: Reading): unknown {
    return this.words.get(value) ?? this.unfit(value, reading, "choice");
  }

  override write(held: unknown): unknown {
    return this.names.get(held);
  }
}

/** A product. */
export class ProductReader extends Reader {
  readonly wanted = "a record is wanted";
  readonly shape: () => Readable;

  constructor(owner: string, field: string, shape: () => Readable) {
    super(owner, field);
    this.shape = shape;
  }

  override get isPlain(): boolean {
    return false;
  }

  override quick(value: unknown, level: number): unknown {
    return this.shape().quick(value, level);
  }

  read(value: unknown, reading: Reading): unknown {
    return isRecord(value)
      ? this.shape().read(value, reading)
      : this.unfit(value, reading);
  }

  override write(held: unknown): unknown {
    return this.shape().written(held);
  }
}

/** What one element is read as, which has to be there. */
function elementOf(each: Reader, value: unknown, reading: Reading): unknown {
  return value == null ? each.missing(reading) : each.read(value, reading);
}

export class ListReader extends Reader {
  readonly wanted = "a list is wanted";
  readonly each: Reader;
  readonly limits: SizeLimits;

  constructor(
    owner: string,
    field: string,
    each: Reader,
    limits: SizeLimits = {},
  ) {
    super(owner, field);
    this.each = each.inside("each.");
    this.limits = limits;
  }

  override get isPlain(): boolean {
    return this.each.isPlain;
  }

  protected holding(values: unknown[]): unknown {
    return values;
  }

  override quick(value: unknown, level: number): unknown {
    if (!Array.isArray(value) || level > MOST_LEVELS) {
      throw UNUSUAL;
    }
    const { each } = this;
    return this.holding(value.map((one) => each.quick(one, level + 1)));
  }

  read(value: unknown, reading: Reading): unknown {
    if (!Array.isArray(value)) {
      return this.unfit(value, reading);
    }
    const start = reading.problems.length;
    if (reading.tooDeep(this.owner)) {
      return undefined;
    }
    const held = value.map((one, at) => {
      const before = reading.problems.length;
      const got = elementOf(this.each, one, reading);
      reading.below(`[${String(at)}]`, before);
      return got;
    });
    reading.level -= 1;
    if (reading.problems.length > start) {
      return undefined;
    }
    return this.inSize(this.holding(held), reading);
  }

  private inSize(held: unknown, reading: Reading): unknown {
    const { owner, field, limits } = this;
    const size = held instanceof Set ? [...(held as Set<unknown>)] : held;
    this.checked(() => {
      sized(owner, field, size as unknown[], limits, this.within);
      if (limits.unique === true) {
        distinct(owner, field, size as unknown[], limits);
      }
    }, reading);
    return held;
  }

  override write(held: unknown): unknown {
    return [...(held as Iterable<unknown>)].map((one) => this.each.write(one));
  }
}

/** A set, which records have as a sorted list. */
export class SetReader extends ListReader {
  override get isPlain(): boolean {
    return false;
  }

  protected override holding(values: unknown[]): unknown {
    return new Set(values);
  }

  override write(held: unknown): unknown {
    return (super.write(held) as unknown[]).sort(inOrder);
  }
}

function inOrder(one: unknown, other: unknown): number {
  return typeof one === "number"
    ? one - (other as number)
    : byCodePoint(one as string, other as string);
}

export class MapReader extends Reader {
  readonly wanted = "a record is wanted";
  readonly keys: Reader;
  readonly each: Reader;
  readonly limits: SizeLimits;

  constructor(
    owner: string,
    field: string,
    keys: Reader,
    each: Reader,
    limits: SizeLimits = {},
  ) {
    super(owner, field);
    this.keys = keys.inside("key.");
    this.each = each.inside("each.");
    this.limits = limits;
  }

  override get isPlain(): boolean {
    return false;
  }

  private key(name: string): unknown {
    return this.keys instanceof IntegerReader && WHOLE.test(name)
      ? Number(name)
      : name;
  }

  override quick(value: unknown, level: number): unknown {
    if (!isRecord(value) || level > MOST_LEVELS) {
      throw UNUSUAL;
    }
    const entries = Object.entries(value).map(([name, one]) => {
      const key = this.key(name);
      const read = this.each.quick(one, level + 1);
      return [this.keys.quick(key, level), read] as const;
    });
    return new Map(entries);
  }

  read(value: unknown, reading: Reading): unknown {
    if (!isRecord(value)) {
      return this.unfit(value, reading);
    }
    const start = reading.problems.length;
    if (reading.tooDeep(this.owner)) {
      return undefined;
    }
    const held = new Map<unknown, unknown>();
    for (const name of Object.keys(value).sort(byCodePoint)) {
      const before = reading.problems.length;
      const key = this.key(name);
      const read = this.keys.read(key, reading);
      held.set(read, elementOf(this.each, value[name], reading));
      const step = typeof key === "number" ? name : quoted(name);
      reading.below(`[${step}]`, before);
    }
    reading.level -= 1;
    const { owner, field, limits } = this;
    if (reading.problems.length === start) {
      this.checked(() => {
        sized(owner, field, [...held.keys()], limits, this.within);
      }, reading);
    }
    return held;
  }

  override write(held: unknown): unknown {
    const entries = [...(held as ReadonlyMap<unknown, unknown>)].map(
      ([key, one]) => [this.keys.write(key), this.each.write(one)] as const,
    );
    entries.sort(([one], [other]) => inOrder(one, other));
    return new Map(entries.map(([name, one]) => [String(name), one]));
  }
}

/** A field of a product: its name in records, its property, and whether it has to be there. */
export interface Entry {
  readonly name: string;
  readonly property: string;
  readonly reader: Reader;
  readonly optional?: boolean;
  /** What it has when it is not given; nothing where it is absent then. */
  readonly usual?: unknown;
}

/** What reads and writes a product. */
export interface Readable<T = unknown> {
  readonly owner: string;
  quick(record: unknown, level: number): T;
  read(record: Fields, reading: Reading): unknown;
  written(product: unknown): unknown;
}

/** How one concrete product is read and written. */
export interface ShapeSettings {
  /** The name of the kind. */
  readonly kind?: string;
  /** What may stand there. */
  readonly kinds?: readonly string[];
  readonly ignoresUnknown?: boolean;
  readonly writesAll?: boolean;
  /** Whether a product is of this kind. */
  readonly has?: (product: unknown) => boolean;
}

export class Shape<T> implements Readable<T> {
  readonly owner: string;
  readonly kinds: readonly string[];
  readonly has: (product: unknown) => boolean;
  private readonly make: (fields: Fields) => T;
  private readonly entries: readonly Entry[];
  private readonly settings: ShapeSettings;
  private readonly names: readonly string[];
  private readonly known: ReadonlySet<string>;
  private readonly steps: readonly Entry[];

  constructor(
    owner: string,
    make: (fields: Fields) => T,
    entries: readonly Entry[],
    settings: ShapeSettings = {},
  ) {
    this.owner = owner;
    this.make = make;
    this.entries = entries;
    this.settings = settings;
    this.kinds = settings.kinds ?? [];
    this.has = settings.has ?? (() => true);
    const { kind } = settings;
    const names = entries.map(({ name }) => name);
    this.names = kind === undefined ? names : [kind, ...names];
    this.known = new Set(this.names);
    this.steps = entries.filter(
      (each) => each.name !== each.property || !each.reader.isPlain,
    );
  }

  quick(record: unknown, level: number): T {
    if (!isRecord(record) || level > MOST_LEVELS) {
      throw UNUSUAL;
    }
    const { kind, ignoresUnknown } = this.settings;
    for (const name in record) {
      if (!this.known.has(name) && ignoresUnknown !== true) {
        throw UNUSUAL;
      }
    }
    if (kind !== undefined && !this.isOfKind(record[kind])) {
      throw UNUSUAL;
    }
    if (this.steps.length === 0 && ignoresUnknown !== true) {
      return this.make(record);
    }
    return this.make(this.converted(record, level));
  }

  private converted(record: Fields, level: number): Fields {
    const fields: Record<string, unknown> = {};
    for (const { name, property, reader } of this.entries) {
      const value = own(record, name);
      if (value != null) {
        fields[property] = reader.quick(value, level + 1);
      }
    }
    return fields;
  }

  private isOfKind(kind: unknown): boolean {
    return kind == null || this.kinds.includes(kind as string);
  }

  read(record: Fields, reading: Reading): T | undefined {
    const start = reading.problems.length;
    if (reading.tooDeep(this.owner)) {
      return undefined;
    }
    const { kind, ignoresUnknown } = this.settings;
    if (kind !== undefined && !this.isOfKind(own(record, kind))) {
      unknownKind(this.owner, kind, own(record, kind), this.kinds, reading);
    }
    const fields: Record<string, unknown> = {};
    for (const { name, property, reader, optional } of this.entries) {
      const value = own(record, name);
      const before = reading.problems.length;
      if (value != null) {
        fields[property] = reader.read(value, reading);
      } else if (optional !== true) {
        reader.missing(reading);
      }
      reading.below(stepTo(name), before);
    }
    if (ignoresUnknown !== true) {
      this.refuseOthers(record, reading);
    }
    reading.level -= 1;
    return reading.problems.length === start
      ? this.made(fields, reading)
      : undefined;
  }

  private made(fields: Fields, reading: Reading): T | undefined {
    try {
      return this.make(fields);
    } catch (error) {
      if (error instanceof LimitError) {
        const { field } = error;
        const entry = this.entries.find((each) => each.reader.field === field);
        reading.tell(ofLimit(error, stepTo(entry?.name ?? field)));
      } else if (error instanceof CreationError) {
        const { message, owner } = error;
        reading.tell(new Told("", message, owner, "", "refused"));
      } else {
        throw error;
      }
      return undefined;
    }
  }

  private refuseOthers(record: Fields, reading: Reading): void {
    for (const name of Object.keys(record).sort(byCodePoint)) {
      if (!this.known.has(name)) {
        const meant = nearest(name, this.names);
        const hint =
          meant === undefined ? "" : `; did you mean ${quoted(meant)}?`;
        const said = `${this.owner} has no such field${hint}`;
        reading.tell(new Told(stepTo(name), said, this.owner, name, "unknown"));
      }
    }
  }

  written(product: unknown): unknown {
    const record = new Map<string, unknown>();
    const { kind, writesAll } = this.settings;
    if (kind !== undefined) {
      record.set(kind, this.kinds[0]);  // «#told#»
    }
    const { entries } = this;  // «#entries#»
    put(record, product, entries, writesAll === true);
    return record;
  }
}

/** Puts what is written of fields into a record. */
function put(
  record: Map<string, unknown>,
  product: unknown,
  entries: readonly Entry[],
  writesAll: boolean,
): void {
  for (const { name, property, reader, optional, usual } of entries) {
    const held = (product as Fields)[property];
    const isUsual = optional === true && same(held, usual);
    if (!isUsual || writesAll) {
      record.set(name, held === undefined ? null : reader.write(held));
    }
  }
}

/** What all kinds of an abstract product have, which is written of those that are none of the declared. */
export interface KindSettings<T> {
  readonly byValues?: Shape<T>;
  readonly entries?: readonly Entry[];
  readonly ignoresUnknown?: boolean;
  readonly writesAll?: boolean;
}

/** How an abstract product is read and written: as the kind that its record tells, or, without one, by values. */
export class Kinds<T> implements Readable<T> {
  readonly owner: string;
  private readonly kind: string;
  private readonly shapes: readonly Shape<T>[];
  private readonly settings: KindSettings<T>;
  private readonly known: ReadonlyMap<unknown, Shape<T>>;

  constructor(
    owner: string,
    kind: string,
    shapes: readonly Shape<T>[],
    settings: KindSettings<T> = {},
  ) {
    this.owner = owner;
    this.kind = kind;
    this.shapes = shapes;
    this.settings = settings;
    this.known = new Map(
      shapes.flatMap((shape) => shape.kinds.map((name) => [name, shape])),
    );
  }

  /** The same with other kinds, which are made of what all kinds have. */
  also(
    keys: readonly string[],
    make: (key: string, fields: Fields) => T | undefined,
  ): Kinds<T> {
    const { entries, ignoresUnknown } = this.settings;
    const others = keys.map((key) => {
      const settings = {
        kind: this.kind,
        kinds: [key],
        ignoresUnknown: ignoresUnknown === true,
      };
      const made = (fields: Fields): T => make(key, fields) as T;
      return new Shape(this.owner, made, entries ?? [], settings);
    });
    return new Kinds(this.owner, this.kind, [...this.shapes, ...others]);
  }

  quick(record: unknown, level: number): T {
    if (!isRecord(record)) {
      throw UNUSUAL;
    }
    const kind = own(record, this.kind);
    const shape = kind == null ? this.settings.byValues : this.known.get(kind);
    if (shape === undefined) {
      throw UNUSUAL;
    }
    return shape.quick(record, level);
  }

  read(record: Fields, reading: Reading): T | undefined {
    const kind = own(record, this.kind);
    const shape = kind == null ? this.settings.byValues : this.known.get(kind);
    if (shape === undefined) {
      const known = [...this.known.keys()] as string[];
      return unknownKind(this.owner, this.kind, kind, known, reading);  // «#kind#»
    }
    return shape.read(record, reading);
  }

  written(product: unknown): unknown {
    const shape = this.shapes.find((each) => each.has(product));
    if (shape !== undefined) {
      return shape.written(product);
    }
    const { entries, writesAll } = this.settings;
    const record = new Map<string, unknown>();
    record.set(this.kind, (product as Fields)["key"]);
    put(record, product, entries ?? [], writesAll === true);
    return record;
  }
}

/** The keys that nobody declared. */
export function others(
  keys: readonly string[],
  declared: readonly string[],
): string[] {
  return keys.filter((key) => !declared.includes(key));
}

/** Makes a product of its record; a `RecordError` tells all that is wrong with it. */
export function fromRecord<T>(shape: Readable<T>, record: unknown): T {
  try {
    return shape.quick(record, 0);
  } catch (error) {
    if (
      error !== UNUSUAL &&
      !(error instanceof CreationError || error instanceof TypeError)
    ) {
      throw error;
    }
  }
  const { owner } = shape;
  if (!isRecord(record)) {
    const said = `${owner} is ${shownNode(record)}; a record is wanted`;
    const told = new Told("", said, owner, "", "type", undefined, record);
    throw new RecordError(owner, [told]);
  }
  const reading = new Reading();
  const made = shape.read(record, reading);
  if (reading.problems.length > 0) {
    throw new RecordError(owner, reading.told());
  }
  return made as T;
}

/** The record of a product, as `JSON.parse` would give it. */
export function toRecord(shape: Readable, product: unknown): Fields {
  return plainTree(shape.written(product)) as Fields;
}

/** The text of a product's record: no blanks, names in their order. */
export function toText(shape: Readable, product: unknown): string {
  return textOf(shape.written(product));
}

function plainTree(node: unknown): unknown {
  if (node instanceof Map) {
    const entries = [...(node as Map<string, unknown>)];
    return Object.fromEntries(
      entries.map(([name, one]) => [name, plainTree(one)]),
    );
  }
  return Array.isArray(node) ? node.map(plainTree) : node;
}

function textOf(node: unknown): string {
  if (node instanceof Map) {
    const entries = [...(node as Map<string, unknown>)];
    const parts = entries.map(
      ([name, one]) => `${JSON.stringify(name)}:${textOf(one)}`,
    );
    return `{${parts.join(",")}}`;
  }
  return Array.isArray(node)
    ? `[${node.map(textOf).join(",")}]`
    : JSON.stringify(node);
}

function isRecord(value: unknown): value is Fields {
  return typeof value === "object" && value !== null && !Array.isArray(value);
}

/** What a record itself has under a name. */
function own(record: Fields, name: string): unknown {
  return Object.hasOwn(record, name) ? record[name] : undefined;
}

function unknownKind(
  owner: string,
  name: string,
  kind: unknown,
  known: readonly string[],
  reading: Reading,
): undefined {
  const words = known.map(quoted).join(", ");
  const found = `is ${shownNode(kind)}; one of ${words} is wanted`;
  const said = `${owner}.${name} ${kind == null ? "is missing" : found}`;
  const limit = kind == null ? "missing" : "kind";
  reading.tell(
    new Told(stepTo(name), said, owner, name, limit, undefined, kind),
  );
}

/** What a factory by values makes, if it is of the kind that its record tells. */
export function ofKind<P>(
  made: { readonly key: string },
  key: string,
  owner: string,
): P {
  if (made.key !== key) {
    throw new RefusedError(owner, "such values make another kind");
  }
  return made as P;
}

/** Of a kind that its factory never makes. */
export function neverMade(owner: string): never {
  throw new RefusedError(owner, "nothing makes it");
}

/** The known name that is likely meant: the same but for case, or the one that takes the fewest changes. */
function nearest(name: string, known: readonly string[]): string | undefined {
  const lower = name.toLowerCase();
  const same = known.find((each) => each.toLowerCase() === lower);
  const length = Array.from(name).length;
  if (same !== undefined || length > FARTHEST) {
    return same;
  }
  const most = Math.max(Math.floor(length / 3), 1);
  let best: string | undefined;
  let fewest = most + 1;
  for (const each of known) {
    const changes = distance(Array.from(name), Array.from(each));
    if (changes < fewest) {
      best = each;
      fewest = changes;
    }
  }
  return best;
}

/** How many code points have to be put in, dropped or replaced (Levenshtein). */
function distance(one: readonly string[], other: readonly string[]): number {
  let row = [0, ...other.map((_, at) => at + 1)];
  one.forEach((char, at) => {
    const next = [at + 1];
    other.forEach((second, place) => {
      const changed = (row[place] ?? 0) + (char === second ? 0 : 1);
      const put = (row[place + 1] ?? 0) + 1;
      next.push(Math.min(changed, put, (next[place] ?? 0) + 1));
    });
    row = next;
  });
  return row[other.length] ?? 0;
}

/** What was found, in a message. */
function shownNode(value: unknown): string {
  if (typeof value === "string") {
    return quoted(value);
  }
  if (isRecord(value)) {
    return "a record";
  }
  return Array.isArray(value) ? "a list" : String(value);
}

/** The products that a list of records makes, and what is wrong with the others; nothing stops at the first. */
export function createAll<T>(
  records: unknown,
  read: (record: unknown) => T,
): { made: T[]; problems: RecordProblem[] } {
  const made: T[] = [];
  const problems: RecordProblem[] = [];
  if (!Array.isArray(records)) {
    const said = `the records are ${shownNode(records)}; a list is wanted`;
    problems.push(new Told("", said, "", "", "type", undefined, records));
    return { made, problems };
  }
  records.forEach((record, at) => {
    try {
      made.push(read(record));
    } catch (error) {
      if (!(error instanceof RecordError)) {
        throw error;
      }
      for (const each of error.problems) {
        problems.push(numbered(each as Told, at));
      }
    }
  });
  return { made, problems };
}

function numbered(problem: Told, record: number): Told {
  const { path } = problem;
  const apart = path === "" || path.startsWith("[") ? "" : ".";
  return problem.at(`[${String(record)}]${apart}${path}`, record);
}

/** The record of a JSON text (RFC 8259); a `RecordError` tells where it is ill-formed, or which names stand twice. */
export function parseRecord(source: string): unknown {
  let record: unknown;
  try {
    record = JSON.parse(source);
  } catch (error) {
    const said = error instanceof Error ? error.message : String(error);
    throw new RecordError("JSON", [new Told("", said, "JSON", "", "text")]);
  }
  const names = namesOf(record);
  if (colonsOf(source) === names || source.match(NAMES)?.length === names) {  // «#doubled#»
    return record;
  }
  const twice = doubled(source);
  if (twice.length > 0) {
    throw new RecordError("JSON", twice);
  }
  return record;
}

/** Names in a text, and what looks like one within a string: only where there are more than in its tree, some stand twice. */
const NAMES = /"[ \t\n\r]*:/g;

/** No fewer than the names of a text, and found faster: as many as that, where no string has a colon. */
function colonsOf(source: string): number {
  let count = 0;
  let at = source.indexOf(":");
  while (at >= 0) {
    count += 1;
    at = source.indexOf(":", at + 1);
  }
  return count;
}

function namesOf(record: unknown): number {
  let count = 0;
  const left: object[] = [];
  const look = (node: unknown): void => {
    if (typeof node === "object" && node !== null) {
      left.push(node);
    }
  };
  look(record);
  for (let node = left.pop(); node !== undefined; node = left.pop()) {
    if (Array.isArray(node)) {
      node.forEach(look);
      continue;
    }
    const values: unknown[] = Object.values(node);
    count += values.length;
    values.forEach(look);
  }
  return count;
}

const MARKS = /"(?:[^"\\]|\\.)*"|[{}[\],:]/gs;

/** An object or list of a text, as it is gone through. */
interface Open {
  readonly names: Set<string> | undefined;
  place: string;
  at: number;
}

/** The names that stand twice in an object of a text that is well-formed; `JSON.parse` takes the last of them. */
function doubled(source: string): RecordProblem[] {
  const problems: RecordProblem[] = [];
  const open: Open[] = [];
  let last = "";
  for (const [mark] of source.matchAll(MARKS)) {
    const inner = open.at(-1);
    if (mark === "{" || mark === "[") {
      open.push({
        names: mark === "{" ? new Set() : undefined,
        place: mark === "[" ? "[0]" : "",
        at: 0,
      });
    } else if (mark === "}" || mark === "]") {
      open.pop();
    } else if (inner?.names === undefined) {
      if (mark === "," && inner !== undefined) {
        inner.at += 1;
        inner.place = `[${String(inner.at)}]`;
      }
    } else if (mark === ":") {
      const name = JSON.parse(last) as string;
      inner.place = stepTo(name);
      if (inner.names.has(name)) {
        const path = open.map(({ place }) => place).join("");
        const said = "this name stands there twice";
        const from = path.startsWith(".") ? path.slice(1) : path;
        problems.push(new Told(from, said, "JSON", name, "twice"));
      }
      inner.names.add(name);
    }
    last = mark;
  }
  return problems;
}
