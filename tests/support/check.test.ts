import assert from "node:assert/strict";
import { test } from "node:test";

import {
  byCodePoint,
  choice,
  codePoints,
  integer,
  isBlank,
  list,
  map,
  mapValues,
  missing,
  ownList,
  ownMap,
  ownSet,
  real,
  same,
  set,
  shown,
  text,
  truth,
} from "PACKAGE/check.js";
import {
  CreationError,
  DuplicateKeyError,
  LimitError,
  MissingFieldsError,
  RefusedError,
  UnknownKeyError,
} from "PACKAGE/errors.js";

function breaks(limit: string, call: () => unknown): void {
  assert.throws(call, (error) => {
    assert.ok(error instanceof LimitError);
    assert.equal(error.limit, limit);
    return true;
  });
}

test("errors tell what they know", () => {
  const errors: [CreationError, string, string][] = [
    [new MissingFieldsError("Buoy", ["a", "b"]), "Buoy: missing a, b", "MissingFieldsError"],
    [new LimitError("Mark", "station", "min", 1, 0), "Mark.station is 0; at least 1 is allowed", "LimitError"],
    [new LimitError("Leg", "label", "not_blank"), "Leg.label: a text that is not blank is wanted", "LimitError"],
    [new UnknownKeyError("Mark", "a", ["x", "y"]), 'Mark: unknown key "a", known: x, y', "UnknownKeyError"],
    [new DuplicateKeyError("Mark", "x"), 'Mark: key "x" is taken', "DuplicateKeyError"],
    [new RefusedError("TideOffset", "too low"), "TideOffset: refused, too low", "RefusedError"],
  ];
  for (const [error, message, name] of errors) {
    assert.equal(error.message, message);
    assert.equal(error.name, name);
    assert.ok(error instanceof Error);
  }
});

test("what is missing is named, all of it", () => {
  const error = missing("Buoy", { a: undefined, b: 0, c: null, d: "" });
  assert.ok(error instanceof MissingFieldsError);
  assert.deepEqual([error.owner, error.fields], ["Buoy", ["a", "c"]]);
  for (const nothing of [null as never, undefined as never]) {
    for (const check of [
      () => integer("Buoy", "a", nothing),
      () => real("Buoy", "a", nothing),
      () => text("Buoy", "a", nothing),
      () => truth("Buoy", "a", nothing),
      () => choice("Buoy", "a", nothing, ["port"]),
      () => list("Buoy", "a", nothing),
      () => set("Buoy", "a", nothing),
      () => map("Buoy", "a", nothing),
    ]) {
      assert.throws(
        check,
        (error) => error instanceof MissingFieldsError && error.fields.join() === "a",
      );
    }
  }
});

test("numbers are whole, finite and never -0", () => {
  for (const misfit of [1.5, NaN, Infinity, 2 ** 53, "1" as never]) {
    breaks("type", () => integer("X", "f", misfit));
  }
  assert.equal(integer("X", "f", -(2 ** 53 - 1)), -(2 ** 53 - 1));
  for (const strange of [NaN, Infinity, -Infinity]) {
    breaks("finite", () => real("X", "f", strange));
  }
  breaks("type", () => real("X", "f", "1" as never));
  assert.ok(Object.is(real("X", "f", -0), 0));
  breaks("above", () => real("X", "f", 0, { above: 0 }));
  breaks("each.max", () => integer("X", "f", 4, { max: 3 }, "each."));
  breaks("one_of", () => integer("X", "f", 4, { oneOf: [3, 5] }));
});

test("blank is six characters", () => {
  assert.ok(isBlank(""));
  assert.ok(isBlank(" \t\n\v\f\r"));
  for (const other of ["\u00a0", "\u0085", "\u2028", "\x1c"]) {
    assert.ok(!isBlank(other));
  }
});

test("lengths count code points", () => {
  assert.equal(codePoints("🛟!"), 2);
  assert.equal(codePoints("\ud83d"), 1);
  assert.equal(codePoints("\ude9f\ud83d"), 2);
  assert.equal(text("X", "f", "🛟🛟", { maxLength: 2 }), "🛟🛟");
  breaks("max_length", () => text("X", "f", "🛟🛟", { maxLength: 1 }));
});

test("texts are ordered by code point", () => {
  assert.deepEqual(["🛟", "\uffff", "b", "ab", "a"].sort(byCodePoint), ["a", "ab", "b", "\uffff", "🛟"]);
});

test("a choice is one of its words", () => {
  assert.equal(choice("X", "f", "a", ["a", "b"]), "a");
  breaks("key.choice", () => choice("X", "f", "c" as string, ["a", "b"], "key."));
});

test("collections are own, sorted and do not change", () => {
  const given = ["b", "a"];
  const held = list("X", "f", given);
  given.length = 0;
  assert.deepEqual(held, ["b", "a"]);
  assert.throws(() => (held as string[]).push("c"), TypeError);

  const words = set("X", "f", new Set(["b", "🛟", "\uffff", "a"]));
  assert.deepEqual([...words], ["a", "b", "\uffff", "🛟"]);
  for (const change of ["add", "delete", "clear"] as const) {
    assert.throws(() => (words as Set<string>)[change]("a"), TypeError);
  }

  const entries = map("X", "f", new Map([[10, "x"], [9, "y"]]), (each) => each.toUpperCase());
  assert.deepEqual([...entries], [[9, "Y"], [10, "X"]]);
  assert.throws(() => (entries as Map<number, string>).set(1, "z"), TypeError);
  assert.throws(() => (entries as Map<number, string>).delete(9), TypeError);
  assert.throws(() => (entries as Map<number, string>).clear(), TypeError);
});

test("no element is missing, and there are as many as there may be", () => {
  assert.throws(() => list("X", "f", ["a", null as never]), MissingFieldsError);
  assert.throws(() => map("X", "f", new Map([["a", undefined]])), MissingFieldsError);
  breaks("min_length", () => set("X", "f", new Set<string>(), undefined, { minLength: 1 }));
  breaks("each.max_length", () => list("X", "f", [1, 2], undefined, { maxLength: 1 }, "each."));
});

test("content is compared at every level", () => {
  assert.ok(same([new Set([1]), new Map([["a", [1]]])], [new Set([1]), new Map([["a", [1]]])]));
  assert.ok(!same([1], [2]));
  assert.ok(!same([1], [1, 2]));
  assert.ok(!same(new Set([1]), new Set([2])));
  assert.ok(!same(new Map([["a", 1]]), new Map([["b", 1]])));
  assert.ok(!same(new Map([["a", undefined]]), new Map([["b", undefined]])));
  assert.ok(!same(undefined, []));
  assert.ok(!same([], undefined));
  assert.ok(same({ equals: () => true }, 3));
});

test("builders keep what builds refuse", () => {
  assert.equal(ownList(null as never), null);
  assert.deepEqual(ownList(["a", null as never], (each) => each.toUpperCase()), ["A", null]);
  assert.equal(ownSet(undefined as never), undefined);
  assert.equal(ownMap(null as never), null);
  const given = new Map([["a", "x"]]);
  const own = ownMap(given, (each) => each.toUpperCase());
  given.clear();
  assert.deepEqual([...own], [["a", "X"]]);
  assert.deepEqual([...mapValues(own, (each) => `${each}!`)], [["a", "X!"]]);
});

test("products are shown in words", () => {
  const fields = { a: 'x"', b: [1, undefined], c: new Set(["s"]), d: new Map([["k", true]]), e: undefined };
  assert.equal(shown("Mark", fields), 'Mark(a: "x\\"", b: [1, none], c: {"s"}, d: {"k": true}, e: none)');
});
