import assert from "node:assert/strict";
import { test } from "node:test";

import { Leg, LogbookBuilder, MissingFieldsError, RefitPlanBuilder, type RefitPlan } from "PACKAGE/index.js";

const legs = [new Leg({ mark: "bar", hours: 2 })];

/** Takes a builder that lacks a berth at most. */
function moored(builder: RefitPlanBuilder<"berth">): RefitPlan {
  return builder.berth("north").build();
}

test("parts are given where they become known", () => {
  const urgent = [false, true].map((isUrgent) => {
    let builder = RefitPlanBuilder.begin().crew(3).legs(legs);
    if (isUrgent) {
      builder = builder.urgent(true);
    }
    return moored(builder).urgent;
  });
  assert.deepEqual(urgent, [false, true]);
  assert.equal(moored(RefitPlanBuilder.shortHanded().berth("south")).berth, "north");
});

test("a builder builds again with one thing changed", () => {
  const builder = RefitPlanBuilder.spring().berth("north").legs(legs);
  const first = builder.build();
  const second = builder.addLeg(new Leg({ mark: "pier", hours: 1 })).build();
  assert.deepEqual([first.legs.length, second.legs.length, first.crew], [1, 2, 3]);
  assert.ok(RefitPlanBuilder.like(first).build().equals(first));
});

test("whoever looks at no types is told as it runs", () => {
  const builder = RefitPlanBuilder.begin().crew(3) as RefitPlanBuilder<never>;
  assert.throws(() => builder.build(), MissingFieldsError);
  // @ts-expect-error a builder that lacks something is none that lacks nothing
  const whole: RefitPlanBuilder<never> = RefitPlanBuilder.begin().crew(3);
  assert.throws(() => whole.build(), /missing berth, legs/);
  // @ts-expect-error nobody says for it that nothing is missing
  assert.ok(new RefitPlanBuilder<never>());
  // @ts-expect-error what lacks more than a berth does not do
  assert.throws(() => moored(RefitPlanBuilder.begin()), /missing crew, legs/);
});

test("an emptied builder keeps its type and nothing else", () => {
  const builder = LogbookBuilder.begin().keeper("Ines").pages(3);
  assert.equal(builder.build().pages, 3);
  assert.throws(() => builder.build(), /missing keeper, pages/);
});
