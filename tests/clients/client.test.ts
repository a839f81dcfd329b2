// What a developer does with the generated types.

import assert from "node:assert/strict";
import { test } from "node:test";
import { inspect } from "node:util";

import type { AnyTideOffset, Mark, Outfit } from "PACKAGE/index.js";
import {
  Buoy,
  Leg,
  LimitError,
  LightRhythm,
  LightRhythmPool,
  MarkRegistry,
  MissingFieldsError,
  Position,
  RefitPlan,
  RefitPlanBuilder,
  RefusedError,
  Side,
  TopmarkPool,
  UnknownKeyError,
  tideOffset,
  tideOffsetOrUndefined,
} from "PACKAGE/index.js";
import * as fairway from "PACKAGE/index.js";
import { StandInHull, StandInOutfit } from "PACKAGE/testing.js";

const HARBOUR = new Position({ latitude: 54.2, longitude: 9.1 });

class Raft extends fairway.Mark {
  override get key(): string {
    return "raft";
  }

  override chartLabel(): string {
    return "raft";
  }

  override rangeFrom(eyeHeight: number): number {
    return eyeHeight;
  }
}

test("plugs a kind in", () => {
  const registry = new MarkRegistry();
  registry.register("port_buoy", (fields) => new Buoy({ ...fields, side: "port" }));
  const mark: Mark = registry.make("port_buoy", { station: 3, position: HARBOUR });
  assert.equal(mark.side, "port");
  assert.ok(mark instanceof Buoy);
  assert.throws(
    () => new MarkRegistry().make("port_buoy", { station: 3, position: HARBOUR }),
    (error) => error instanceof UnknownKeyError && error.known.join() === "beacon,buoy",
  );
});

test("plugs a class of its own in", () => {
  const registry = new MarkRegistry();
  registry.register("raft", (fields) => new Raft(fields));
  const raft = registry.make("raft", { station: 3, position: HARBOUR });
  assert.deepEqual([raft.key, raft.reflective, raft.rangeFrom(2)], ["raft", true, 2]);
  assert.ok(raft.equals(new Raft({ station: 3, position: HARBOUR })));
  assert.ok(!raft.equals(new Buoy({ station: 3, position: HARBOUR })));
  assert.throws(() => new Raft({ station: 3 } as never), /Raft: missing position/);
  assert.throws(() => new Raft({ station: 0, position: HARBOUR }), /Mark.station is 0; at least 1 is allowed/);
});

test("finds a kind that a module exports", async () => {
  const source = `import { Buoy } from "${import.meta.resolve("PACKAGE/index.js")}";
    export default class extends Buoy {}
    export const preset = (fields) => new Buoy({ ...fields, side: "port" });
    export const list = [];
    export function ferry() { return "a ferry"; }`;
  const specifier = `data:text/javascript,${encodeURIComponent(source)}`;
  const registry = new MarkRegistry();
  registry.registerModule("outer_buoy", specifier);
  registry.registerModule("port_buoy", specifier, "preset");
  const fields = { station: 3, position: HARBOUR };
  assert.throws(() => registry.make("outer_buoy", fields), /is not imported yet, which makeLater does/);
  const [one, two] = await Promise.all([registry.makeLater("outer_buoy", fields), registry.makeLater("outer_buoy", fields)]);
  assert.ok(one instanceof Buoy && one.constructor !== Buoy && one.equals(two));
  assert.ok(registry.make("outer_buoy", fields).equals(one));
  assert.equal((await registry.makeLater("port_buoy", fields)).side, "port");
  assert.equal((await registry.makeLater("buoy", fields)).key, "buoy");
  for (const name of ["list", "missing", "ferry"]) {
    registry.registerModule(name, specifier, name);
    await assert.rejects(registry.makeLater(name, fields), RefusedError);
  }
  registry.registerModule("nowhere", "file:///nowhere.js");
  await assert.rejects(registry.makeLater("nowhere", fields), /nowhere/);
  assert.ok(registry.unregister("outer_buoy"));
  await assert.rejects(registry.makeLater("outer_buoy", fields), UnknownKeyError);
});

test("loads classes and makers, and refuses what is neither", () => {
  const registry = new MarkRegistry();
  const fields = { station: 3, position: HARBOUR };
  registry.registerLoader("raft", () => Raft);
  assert.ok(registry.make("raft", fields) instanceof Raft);
  registry.registerLoader("leg", () => Leg as never);
  assert.throws(() => registry.make("leg", fields), /its loader gives no maker/);
  assert.throws(() => registry.registerLoader("none", undefined as never), /its loader cannot be called/);
  const failures = [new Error("the plug-in is locked")];
  registry.registerLoader("locked", () => {
    for (const failure of failures.splice(0)) {
      throw failure;
    }
    return Raft;
  });
  assert.throws(() => registry.make("locked", fields), /locked/);
  assert.ok(registry.make("locked", fields) instanceof Raft);
});

test("reads what comes from elsewhere", () => {
  const read = JSON.parse('{"station": 1.5, "position": {}, "side": "middle", "remarks": null}');
  assert.throws(() => new Buoy(read), /Mark.station is 1.5; an integer is wanted/);
  assert.throws(() => new Buoy({ ...read, station: 1 }), /Mark.position is of type Object; one of type Position is wanted/);
  const placed = { ...read, station: 1, position: HARBOUR };
  assert.throws(() => new Buoy(placed), /Mark.side is "middle"; a declared word is wanted/);
  assert.equal(new Buoy({ ...placed, side: null }).remarks, undefined);
});

test("changes a clone", () => {
  const plan = new RefitPlan({ title: "Basin 4", legs: [new Leg({ label: "Inspect" })], tags: ["steel"] });
  const before = String(plan);
  const clone = plan.clone();
  assert.notEqual(clone, plan);
  assert.ok(clone.equals(plan));
  clone.legs[0]!.label = "Paint";
  clone.tags = ["wood"];
  assert.equal(String(plan), before);
  assert.notEqual(String(clone), before);
});

test("changes one leg after the other", () => {
  const plan = new RefitPlan({ title: "Basin 4", legs: [new Leg({ label: "Inspect" })], tags: ["steel"] });
  const [clone, inspect] = [plan.clone(), plan.legs[0]];
  plan.addTag("spring");
  clone.addTag("autumn");
  clone.putTag(0, "wood");
  assert.deepEqual([plan.tags, clone.tags], [["steel", "spring"], ["wood", "autumn"]]);
  plan.addLeg(new Leg({ label: "Paint" }));
  assert.equal(plan.legs[0], inspect);
  for (const beyond of [2, -1, 0.5, Number.NaN, "0" as never]) {
    assert.throws(() => plan.putTag(beyond, "lost"), RangeError);
    assert.throws(() => plan.removeTag(beyond), RangeError);
  }
  assert.throws(() => plan.addLeg("Paint" as never), LimitError);
  assert.deepEqual(plan.tags, ["steel", "spring"]);
  plan.removeLeg(0);
  assert.throws(() => plan.removeLeg(0), LimitError);
  assert.deepEqual(plan.legs.map((leg) => leg.label), ["Paint"]);
});

test("deep equality of the test framework sees all fields", () => {
  const plan = new RefitPlan({ title: "Basin 4", legs: [new Leg({ label: "Inspect" })], tags: ["steel"] });
  const clone = plan.clone();
  assert.deepStrictEqual(clone, plan);
  clone.legs[0]!.hours = 3;
  assert.notDeepStrictEqual(clone, plan);
  assert.notDeepStrictEqual(new Leg({ label: "Inspect" }), new Leg({ label: "Paint" }));
  const [buoy, other] = [3, 4].map((station) => new Buoy({ station, position: HARBOUR }));
  assert.notDeepStrictEqual(buoy, other);
});

test("forgets, and builds again", () => {
  const builder = new RefitPlanBuilder();
  assert.throws(
    () => builder.build(),
    (error) => error instanceof MissingFieldsError && error.fields.join() === "title,legs",
  );
  const first = builder.title("Basin 4").legs([new Leg({ label: "Inspect" })]).build();
  const second = builder.title("Basin 5").build();
  assert.deepEqual([first.title, second.title], ["Basin 4", "Basin 5"]);
  assert.notEqual(first.legs[0], second.legs[0]);
});

test("takes a stand-in", () => {
  const standIn = new StandInOutfit();
  const outfit: Outfit = standIn;
  assert.ok(outfit.hull() instanceof StandInHull);
  assert.ok(outfit.moorings().length > 0);
  assert.deepEqual(standIn.asked, ["hull", "moorings"]);
});

test("gets nothing or a reason", () => {
  assert.throws(() => tideOffset({ centimetres: -501, datum: "chart" }), RefusedError);
  assert.equal(tideOffsetOrUndefined({ centimetres: -501, datum: "chart" }), undefined);
  assert.equal(tideOffset({ centimetres: 0, datum: "chart" }).describe(), "none");
  assert.ok(!("NoOffset" in fairway));
});

test("a pool makes once", () => {
  const made: string[] = [];
  const pool = new LightRhythmPool((key) => {
    made.push(key.code);
    return new LightRhythm(key);
  });
  const found = new Set(Array.from({ length: 100 }, () => pool.get({ code: "Fl", periodMs: 4000 })));
  assert.equal(found.size, 1);
  assert.deepEqual([made, pool.made, pool.reused], [["Fl"], 1, 99]);
});

test("a maker that fails leaves nothing", () => {
  let tries = 0;
  const pool = new LightRhythmPool((key) => {
    tries += 1;
    if (tries === 1) {
      throw new Error("no lamp");
    }
    return new LightRhythm(key);
  });
  assert.throws(() => pool.get({ code: "Fl", periodMs: 4000 }), /no lamp/);
  assert.deepEqual([pool.made, pool.reused], [0, 0]);
  assert.equal(pool.get({ code: "Fl", periodMs: 4000 }), pool.get({ code: "Fl", periodMs: 4000 }));
  assert.deepEqual([pool.made, pool.reused], [1, 1]);
});

test("a weak pool keeps what is held", () => {
  const pool = new TopmarkPool();
  const held = pool.get("cone");
  assert.equal(pool.get("cone"), held);
  assert.deepEqual([pool.made, pool.reused], [1, 1]);
});

test("immutable means at run time too", () => {
  const buoy = new Buoy({ station: 3, position: HARBOUR });
  for (const change of [{ station: 4 }, { key: "beacon" }, { colour: "red" }]) {
    assert.throws(() => Object.assign(buoy, change), TypeError);
  }
});

test("a maker that asks for its own key is refused", () => {
  const pool: LightRhythmPool = new LightRhythmPool((key) => pool.get(key));
  assert.throws(() => pool.get({ code: "Fl", periodMs: 4000 }), /its maker asks for the key that it makes/);
  assert.throws(() => pool.get({ code: "Fl", periodMs: 4000 }), RefusedError);
});

test("makers that are nothing or give nothing are refused", () => {
  const giving = new LightRhythmPool((() => undefined) as never);
  assert.throws(() => giving.get({ code: "Fl", periodMs: 4000 }), RefusedError);
  const registry = new MarkRegistry();
  assert.throws(() => registry.register("raft", undefined as never), RefusedError);
  registry.register("raft", (() => null) as never);
  assert.throws(() => registry.make("raft", { station: 3, position: HARBOUR }), RefusedError);
});

test("what only looks like a product is none", () => {
  const lookAlike = { latitude: 999, longitude: 0, equals: () => true, toString: () => "" };
  assert.throws(() => new Buoy({ station: 3, position: lookAlike as never }), /; one of type Position is wanted/);
  assert.throws(() => new Leg({ label: 7 as never }), /Leg.label is 7; a text is wanted/);
  assert.throws(() => new RefitPlan({ title: "Basin 4", legs: "legs" as never }), /RefitPlan.legs is "legs"; an array is wanted/);
});

test("a clone hands out no container of its own", () => {
  const clone = new RefitPlan({ title: "Basin 4", legs: [new Leg({ label: "Inspect" })] }).clone();
  assert.throws(() => (clone.legs as Leg[]).push(new Leg({ label: "Paint" })), TypeError);
  assert.equal(clone.legs.length, 1);
});

function centimetres(offset: AnyTideOffset): number {
  switch (offset.key) {
    case "known_offset":
      return offset.centimetres;
    case "no_offset":
      return 0;
  }
}

function leavesOneOut(offset: AnyTideOffset): never {
  if (offset.key === "no_offset") {
    throw new Error("no offset");
  }
  // @ts-expect-error: a known offset is left, and the compiler sees it.
  return offset;
}

test("kinds of a closed set are told apart, and the compiler sees whether one is left out", () => {
  assert.equal(centimetres(tideOffset({ centimetres: 40, datum: "chart" })), 40);
  assert.equal(centimetres(tideOffset({ centimetres: 0, datum: "chart" })), 0);
  assert.equal(typeof leavesOneOut, "function");
});

test("a product is written as JSON, and shown by the console", () => {
  const plan = new RefitPlan({ title: "Basin 4", legs: [new Leg({ label: "Inspect", hours: 1.5 })], tags: ["wet"] });
  const read = JSON.parse(JSON.stringify(plan)) as { title: string; legs: unknown; tags: unknown };
  assert.deepEqual([read.title, read.legs, read.tags], ["Basin 4", [{ label: "Inspect", hours: 1.5 }], ["wet"]]);
  assert.equal(inspect(plan), String(plan));
  const buoy = JSON.parse(JSON.stringify(new Buoy({ station: 3, position: HARBOUR }))) as { kind: string };
  assert.equal(buoy.kind, "buoy");
});

test("words of a choice are read from what a file holds", () => {
  const sides = JSON.parse('["port", "starboard"]') as string[];
  assert.deepEqual(sides.map((side) => Side.parse(side)), [...Side.words]);
  assert.throws(() => Side.parse("larboard"), UnknownKeyError);
});
