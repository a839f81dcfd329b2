// Reads the file both ways: by the generated package, and by JSON.parse with classes and checks written by hand.
import { readFileSync } from "node:fs";

import { createAll, parseRecord, readMark } from "../src/index.js";

const text = readFileSync(process.argv[2] as string, "utf-8");
const count = Number(process.argv[3]);
const SIDES = new Map([
  ["P", "port"],
  ["S (to starboard)", "starboard"],
  ["middle", "middle"],
]);

class Position {
  constructor(
    readonly latitude: number,
    readonly longitude: number,
  ) {}
}

class Mark {
  constructor(
    readonly kind: string,
    readonly station: number,
    readonly position: Position,
    readonly side: string | undefined,
    readonly remarks: string | undefined,
    readonly reflective: boolean,
    readonly password: string | undefined,
    readonly draught: number | undefined,
  ) {}
}

type Fields = Record<string, unknown>;
const NAMES = new Set([
  "type",
  "station",
  "position",
  "side",
  "toString",
  "reflective",
  "password",
  "draught",
]);

function inRange(value: unknown, low: number, high: number): number {
  if (typeof value !== "number" || !(value >= low && value <= high)) {
    throw new Error("range");
  }
  return value + 0;
}

function optionalText(
  value: unknown,
  low: number,
  high: number,
): string | undefined {
  if (value == null) {
    return undefined;
  }
  if (typeof value !== "string") {
    throw new Error("text");
  }
  const length = [...value].length;
  if (length < low || length > high) {
    throw new Error("length");
  }
  return value;
}

function mark(record: Fields): Mark {
  const kind = record["type"];
  const isBuoy = kind === "B-1" || kind === "buoy";
  if (!isBuoy && kind !== "BCN") {
    throw new Error("kind");
  }
  for (const name in record) {
    if (!NAMES.has(name) || (name === "draught" && !isBuoy)) {
      throw new Error("unknown");
    }
  }
  const station = inRange(record["station"], 1, 9999);
  if (!Number.isInteger(station)) {
    throw new Error("station");
  }
  const place = record["position"] as Fields;
  for (const name in place) {
    if (name !== "lat" && name !== "lon (°)") {
      throw new Error("unknown");
    }
  }
  const side = record["side"];
  const sideOfIt = side == null ? undefined : SIDES.get(side as string);
  if (side != null && sideOfIt === undefined) {
    throw new Error("side");
  }
  const reflective = record["reflective"] ?? isBuoy;
  if (typeof reflective !== "boolean") {
    throw new Error("reflective");
  }
  return new Mark(
    kind as string,
    station,
    new Position(
      inRange(place["lat"], -90, 90),
      inRange(place["lon (°)"], -180, 180),
    ),
    sideOfIt,
    optionalText(
      Object.hasOwn(record, "toString") ? record["toString"] : undefined,
      0,
      20,
    ),
    reflective,
    optionalText(record["password"], 3, Infinity),
    isBuoy ? inRange(record["draught"] ?? 1.5, 5e-324, 1e308) : undefined,
  );
}

function byHand(): number {
  return (JSON.parse(text) as Fields[]).map(mark).length;
}

function generated(): number {
  const { made, problems } = createAll(parseRecord(text), readMark);
  if (problems.length > 0) {
    throw new Error(String(problems[0]));
  }
  return made.length;
}

function milliseconds(job: () => number): number {
  const start = performance.now();
  if (job() !== count) {
    throw new Error("some are missing");
  }
  return performance.now() - start;
}

function median(all: number[]): number {
  return all.sort((a, b) => a - b)[all.length >> 1] as number;
}

const pairs: [number, number][] = [];
for (let round = 0; round < 160; round += 1) {
  pairs.push([milliseconds(generated), milliseconds(byHand)]);
}
const kept = pairs.slice(60);
console.log(
  median(kept.map(([a]) => a)),
  median(kept.map(([, b]) => b)),
  median(kept.map(([a, b]) => a / b)),
);
