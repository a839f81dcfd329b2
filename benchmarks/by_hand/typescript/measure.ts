// Measures the generated TypeScript beside what is written by hand; prints one line a job: name, ratio, nanoseconds.

import * as fairway from "../src/index.js";
import * as byHand from "./by_hand.js";

const ROUNDS = 31;

function seconds(run: (at: number) => unknown, times: number): number {
  const begin = process.hrtime.bigint();
  for (let at = 0; at < times; at += 1) {
    kept = run(at);
  }
  return Number(process.hrtime.bigint() - begin) / 1e9;
}

let kept: unknown;

function tell(name: string, one: (at: number) => unknown, other: (at: number) => unknown, times: number): void {
  const ratios: number[] = [];
  const spent: number[] = [];
  seconds(one, times * 3);
  seconds(other, times * 3);
  for (let round = 0; round < ROUNDS; round += 1) {
    const first = seconds(one, times);
    ratios.push(first / seconds(other, times));
    spent.push((first / times) * 1e9);
  }
  console.log(name, median(ratios).toFixed(3), median(spent).toFixed(0));
}

function median(values: number[]): number {
  return values.sort((one, other) => one - other)[values.length >> 1]!;
}

const LABELS = ["lantern", "mooring", "paint", "topmark"];
const label = (at: number): string => LABELS[at & 3]!;

tell(
  "position",
  (at) => new fairway.Position({ latitude: at % 90, longitude: at % 180 }),
  (at) => new byHand.Position(at % 90, at % 180),
  50000,
);
tell(
  "leg",
  (at) => new fairway.Leg({ label: label(at), hours: at & 7 }),
  (at) => new byHand.Leg(label(at), at & 7),
  50000,
);

const ourLeg = new fairway.Leg({ label: "lantern" });
const theirLeg = new byHand.Leg("lantern");
tell(
  "setter",
  (at) => (ourLeg.label = label(at)),
  (at) => (theirLeg.label = label(at)),
  100000,
);

const ourRegistry = new fairway.MarkRegistry();
const theirRegistry = new byHand.MarkRegistry();
const ourPosition = new fairway.Position({ latitude: 54.5, longitude: 10.25 });
const theirPosition = new byHand.Position(54.5, 10.25);
tell(
  "factory",
  (at) => ourRegistry.make("buoy", { station: 1 + (at & 1023), position: ourPosition, remarks: "none" }),
  (at) => theirRegistry.make("buoy", 1 + (at & 1023), theirPosition, { remarks: "none" }),
  20000,
);

const ourLegs = LABELS.map((each) => new fairway.Leg({ label: each, hours: 1 }));
const theirLegs = LABELS.map((each) => new byHand.Leg(each, 1));
tell(
  "builder",
  () => {
    const builder = new fairway.RefitPlanBuilder().title("Winter").crew(3).tags(["ice", "north"]);
    for (const leg of ourLegs) {
      builder.addLeg(leg);
    }
    return builder.build();
  },
  () => {
    const builder = new byHand.RefitPlanBuilder().title("Winter").crew(3).tags(["ice", "north"]);
    for (const leg of theirLegs) {
      builder.addLeg(leg);
    }
    return builder.build();
  },
  5000,
);

const many = Array.from({ length: 50 }, (_, at) => ({ label: label(at), hours: 1 }));
const ourPlan = new fairway.RefitPlan({
  title: "Winter",
  legs: many.map((fields) => new fairway.Leg(fields)),
  tags: ["ice"],
  crew: 3,
});
const theirPlan = new byHand.RefitPlan(
  "Winter",
  many.map((fields) => new byHand.Leg(fields.label, fields.hours)),
  { tags: ["ice"], crew: 3 },
);
tell(
  "clone",
  () => ourPlan.clone(),
  () => theirPlan.clone(),
  1000,
);

// The language's own map, for a key of two parts: one map in another.
const pool = new fairway.LightRhythmPool();
const held = new Map<string, Map<number, fairway.LightRhythm>>();
for (const code of LABELS) {
  held.set(code, new Map([[4000, pool.get({ code, periodMs: 4000 })]]));
}
tell(
  "pool",
  (at) => pool.get({ code: label(at), periodMs: 4000 }),
  (at) => held.get(label(at))?.get(4000),
  50000,
);
console.error(kept === undefined);
