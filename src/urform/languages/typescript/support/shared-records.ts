// What the tests of records share.

import assert from "node:assert/strict";

import { RecordError } from "CODE/index.js";

/** No product is made of a record, for just these reasons. */
export function refusedRecord(
  problems: readonly string[],
  read: () => unknown,
): void {
  assert.throws(read, (error) => {
    assert.ok(error instanceof RecordError);
    assert.deepEqual(error.problems.map(String), problems);
    return true;
  });
}
