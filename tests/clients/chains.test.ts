// Products that hold others of their own type, thousands deep.

import assert from "node:assert/strict";
import { test } from "node:test";

import { Cable, Link, Rope } from "PACKAGE/index.js";

const DEPTH = 1000;

/** From the outer end: nothing is copied twice, where a chain from the inner end is copied once a level. */
function outward(): Link {
  const first = new Link({ label: "first" });
  let last = first;
  for (let each = 0; each < DEPTH; each++) {
    last.next = new Link({ label: "next", serial: 7 });
    last = last.next;
  }
  return first;
}

test("chains are made outward and cloned", () => {
  const original = outward();
  const clone = original.clone();
  let levels = 0;
  for (
    let each: Link | undefined = clone;
    each !== undefined;
    each = each.next
  ) {
    assert.equal(each.serial, undefined);
    levels += 1;
  }
  assert.equal(levels, DEPTH + 1);
  clone.next!.label = "changed";
  assert.equal(original.next!.label, "next");
});

test("a kind starts as the kind does", () => {
  assert.equal(new Rope({ label: "tow", serial: 9 }).clone().serial, 3);
  assert.equal(
    new Cable({ label: "anchor", serial: 9 }).clone().serial,
    undefined,
  );
});
