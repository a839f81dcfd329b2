const BATCHES = 9;

/** What keeps the compiler from leaving out what nobody uses. */
export let kept: unknown;

/** Prints what making one takes, or what many weigh, as one line of JSON: `time SECONDS`, or `memory NAME COUNT`. */
export function measure(name: string, ...makers: (() => unknown)[]): void {
  const [, , mode, first, second] = process.argv;
  if (mode === "time") {
    console.log(JSON.stringify({ name, seconds: timed(makers[0]!, Number(first)) }));
  } else if (name === first) {
    console.log(JSON.stringify({ name, bytes: weighed(makers, Number(second)) }));
  }
}

/** The language's own map, read by a key that it has. */
export function mapRead(): void {
  const held = new Map([["north", {}]]);
  measure("map read", () => held.get("north"));
}

/** Seconds for one, batch by batch; each batch takes so many seconds, or so. */
function timed(make: () => unknown, seconds: number): number[] {
  let count = 1;
  let taken = batch(make, 1);
  for (let rounds = 0; taken < seconds / 4 || rounds < 8; rounds += 1) {
    count = taken < seconds / 4 ? count * 2 : count;
    taken = batch(make, count);
  }
  count = Math.max(1, Math.floor((count * seconds) / taken));
  return Array.from({ length: BATCHES }, () => batch(make, count) / count);
}

function batch(make: () => unknown, count: number): number {
  const started = process.hrtime.bigint();
  for (let number = 0; number < count; number += 1) {
    kept = make();
  }
  return Math.max(Number(process.hrtime.bigint() - started), 1) / 1e9;
}

/** Bytes that so many products take, with the array that holds them. */
function weighed(makers: (() => unknown)[], count: number): number {
  for (const make of makers) {
    kept = make();
  }
  const before = heap();
  const held = Array.from({ length: count }, (_, number) => makers[number % makers.length]!());
  const after = heap();
  kept = held;
  return Math.max(after - before, 0);
}

function heap(): number {
  (globalThis as { gc?: () => void }).gc?.();
  return process.memoryUsage().heapUsed;
}
