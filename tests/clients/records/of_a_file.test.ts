// Records that stand in a file.

import assert from "node:assert/strict";
import { readFileSync } from "node:fs";
import { test } from "node:test";

import { Mark, Position, RecordError } from "PACKAGE/index.js";
import {
  createAll,
  parseRecord,
  readLeg,
  readMark,
  readPlan,
  textOfMark,
} from "PACKAGE/records.js";

function file(name: string): string {
  return readFileSync(`DATA_FOLDER/${name}`, "utf-8");
}

function lines(name: string): string[] {
  return file(name).split("\n").slice(0, -1);
}

test("a file is made into products", () => {
  const all = createAll(JSON.parse(file("records.json")), readMark);
  assert.deepEqual(all.problems.map(String), lines("problems.txt"));
  assert.deepEqual(all.made.map(textOfMark), lines("written.txt"));
});

test("what is written is read by every other", () => {
  const marks = lines("written.txt").map((line) => readMark(parseRecord(line)));
  assert.deepEqual(marks.map(textOfMark), lines("written.txt"));
  const again = createAll(parseRecord(file("again.json")), readMark);
  assert.equal(again.problems.length, 0);
  assert.ok(again.made.every((mark, at) => marks[at]?.equals(mark)));
});

class Raft extends Mark {
  override get key(): string {
    return "raft";
  }

  override chartLabel(): string {
    return "raft";
  }
}

test("a kind of one's own is written with what all kinds have", () => {
  const position = new Position({ latitude: 54.5, longitude: 8.25 });
  const raft = new Raft({ station: 3, position, remarks: "two, tied" });
  assert.equal(
    textOfMark(raft),
    '{"type":"raft","station":3,"position":{"lat":54.5,"lon (°)":8.25},"toString":"two, tied"}',
  );
});

test("depth is bounded", () => {
  assert.throws(
    () => readPlan(parseRecord(file("deep.json"))),
    (error) => {
      assert.ok(error instanceof RecordError);
      const told = error.problems.map(({ limit }) => limit);
      assert.deepEqual([...new Set(told)], ["depth"]);
      return true;
    },
  );
  assert.throws(() => parseRecord("[".repeat(100_000)), RecordError);
});

for (const text of [
  '{"label": "out", "hours": NaN}',
  '{"label": "out", "hours": 1e400}',
  '{"label": "out"} more',
  '{"label": "out", "LABEL": "out"}',
  '{"label": "out", "hours": null, "label": "out"}',
  '{"label": "out"',
  '{"label": "out", "__proto__": {"hours": 1}}',
  "",
  "null",
  "[]",
]) {
  test(`what readers let through is told: ${text}`, () => {
    assert.throws(() => readLeg(parseRecord(text)), RecordError);
  });
}
