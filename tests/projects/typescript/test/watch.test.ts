import assert from "node:assert/strict";
import { test } from "node:test";
import { begin } from "../src/watch.js";

test("a round begins with what was seen", () => {
  assert.deepEqual(begin("first", "buoy", 7).seen, ["buoy 7"]);
});
