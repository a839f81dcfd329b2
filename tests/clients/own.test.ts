import assert from "node:assert/strict";
import { test } from "node:test";

import {
  Light,
  MissingFieldsError,
  Pilots,
  Sector,
  Slack,
  TideRegistry,
  crewCreator,
  mark,
  readMark,
  type Buoy,
  type High,
  type MarkGiven,
  type Tide,
} from "PACKAGE/index.js";

const sectors = [new Sector({ fromDegrees: 10 })];

test("a key takes the fields of its kind, and gives that kind", () => {
  const light: Light = mark("T1", { name: "pier", period: 4, sectors, racon: true });
  const buoy: Buoy = mark("buoy", { name: "bar", draught: 0.5 });
  const pilots: Pilots = crewCreator("pilots").create({ boat: "Petrel", pilots: ["Ines"] });
  assert.deepEqual([light.period, light.racon, buoy.draught, pilots.pilots], [4, true, 0.5, ["Ines"]]);
  const given: MarkGiven<"light"> = [{ name: "pier", period: 4, sectors }];
  assert.ok(mark("light", ...given) instanceof Light);
});

test("the compiler sees what another kind has, and what is missing", () => {
  // @ts-expect-error: a buoy has no period.
  assert.equal(mark("buoy", { name: "bar", period: 4 }).key, "buoy");
  // @ts-expect-error: a light has a period.
  assert.throws(() => mark("light", { name: "bar", sectors }), MissingFieldsError);
  // @ts-expect-error: it is a number.
  assert.throws(() => mark("light", { name: "bar", period: "4", sectors }), /an integer is wanted/);
});

test("a record tells its kind itself", () => {
  const read = readMark({ type: "light", name: "pier", periodMs: 4, sectors: [{ from_degrees: 10 }] });
  assert.ok(read.equals(mark("light", { name: "pier", period: 4, sectors })));
});

test("a registry makes declared kinds of their fields, and others of what all have", () => {
  const registry = new TideRegistry();
  registry.register("neap", (fields) => new Slack(fields));
  const high: High = registry.make("high", { station: "Quay", metres: 4.5 });
  const neap: Tide = registry.make("neap", { station: "Quay" });
  assert.deepEqual([high.metres, neap.key], [4.5, "slack"]);
  // @ts-expect-error: a high tide has metres.
  assert.throws(() => registry.make("high", { station: "Quay" }), MissingFieldsError);
});
