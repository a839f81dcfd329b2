/* eslint-disable @typescript-eslint/no-unnecessary-condition -- what callers give is checked at run time too */
// The limits. Each check gives back the value as it is to be held.

import { LimitError, MissingFieldsError } from "./errors.js";

import { isCalendarDate, type CalendarDate } from "./dates.js";

import { compareInstants, instantOf, type Instant } from "./instants.js";

import { compareDecimals, decimalOf, type Decimal } from "./decimals.js";

import { compareDurations, durationOf, type Duration } from "./durations.js";

import { timeOfDayOf, type TimeOfDay } from "./times.js";

import { isUuid, type Uuid } from "./uuids.js";

export interface NumberLimits {
  readonly min?: number;
  readonly max?: number;
  readonly above?: number;
  readonly below?: number;
  readonly oneOf?: readonly number[];
}

export interface OrderedLimits {
  readonly min?: string;
  readonly max?: string;
  readonly above?: string;
  readonly below?: string;
}

export interface TextLimits {
  readonly notBlank?: boolean;
  readonly minLength?: number;
  readonly maxLength?: number;
  readonly oneOf?: readonly string[];
  /** It stands in no error. */
  readonly secret?: boolean;
}

export interface SizeLimits {
  readonly minLength?: number;
  readonly maxLength?: number;
  /** An empty collection may be shorter. */
  readonly unlessEmpty?: boolean;
  /** No element of a list stands twice. */
  readonly unique?: boolean;
  /** No element stands in an error. */
  readonly secret?: boolean;
}

const NO_LIMITS: SizeLimits = Object.freeze({});

/** What says which fields are missing, all of those that are null or undefined. */
export function missing(
  owner: string,
  fields: Readonly<Record<string, unknown>>,
): MissingFieldsError {
  const names = Object.keys(fields).filter((name) => fields[name] == null);
  return new MissingFieldsError(owner, names);
}

/** What says why a value cannot stand in a field: it is missing, or of another type. */
function misfit(
  owner: string,
  field: string,
  value: unknown,
  within: string,
  wanted: string,
): Error {
  return value == null
    ? new MissingFieldsError(owner, [field])
    : new LimitError(owner, field, `${within}type`, undefined, value, wanted);
}

/** A value that has passed a check, if there is one. */
export function ifGiven<V>(
  value: V | null | undefined,
  check: (value: V) => V,
): V | undefined {
  return value == null ? undefined : check(value);
}

/** A whole number within its limits, and within those that a double holds exactly; `within` is "each." for an element. */
export function integer(
  owner: string,
  field: string,
  value: number,
  limits: NumberLimits = {},
  within = "",
): number {
  if (!Number.isInteger(value)) {
    throw misfit(owner, field, value, within, "an integer");
  }
  bounded(owner, field, value, limits, within, "an integer");
  if (!Number.isSafeInteger(value)) {
    throw misfit(owner, field, value, within, "an integer");
  }
  return value;
}

/** A number, whatever its limits: what conditions can compare. */
export function number(owner: string, field: string, value: number): number {
  if (typeof value !== "number") {
    throw misfit(owner, field, value, "", "a number");
  }
  return value;
}

/** A finite number within its limits, never -0. */
export function real(
  owner: string,
  field: string,
  value: number,
  limits: NumberLimits = {},
  within = "",
): number {
  if (typeof value !== "number") {
    throw misfit(owner, field, value, within, "a number");
  }
  if (!Number.isFinite(value)) {
    throw new LimitError(
      owner,
      field,
      `${within}finite`,
      undefined,
      value,
      "a number",
    );
  }
  bounded(owner, field, value, limits, within, "a number");
  return value + 0;
}

type Order = (one: string, other: string) => number;

const BY_TEXT: Order = (one, other) => (one < other ? -1 : one > other ? 1 : 0);

/** A day within its limits. */
export function calendarDate(
  owner: string,
  field: string,
  value: CalendarDate,
  limits: OrderedLimits = {},
  within = "",
): CalendarDate {
  if (typeof value !== "string") {
    throw misfit(owner, field, value, within, "a date");
  }
  if (!isCalendarDate(value)) {
    throw new LimitError(owner, field, `${within}date`, undefined, value);
  }
  return withinLimits(owner, field, value, limits, within, BY_TEXT);
}

/** A point in time within its limits, in UTC. */
export function instantWithin(
  owner: string,
  field: string,
  value: Instant,
  limits: OrderedLimits = {},
  within = "",
): Instant {
  return told(owner, field, value, limits, within, INSTANTS);
}

const INSTANTS: Form<Instant> = {
  limit: "instant",
  wanted: "an instant",
  of: instantOf,
  order: compareInstants,
};

/** A time of day within its limits. */
export function timeWithin(
  owner: string,
  field: string,
  value: TimeOfDay,
  limits: OrderedLimits = {},
  within = "",
): TimeOfDay {
  return told(owner, field, value, limits, within, TIMES);
}

const TIMES: Form<TimeOfDay> = {
  limit: "time",
  wanted: "a time of day",
  of: timeOfDayOf,
  order: BY_TEXT,
};

/** A length of time within its limits. */
export function durationWithin(
  owner: string,
  field: string,
  value: Duration,
  limits: OrderedLimits = {},
  within = "",
): Duration {
  return told(owner, field, value, limits, within, DURATIONS);
}

const DURATIONS: Form<Duration> = {
  limit: "duration",
  wanted: "a duration",
  of: durationOf,
  order: compareDurations,
  counted: true,
};

/** A decimal number within its limits, without zeros at its end. */
export function decimalWithin(
  owner: string,
  field: string,
  value: Decimal,
  limits: OrderedLimits = {},
  within = "",
): Decimal {
  return told(owner, field, value, limits, within, DECIMALS);
}

const DECIMALS: Form<Decimal> = {
  limit: "decimal",
  wanted: "a decimal number",
  of: decimalOf,
  order: compareDecimals,
  counted: true,
};

/** How texts of a type are read, and the order of their values. */
interface Form<T extends string> {
  readonly limit: string;
  readonly wanted: string;
  readonly of: (text: string) => T | undefined;
  readonly order: Order;
  /** It is neither earlier nor later than another, but less or more. */
  readonly counted?: boolean;
}

/** What a text tells, as products hold it, within its limits. */
function told<T extends string>(
  owner: string,
  field: string,
  value: T,
  limits: OrderedLimits,
  within: string,
  { limit, wanted, of, order, counted }: Form<T>,
): T {
  if (typeof value !== "string") {
    throw misfit(owner, field, value, within, wanted);
  }
  const held = of(value);
  if (held === undefined) {
    throw new LimitError(owner, field, within + limit, undefined, value);
  }
  const said = counted === true ? wanted : undefined;
  return withinLimits(owner, field, held, limits, within, order, said);
}

/** A value within its limits, in the order of its type; `wanted` is told of what is no time. */
function withinLimits<T extends string>(
  owner: string,
  field: string,
  value: T,
  { min, max, above, below }: OrderedLimits,
  within: string,
  order: Order,
  wanted?: string,
): T {
  if (min !== undefined && order(value, min) < 0) {
    throw new LimitError(owner, field, `${within}min`, min, value, wanted);
  }
  if (max !== undefined && order(value, max) > 0) {
    throw new LimitError(owner, field, `${within}max`, max, value, wanted);
  }
  if (above !== undefined && order(value, above) <= 0) {
    throw new LimitError(owner, field, `${within}above`, above, value, wanted);
  }
  if (below !== undefined && order(value, below) >= 0) {
    throw new LimitError(owner, field, `${within}below`, below, value, wanted);
  }
  return value;
}

/** A UUID, in lower case. */
export function uuidOf(
  owner: string,
  field: string,
  value: Uuid,
  _limits?: object,
  within = "",
): Uuid {
  if (typeof value !== "string") {
    throw misfit(owner, field, value, within, "a UUID");
  }
  if (!isUuid(value)) {
    throw new LimitError(owner, field, `${within}uuid`, undefined, value);
  }
  return value.toLowerCase() as Uuid;
}

function bounded(
  owner: string,
  field: string,
  value: number,
  { min, max, above, below, oneOf }: NumberLimits,
  within: string,
  wanted: string,
): void {
  if (min !== undefined && value < min) {
    throw new LimitError(owner, field, `${within}min`, min, value, wanted);
  }
  if (max !== undefined && value > max) {
    throw new LimitError(owner, field, `${within}max`, max, value, wanted);
  }
  if (above !== undefined && value <= above) {
    throw new LimitError(owner, field, `${within}above`, above, value, wanted);
  }
  if (below !== undefined && value >= below) {
    throw new LimitError(owner, field, `${within}below`, below, value, wanted);
  }
  if (oneOf !== undefined && !oneOf.includes(value)) {
    throw new LimitError(owner, field, `${within}one_of`, oneOf, value, wanted);
  }
}

/** A text within its limits; its length counts code points. */
export function text(
  owner: string,
  field: string,
  value: string,
  { notBlank, minLength, maxLength, oneOf, secret }: TextLimits = {},
  within = "",
): string {
  const outside = (limit: string, bound?: unknown): LimitError =>
    new LimitError(
      owner,
      field,
      within + limit,
      bound,
      secret === true ? undefined : value,
      "a text",
    );
  if (typeof value !== "string") {
    throw value == null
      ? new MissingFieldsError(owner, [field])
      : outside("type");
  }
  if (notBlank && isBlank(value)) {
    throw outside("not_blank");
  }
  if (minLength !== undefined && isShorter(value, minLength)) {
    throw outside("min_length", minLength);
  }
  if (maxLength !== undefined && !isShorter(value, maxLength + 1)) {
    throw outside("max_length", maxLength);
  }
  if (oneOf !== undefined && !oneOf.includes(value)) {
    throw outside("one_of", oneOf);
  }
  return value;
}

/** Whether a text has fewer code points; they are counted only where the units, one or two for each, do not tell. */
function isShorter(value: string, length: number): boolean {
  return (
    value.length < length ||
    (value.length < 2 * length && codePoints(value) < length)
  );
}

/** True or false, and nothing that is like them. */
export function truth(
  owner: string,
  field: string,
  value: boolean,
  within = "",
): boolean {
  if (typeof value !== "boolean") {
    throw misfit(owner, field, value, within, "true or false");
  }
  return value;
}

/** Tells an array without taking its elements for anything. */
function isArray(value: unknown): boolean {
  return Array.isArray(value);
}

/** What `instanceof` takes, its constructor public or not. */
interface Class<B> {
  readonly name: string;
  readonly prototype: B;
  [Symbol.hasInstance](value: unknown): boolean;
}

/** A product of a class, and nothing that looks like one. */
export function instance<P extends B, B>(
  owner: string,
  field: string,
  value: P,
  of: Class<B>,
  within = "",
): P {
  if (!(value instanceof of)) {
    throw misfit(owner, field, value, within, `one of type ${of.name}`);
  }
  return value;
}

/** A product that its own module tells for one, since its class is hidden there. */
export function confirmed<P>(
  owner: string,
  field: string,
  value: P,
  isOne: (value: unknown) => boolean,
  within = "",
): P {
  if (!isOne(value)) {
    throw misfit(owner, field, value, within, "a product of its type");
  }
  return value;
}

/** One of the words. */
export function choice<C extends string>(
  owner: string,
  field: string,
  value: C,
  words: readonly C[],
  within = "",
): C {
  if (value == null) {
    throw misfit(owner, field, value, within, "a word");
  }
  if (!words.includes(value)) {
    throw new LimitError(owner, field, `${within}choice`, undefined, value);
  }
  return value;
}

/** What all empty lists have in common. */
const NOTHING: readonly never[] = Object.freeze([]);

/** The elements, in order, in an array that does not change. */
export function list<V>(
  owner: string,
  field: string,
  values: readonly V[],
  each?: (value: V) => V,
  limits?: SizeLimits,
  within = "",
): readonly V[] {
  if (!isArray(values)) {
    throw misfit(owner, field, values, within, "an array");
  }
  if (values.length === 0 && limits === undefined) {
    return NOTHING;
  }
  const held: V[] = [...values];
  sized(owner, field, held, limits ?? NO_LIMITS, within);
  if (each !== undefined) {
    for (let at = 0; at < held.length; at += 1) {
      held[at] = each(held[at] as V);
    }
  }
  if (limits?.unique === true) {
    distinct(owner, field, held, limits);
  }
  return Object.freeze(held);
}

/** No element stands twice. */
export function distinct(
  owner: string,
  field: string,
  held: readonly unknown[],
  { secret }: SizeLimits,
): void {
  const before = new Set<unknown>();
  for (const one of held) {
    if (before.has(one)) {
      const told = secret === true ? undefined : one;
      throw new LimitError(owner, field, "unique", undefined, told);
    }
    before.add(one);
  }
}

/** The same list with another element at a place that there is. */
export function placed<V>(held: readonly V[], at: number, value: V): V[] {
  const values = [...held];
  values[there(held, at)] = value;
  return values;
}

/** The same list without the element at a place that there is. */
export function without<V>(held: readonly V[], at: number): V[] {
  const values = [...held];
  values.splice(there(held, at), 1);
  return values;
}

function there(held: readonly unknown[], at: number): number {
  if (!Number.isInteger(at) || at < 0 || at >= held.length) {
    const places = String(held.length);
    throw new RangeError(`there is no place ${String(at)} among ${places}`);
  }
  return at;
}

/** The elements, each once and sorted, in a set that does not change. */
export function set<V extends string | number>(
  owner: string,
  field: string,
  values: ReadonlySet<V>,
  each?: (value: V) => V,
  limits: SizeLimits = NO_LIMITS,
  within = "",
): ReadonlySet<V> {
  if (!((values as unknown) instanceof Set)) {
    throw misfit(owner, field, values, within, "a Set");
  }
  const held: V[] = [...new Set<V>(values)];
  sized(owner, field, held, limits, within);
  const kept = each === undefined ? held : held.map((one) => each(one));
  return new FrozenSet(kept.sort(inOrder));
}

/** The entries, sorted by key, in a map that does not change; limits are those of its values. */
export function map<K extends string | number, V>(
  owner: string,
  field: string,
  values: ReadonlyMap<K, V>,
  each?: (value: V) => V,
  limits: SizeLimits = NO_LIMITS,
  within = "",
  keys?: (key: K) => K,
): ReadonlyMap<K, V> {
  if (!((values as unknown) instanceof Map)) {
    throw misfit(owner, field, values, within, "a Map");
  }
  const entries: [K, V][] = [...values].sort(([one], [other]) =>
    inOrder(one, other),
  );
  const held = entries.map(([, value]) => value);
  sized(owner, field, held, limits, within);
  const named =
    keys === undefined
      ? entries
      : entries.map(([key, value]): [K, V] => [keys(key), value]);
  return new FrozenMap(
    each === undefined
      ? named
      : named.map(([key, value]): [K, V] => [key, each(value)]),
  );
}

export function sized(
  owner: string,
  field: string,
  held: readonly unknown[],
  { minLength, maxLength, unlessEmpty }: SizeLimits,
  within: string,
): void {
  const isFree = unlessEmpty === true && held.length === 0;
  if (minLength !== undefined && held.length < minLength && !isFree) {
    throw new LimitError(
      owner,
      field,
      `${within}min_length`,
      minLength,
      held.length,
    );
  }
  if (maxLength !== undefined && held.length > maxLength) {
    throw new LimitError(
      owner,
      field,
      `${within}max_length`,
      maxLength,
      held.length,
    );
  }
  for (let at = 0; at < held.length; at += 1) {
    if (held[at] == null) {
      throw new MissingFieldsError(owner, [field]);
    }
  }
}

/** Whether a text is nothing but U+0009 to U+000D and U+0020. */
export function isBlank(value: string): boolean {
  for (let at = 0; at < value.length; at += 1) {
    const unit = value.charCodeAt(at);
    if (unit !== 0x20 && (unit < 0x09 || unit > 0x0d)) {
      return false;
    }
  }
  return true;
}

/** The number of code points. */
export function codePoints(value: string): number {
  let count = 0;
  for (let at = 0; at < value.length; at += 1) {
    const unit = value.charCodeAt(at);
    const next = value.charCodeAt(at + 1);
    const isPair = (unit & 0xfc00) === 0xd800 && (next & 0xfc00) === 0xdc00;
    at += isPair ? 1 : 0;
    count += 1;
  }
  return count;
}

/** The order of texts by code point; that of UTF-16 units, which `<` has, is another one. */
export function byCodePoint(one: string, other: string): number {
  const shared = Math.min(one.length, other.length);
  for (let at = 0; at < shared; at += 1) {
    const left = one.charCodeAt(at);
    const right = other.charCodeAt(at);
    if (left !== right) {
      return rank(left) - rank(right);
    }
  }
  return one.length - other.length;
}

/** Code points beyond U+FFFF are pairs of surrogates, and come after U+E000 to U+FFFF. */
function rank(unit: number): number {
  return unit >= 0xd800 && unit <= 0xdfff ? unit + 0x10000 : unit;
}

function inOrder(one: string | number, other: string | number): number {
  return typeof one === "number" && typeof other === "number"
    ? one - other
    : byCodePoint(String(one), String(other));
}

/** Whether two values have the same content, collections and products within included. */
export function same(one: unknown, other: unknown): boolean {
  if (one === other) {
    return true;
  }
  if (Array.isArray(one)) {
    return (
      Array.isArray(other) &&
      one.length === other.length &&
      one.every((each, at) => same(each, other[at]))
    );
  }
  if (one instanceof Set) {
    return (
      other instanceof Set &&
      one.size === other.size &&
      [...one].every((each) => other.has(each))
    );
  }
  if (one instanceof Map) {
    return (
      other instanceof Map &&
      one.size === other.size &&
      [...one].every(
        ([key, value]) => other.has(key) && same(value, other.get(key)),
      )
    );
  }
  return hasEquals(one) && one.equals(other);
}

function hasEquals(
  value: unknown,
): value is { equals(other: unknown): boolean } {
  return (
    typeof value === "object" &&
    value !== null &&
    "equals" in value &&
    typeof value.equals === "function"
  );
}

/** A builder's own array, perhaps of copies; what is no array is kept for the build to refuse. */
export function ownList<V>(values: readonly V[], each?: (value: V) => V): V[] {
  if (!isArray(values)) {
    return values as V[];
  }
  if (each === undefined) {
    return [...values];
  }
  return values.map((one) => (one == null ? one : each(one)));
}

/** A builder's own set; what is none is kept for the build to refuse. */
export function ownSet<V>(values: ReadonlySet<V>): Set<V> {
  return (values as unknown) instanceof Set
    ? new Set(values)
    : (values as Set<V>);
}

/** A builder's own map, perhaps of copies; what is no map is kept for the build to refuse. */
export function ownMap<K, V>(
  values: ReadonlyMap<K, V>,
  each?: (value: V) => V,
): Map<K, V> {
  if (!((values as unknown) instanceof Map)) {
    return values as Map<K, V>;
  }
  return mapValues(values, (one) =>
    each === undefined || one == null ? one : each(one),
  );
}

/** The map that stands in another one under a key, made if need be. */
export function within<O, K, V>(outer: Map<O, Map<K, V>>, key: O): Map<K, V> {
  let inner = outer.get(key);
  if (inner === undefined) {
    inner = new Map();
    outer.set(key, inner);
  }
  return inner;
}

/** A map of the same keys with other values. */
export function mapValues<K, V>(
  values: ReadonlyMap<K, V>,
  each: (value: V) => V,
): Map<K, V> {
  return new Map([...values].map(([key, value]): [K, V] => [key, each(value)]));
}

/** The same in a map that does not change. */
export function frozenValues<K, V>(
  values: ReadonlyMap<K, V>,
  each: (value: V) => V,
): ReadonlyMap<K, V> {
  return new FrozenMap(mapValues(values, each));
}

/** Fields as `JSON.stringify` can write them: sets as arrays, maps as objects. */
export function json(
  fields: Readonly<Record<string, unknown>>,
): Record<string, unknown> {
  const entries = Object.entries(fields);
  return Object.fromEntries(
    entries.map(([name, value]) => [name, plain(value)]),
  );
}

function plain(value: unknown): unknown {
  if (Array.isArray(value)) {
    return value.map(plain);
  }
  if (value instanceof Set) {
    return [...value].map(plain);
  }
  if (value instanceof Map) {
    const entries = [...value].map(([key, one]) => [String(key), plain(one)]);
    return Object.fromEntries(entries) as Record<string, unknown>;
  }
  return value;
}

/** The name of the method that Node's `console.log` asks for. */
export const INSPECT: unique symbol = Symbol.for("nodejs.util.inspect.custom");

/** A product in words, for people. */
export function shown(
  name: string,
  fields: Readonly<Record<string, unknown>>,
): string {
  const parts = Object.entries(fields).map(
    ([field, value]) => `${field}: ${inWords(value)}`,
  );
  return `${name}(${parts.join(", ")})`;
}

function inWords(value: unknown): string {
  if (typeof value === "string") {
    return JSON.stringify(value);
  }
  if (Array.isArray(value)) {
    return `[${value.map(inWords).join(", ")}]`;
  }
  if (value instanceof Set) {
    return `{${[...value].map(inWords).join(", ")}}`;
  }
  if (value instanceof Map) {
    const entries = [...value].map(
      ([key, one]) => `${inWords(key)}: ${inWords(one)}`,
    );
    return `{${entries.join(", ")}}`;
  }
  return value === undefined
    ? "none"
    : (value as { toString(): string }).toString();
}

class FrozenSet<V> extends Set<V> {
  constructor(values: Iterable<V>) {
    super(values);
    Object.freeze(this);
  }

  override add(value: V): this {
    refuseIfFrozen(this);
    return super.add(value);
  }

  override delete(): boolean {
    throw new TypeError("this set does not change");
  }

  override clear(): void {
    throw new TypeError("this set does not change");
  }
}

class FrozenMap<K, V> extends Map<K, V> {
  constructor(entries: Iterable<readonly [K, V]>) {
    super(entries);
    Object.freeze(this);
  }

  override set(key: K, value: V): this {
    refuseIfFrozen(this);
    return super.set(key, value);
  }

  override delete(): boolean {
    throw new TypeError("this map does not change");
  }

  override clear(): void {
    throw new TypeError("this map does not change");
  }
}

function refuseIfFrozen(values: object): void {
  if (Object.isFrozen(values)) {
    throw new TypeError("this collection does not change");
  }
}
