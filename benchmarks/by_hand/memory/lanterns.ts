// Makes lanterns whose rhythms are shared by a pool, or their own: lanterns.js shared|own COUNT.

import type { LightRhythmKey } from "../src/index.js";
import { Lantern, LightRhythm, LightRhythmPool, Position } from "../src/index.js";

const PULSES = Array.from({ length: 256 }, (_, number) => number % 100);

function make(key: LightRhythmKey): LightRhythm {
  return new LightRhythm({ ...key, pulses: PULSES });
}

const [sharing, count] = [process.argv[2], Number(process.argv[3])];
const position = new Position({ latitude: 54.5, longitude: 10.25 });
const pool = new LightRhythmPool(make);
const lanterns: Lantern[] = [];
for (let number = 0; number < count; number += 1) {
  const key = { code: `Fl ${number % 50}`, periodMs: 4000 };
  lanterns.push(new Lantern({ rhythm: sharing === "shared" ? pool.get(key) : make(key), position }));
}
if (lanterns.length !== count) {
  process.exit(1);
}
