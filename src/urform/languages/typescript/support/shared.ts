// What the tests share: comparisons, expected refusals, collected memory.

import assert from "node:assert/strict";
import { setTimeout as pause } from "node:timers/promises";
import { setFlagsFromString } from "node:v8";
import { runInNewContext } from "node:vm";

import { CreationError, LimitError } from "CODE/index.js";

/** A value has this content, and its numbers are just these: 0 is not -0. */
export function is(found: unknown, expected: unknown): void {
  if (!alike(found, expected)) {
    fail(found, expected, "is");
  }
}

/** Two products are equal, seen from either. */
export function equal(one: Product, other: Product): void {
  if (!one.equals(other) || !other.equals(one)) {
    fail(one, other, "equals");
  }
}

/** Two products are not equal, seen from either. */
export function unequal(one: Product, other: Product): void {
  if (one.equals(other) || other.equals(one)) {
    fail(one, `not ${String(other)}`, "differs from");
  }
}

/** Two values are the very same object. */
export function sameObject(one: unknown, other: unknown): void {
  if (one !== other) {
    fail(one, `${String(other)}, the same object`, "is");
  }
}

/** Two values are two objects. */
export function notSameObject(one: unknown, other: unknown): void {
  if (one === other) {
    fail(one, "another object", "is");
  }
}

/** A value is of just this class. A hidden class has a name only. */
export function kind(found: unknown, expected: Class | string): void {
  kinds([found], [expected]);
}

/** Values are of just these classes, in this order. */
export function kinds(
  found: readonly unknown[],
  expected: readonly (Class | string)[],
): void {
  const classes = found.map((each) => (each as object).constructor);
  const all = classes.every((each, at) => {
    const wanted = expected[at];
    return typeof wanted === "string" ? each.name === wanted : each === wanted;
  });
  if (!all || found.length !== expected.length) {
    const names = expected.map((each) =>
      typeof each === "string" ? each : each.name,
    );
    fail(classes.map((each) => each.name).join(), names.join(), "is a");
  }
}

/** A call is refused for just this reason. */
export function refused(expected: CreationError, call: () => unknown): void {
  let found: unknown;
  try {
    found = call();
  } catch (error) {
    found = error;
  }
  if (
    !(found instanceof CreationError) ||
    !alike(data(found), data(expected)) ||
    found.message !== (words.get(expected) ?? found.message)
  ) {
    fail(found, `refusal ${String(expected)}`, "is");
  }
}

/** A call fails with this error, as it was thrown. */
export function throwsAgain(expected: Error, call: () => unknown): void {
  assert.throws(call, (error) => error === expected);
}

/** The fields of a product cannot be assigned. */
export function fixed(product: object, fields: object): void {
  assert.throws(() => Object.assign(product, fields), TypeError);
}

/** Empties a collection, unless that is refused. */
export function tryToEmpty(values: unknown): void {
  try {
    if (Array.isArray(values)) {
      values.length = 0;
    } else {
      (values as Set<unknown> | Map<unknown, unknown>).clear();
    }
  } catch (error) {
    assert.ok(error instanceof TypeError);
  }
}

/** An array of the same value, several times. */
export function repeated<V>(value: V, times: number): V[] {
  return Array.from({ length: times }, () => value);
}

/** What a call gives, held by nothing else here. */
export function weakly<V extends object>(make: () => V): WeakRef<V> {
  return new WeakRef(make());
}

/** Waits until nothing holds these any more, but not for ever. */
export async function collected(
  ...references: readonly WeakRef<object>[]
): Promise<void> {
  setFlagsFromString("--expose-gc");
  const collect = runInNewContext("gc") as () => void;
  for (let tries = 0; tries < 100; tries += 1) {
    await pause(1);
    collect();
    if (references.every((each) => each.deref() === undefined)) {
      return;
    }
  }
}

interface Product {
  equals(other: unknown): boolean;
}

interface Class {
  readonly name: string;
  readonly prototype: unknown;
}

function alike(one: unknown, other: unknown): boolean {
  if (Array.isArray(one) && Array.isArray(other)) {
    return (
      one.length === other.length &&
      one.every((each, at) => alike(each, other[at]))
    );
  }
  if (one instanceof Set && other instanceof Set) {
    return one.size === other.size && [...one].every((each) => other.has(each));
  }
  if (one instanceof Map && other instanceof Map) {
    return (
      one.size === other.size &&
      [...one].every(
        ([key, each]) => other.has(key) && alike(each, other.get(key)),
      )
    );
  }
  return Object.is(one, other) || (isProduct(one) && one.equals(other));
}

function isProduct(value: unknown): value is Product {
  return typeof value === "object" && value !== null && "equals" in value;
}

/** The words that errors are expected to say. */
const words = new WeakMap<CreationError, string>();

/** An expected error that says this. */
export function saying(said: string, error: LimitError): LimitError {
  words.set(error, said);
  return error;
}

/** What an error has to have: of a limit not the value, for its message tells that. */
function data(error: CreationError): unknown[] {
  if (error instanceof LimitError) {
    return [LimitError, error.owner, error.field, error.limit, error.bound];
  }
  return [error.constructor, error.message, ...Object.values(error)];
}

function fail(actual: unknown, expected: unknown, operator: string): never {
  throw new assert.AssertionError({
    actual: inWords(actual),
    expected: inWords(expected),
    operator,
    stackStartFn: fail,
  });
}

function inWords(value: unknown): string {
  return Array.isArray(value)
    ? `[${value.map(inWords).join()}]`
    : String(value);
}
