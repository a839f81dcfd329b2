#include "PACKAGE/logbook_builder.hpp"
#include "PACKAGE/refit_plan_builder.hpp"

#include <gtest/gtest.h>

#include <utility>
#include <vector>

using namespace PACKAGE;

namespace {

template <typename Builder>
concept Builds = requires(Builder builder) { builder.build(); };

static_assert(Builds<RefitPlanBuilder<true, true, true>>);
static_assert(!Builds<RefitPlanBuilder<true, false, true>>);
static_assert(!std::is_default_constructible_v<RefitPlanBuilder<true, false, false>>);
static_assert(!std::is_convertible_v<RefitPlanBuilder<>, RefitPlanBuilder<true, true, true>>);

std::vector<Leg> legs() {
    return {Leg("bar", 2)};
}

// Takes a builder that lacks a berth at most.
template <bool HasBerth>
RefitPlan moored(RefitPlanBuilder<HasBerth, true, true> builder) {
    return std::move(builder).berth("north").build();
}

} // namespace

TEST(Early, PartsAreGivenWhereTheyBecomeKnown) {
    for (const bool urgent : {false, true}) {
        auto builder = RefitPlanBuilder().crew(3).legs(legs());
        if (urgent) {
            builder = std::move(builder).urgent(true);
        }
        EXPECT_EQ(moored(builder).urgent(), urgent);
    }
    EXPECT_EQ(moored(RefitPlanBuilder<>::from_short_handed().berth("south")).berth(), "north");
}

TEST(Early, ABuilderBuildsAgainWithOneThingChanged) {
    const auto builder = RefitPlanBuilder<>::from_spring().berth("north").legs(legs());
    const auto first = builder.build();
    const auto second = RefitPlanBuilder(builder).add_leg(Leg("pier", 1)).build();
    EXPECT_EQ(first.legs().size(), 1U);
    EXPECT_EQ(second.legs().size(), 2U);
    EXPECT_EQ(builder.build(), first);
    EXPECT_EQ(RefitPlanBuilder<>::like(first).build(), first);
}

TEST(Early, AnEmptiedBuilderKeepsItsTypeAndNothingElse) {
    auto builder = LogbookBuilder().keeper("Ines").pages(3);
    EXPECT_EQ(builder.build().pages(), 3);
    EXPECT_THROW(static_cast<void>(builder.build()), MissingError);
    builder = std::move(builder).keeper("Jo").pages(1);
    EXPECT_EQ(builder.build().keeper(), "Jo");
}
