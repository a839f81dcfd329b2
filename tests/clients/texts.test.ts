import assert from "node:assert/strict";
import { test } from "node:test";

import { Fixed, LimitError, MarkCall } from "PACKAGE/index.js";

const site = "https://port-varrow.example/";

function keeps(make: () => unknown): boolean {
  try {
    make();
    return true;
  } catch (error) {
    assert.ok(error instanceof LimitError);
    assert.equal(error.limit, "pattern");
    return false;
  }
}

function isSign(text: string): boolean {
  return keeps(() => new MarkCall({ sign: text, positionOfUri: site }));
}

function isName(text: string): boolean {
  return keeps(() => new Fixed({ name: text }));
}

test("each character counts once", () => {
  assert.deepEqual(["ABC", "ABC\n", "ABC\0", "\uff21\uff22\uff23"].map(isSign), [true, false, false, false]);
  assert.ok(isName("\u00c4" + "\u{1f6df}".repeat(20)));
  assert.ok(!isName("\u00c4" + "\u{1f6df}".repeat(21)));
});

test("half a character is none", () => {
  assert.ok(!isName("A\ud83d"));
  assert.ok(!isName("A\udedf!"));
});

test("a long text is looked at once", () => {
  assert.ok(!isName("A" + "a".repeat(10_000_000)));
});
