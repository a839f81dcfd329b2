import assert from "node:assert/strict";
import { test } from "node:test";

import { compareInstants, type Instant, instantOf, isInstant, Sighting, Tide } from "PACKAGE/index.js";

const DAY = "2026-12-01";

test("what Date tells is an instant", () => {
  for (const time of [0, -1, 1, 951_782_400_000, 1_796_126_400_123, -62_135_596_800_000, 253_402_300_799_999]) {
    const told = instantOf(new Date(time).toISOString());
    assert.ok(told !== undefined && isInstant(told));
    assert.equal(new Date(told).getTime(), time);
    assert.equal(new Tide({ turned: told, metres: 1, day: DAY }).turned, told);
  }
});

test("each is held in one form", () => {
  const forms = ["2026-12-01T12:00:00.5Z", "2026-12-01t12:00:00.50z", "2026-12-01T17:30:00.500+05:30", "2026-11-30T12:01:00.5-23:59"];
  const tides = forms.map((text) => new Tide({ turned: text as Instant, metres: 1, day: DAY }));
  for (const tide of tides) {
    assert.equal(tide.turned, "2026-12-01T12:00:00.5Z");
  }
  assert.deepEqual(forms.map(isInstant), [true, false, false, false]);
});

test("they have their order, which is not that of their texts", () => {
  const inOrder = ["0001-01-01T00:00:00Z", "2026-12-01T12:00:00Z", "2026-12-01T12:00:00.000001Z", "2026-12-01T12:00:00.25Z", "2026-12-01T12:00:01Z"];
  assert.deepEqual([...inOrder].reverse().sort(compareInstants), inOrder);
  assert.equal(compareInstants("2026-12-01T12:00:00Z", "2026-12-01T12:00:00Z"), 0);
  assert.throws(() => new Sighting({ number: "1/26", seen: "1999-12-31T23:59:59.999999Z" }), /or later is allowed/);
});

test("what is like an instant is none", () => {
  const others = ["2026-02-30T12:00:00Z", "2026-12-01T24:00:00Z", "2026-12-01T12:00:60Z", "2026-12-01", "2026-12-01T12:00:00", "10000-01-01T00:00:00Z"];
  const edges = ["0001-01-01T00:00:00+00:01", "9999-12-31T23:59:59-00:01", "0000-06-01T00:00:00Z", "2026-12-01T12:00:00.1234567Z"];
  for (const text of [...others, ...edges, new Date(0), 0, null, new String("2026-12-01T12:00:00Z")]) {
    assert.throws(() => new Tide({ turned: text as Instant, metres: 1, day: DAY }));
  }
});
