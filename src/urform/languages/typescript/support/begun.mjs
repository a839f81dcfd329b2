// Tells Urform of each test as it begins, at once: a test that never ends lets nothing else be written.

import { writeSync } from "node:fs";
import { beforeEach } from "node:test";

beforeEach((test) => {
  writeSync(1, `begun ${test.name}\n`);
});
