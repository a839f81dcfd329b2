// Stands in for node:test where faults are tried: tests are kept, to be run one by one.

export const tests = new Map();

export function test(name, run) {
  tests.set(name, run);
}
