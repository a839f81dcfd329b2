import assert from "node:assert/strict";
import { test } from "node:test";

import {
  compareDecimals,
  compareDurations,
  type Decimal,
  type Duration,
  durationFrom,
  isDecimal,
  isDuration,
  isTimeOfDay,
  microseconds,
  Tide,
  type TimeOfDay,
} from "PACKAGE/index.js";

function tide(turns: unknown = "06:00:00", runs: unknown = "PT1H", rises: unknown = "1"): Tide {
  return new Tide({ turns: turns as TimeOfDay, runs: runs as Duration, rises: rises as Decimal });
}

test("each is held in one form", () => {
  for (const one of [tide("06:00:00.000", "PT60M", "1.0"), tide("06:00:00.0", "PT3600.000S", "1.000000000000000000")]) {
    assert.deepEqual([one.turns, one.runs, one.rises], ["06:00:00", "PT1H", "1"]);
    assert.ok(one.equals(tide()));
  }
  assert.deepEqual([tide(undefined, "-PT0S", "-0.0").runs, tide(undefined, "-PT0S", "-0.0").rises], ["PT0S", "0"]);
  assert.deepEqual(["06:00:00.0", "06:00:00.5"].map(isTimeOfDay), [false, true]);
  assert.deepEqual(["PT60M", "PT1H", "P1D"].map(isDuration), [false, true, false]);
  assert.deepEqual(["1.0", "1", "100", "10.01"].map(isDecimal), [false, true, true, true]);
});

test("what is like one is none", () => {
  for (const other of ["24:00:00", "06:00", "06:00:00Z", "6:00:00", "", 6, null, new Date(0), new String("06:00:00")]) {
    assert.throws(() => tide(other));
  }
  for (const other of ["P", "PT", "P1M", "P1Y", "PT1.5H", "PT1H ", "P100001D", "PT8640000000.000001S", 3600, null, {}]) {
    assert.throws(() => tide(undefined, other));
  }
  for (const other of ["", "-", "1e3", "01", "+1", "1.", ".1", "NaN", "1.1234567890123456789", "123456789012345678901", 1, 1.5, 1n, null]) {
    assert.throws(() => tide(undefined, undefined, other));
  }
});

test("durations are microseconds", () => {
  const most = 8_640_000_000_000_000;
  for (const count of [0, 1, -1, 999_999, 59_999_999, 60_000_000, -3_600_000_001, 95_400_500_000, most, -most]) {
    const told = durationFrom(count);
    assert.ok(told !== undefined && isDuration(told));
    assert.equal(microseconds(told), count);
  }
  for (const count of [most + 1, -most - 1, 0.5, NaN, Infinity]) {
    assert.equal(durationFrom(count), undefined);
  }
  const inOrder = ["-PT1H", "-PT0.000001S", "PT0S", "PT0.5S", "PT9S", "PT10S", "PT1M", "P1D", "P1W"];
  assert.deepEqual([...inOrder].reverse().sort(compareDurations), inOrder);
});

test("decimals have the order of numbers, all digits counted", () => {
  const inOrder = ["-99999999999999999999.999999999999999999", "-10", "-9.5", "-0.000000000000000001", "0", "0.1", "0.25", "9", "10.000000000000000001", "10.1"];
  assert.deepEqual([...inOrder].reverse().sort(compareDecimals), inOrder);
  assert.equal(compareDecimals("1.50", "1.5"), 0);
});
