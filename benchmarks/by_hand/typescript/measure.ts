// Measures the generated TypeScript beside what is written by hand; prints one line a job: name, ratio, nanoseconds.

import * as fairway from "../src/index.js";
import * as byHand from "./by_hand.js";

const ROUNDS = 31;

function seconds(run: () => unknown, times: number): number {
  const begin = process.hrtime.bigint();
  for (let time = 0; time < times; time += 1) {
    kept = run();
  }
  return Number(process.hrtime.bigint() - begin) / 1e9;
}

let kept: unknown;

function tell(name: string, one: () => unknown, other: () => unknown, times: number): void {
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

function jobs(module: typeof fairway | typeof byHand): Record<string, () => unknown> {
  const { Position, MarkRegistry, Leg, RefitPlan, RefitPlanBuilder } = module as typeof fairway;
  const position = new Position({ latitude: 54.5, longitude: 10.25 });
  const registry = new MarkRegistry();
  const legs = Array.from({ length: 3 }, (_, at) => new Leg({ label: `leg ${at}`, hours: 1 }));
  const many = Array.from({ length: 50 }, (_, at) => new Leg({ label: `leg ${at}`, hours: 1 }));
  const plan = new RefitPlan({ title: "Winter", legs: many, tags: ["ice"], crew: 3 });
  return {
    factory: () => registry.make("buoy", { station: 17, position, remarks: "none" }),
    builder: () => {
      const builder = new RefitPlanBuilder().title("Winter").crew(3).tags(["ice", "north"]);
      for (const leg of legs) {
        builder.addLeg(leg);
      }
      return builder.build();
    },
    clone: () => plan.clone(),
  };
}

const ours = jobs(fairway);
const theirs = jobs(byHand);
tell("factory", ours["factory"]!, theirs["factory"]!, 20000);
tell("builder", ours["builder"]!, theirs["builder"]!, 5000);
tell("clone", ours["clone"]!, theirs["clone"]!, 1000);

const pool = new fairway.LightRhythmPool();
pool.get({ code: "Fl", periodMs: 4000 });
const held = new Map([[JSON.stringify(["Fl", 4000]), 1]]);
const code = "Fl";
const periodMs = 4000;
tell(
  "pool",
  () => pool.get({ code, periodMs }),
  () => held.get(JSON.stringify([code, periodMs])),
  20000,
);
console.error(kept === undefined);
