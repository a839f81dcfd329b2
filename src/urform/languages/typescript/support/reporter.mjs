// Tells Urform of each test in a line of JSON. Run by node as a reporter of node:test.

export default async function* report(source) {
  for await (const { type, data } of source) {
    if (type !== "test:pass" && type !== "test:fail") {
      continue;
    }
    const error = data.details?.error?.cause ?? data.details?.error;
    const told = {
      name: data.name,
      passed: type === "test:pass",
      skipped: data.skip !== undefined,
      message: String(data.skip ?? error?.message ?? error ?? ""),
      expected: shown(error?.expected),
      actual: shown(error?.actual),
      stack: String(error?.stack ?? ""),
    };
    yield `${JSON.stringify(told)}\n`;
  }
}

function shown(value) {
  return value === undefined ? "" : String(value);
}
