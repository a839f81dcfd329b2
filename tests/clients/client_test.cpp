// Programs as a developer would write them, from what the documentation tells.

#include "PACKAGE/errors.hpp"
#include "PACKAGE/lantern.hpp"
#include "PACKAGE/light_rhythm_pool.hpp"
#include "PACKAGE/mark_registry.hpp"
#include "PACKAGE/refit_plan_builder.hpp"
#include "PACKAGE/side.hpp"
#include "PACKAGE/testing/outfit_stand_in.hpp"
#include "PACKAGE/tide_offset.hpp"
#include "PACKAGE/topmark_pool.hpp"

#include <gtest/gtest.h>

#include <atomic>
#include <latch>
#include <sstream>
#include <thread>
#include <type_traits>
#include <unordered_map>
#include <unordered_set>

namespace {

using namespace PACKAGE;

// A kind that nobody declared: it keeps the limits of all marks, and adds something of its own.
class Lightship final : public Mark {
public:
    Lightship(std::int64_t station, Position position, MarkOptions options, int crew)
        : Mark(station, std::move(position), std::move(options)), crew_(crew) {}

    std::string_view key() const override { return "lightship"; }
    std::unique_ptr<Mark> clone() const override { return std::make_unique<Lightship>(*this); }
    std::string chart_label() const override { return "lightship with " + std::to_string(crew_) + " aboard"; }
    double range_from(double eye_height) const override { return eye_height + 12.0; }

private:
    bool equals(const Mark &other) const override { return crew_ == static_cast<const Lightship &>(other).crew_; }
    void show(std::ostream &out) const override { out << "Lightship{" << crew_ << '}'; }

    int crew_;
};

Position basin() {
    return Position(54.2, 9.1);
}

std::string shown(const auto &made) {
    std::ostringstream out;
    out << made;
    return out.str();
}

TEST(Client, plugs_a_kind_in) {
    MarkRegistry registry;
    registry.add("lightship", [](std::int64_t station, Position position, MarkOptions options) {
        return std::make_unique<Lightship>(station, std::move(position), std::move(options), 7);
    });
    EXPECT_EQ(registry.keys(), (std::vector<std::string>{"beacon", "buoy", "lightship"}));

    const Owned<Mark> ship = registry.make("lightship", 3, basin(), {.side = Side::port});
    EXPECT_EQ(ship->key(), "lightship");
    EXPECT_EQ(ship->side(), Side::port);
    EXPECT_EQ(ship->chart_label(), "lightship with 7 aboard");
    const Owned<Mark> twin = ship;
    EXPECT_EQ(*twin, *ship);
    EXPECT_NE(&*twin, &*ship);
    EXPECT_NE(dynamic_cast<const Lightship *>(&*twin), nullptr);

    EXPECT_THROW(registry.make("lightship", 0, basin()), LimitError);
    try {
        MarkRegistry().make("lightship", 3, basin());
        FAIL() << "another registry knows it";
    } catch (const UnknownKeyError &error) {
        EXPECT_EQ(error.key(), "lightship");
        EXPECT_EQ(error.known(), (std::vector<std::string>{"beacon", "buoy"}));
    }
}

TEST(Client, asks_a_loader_that_throws_again) {
    MarkRegistry registry;
    int asked = 0;
    registry.add_loader("lightship", [&asked]() -> MarkRegistry::Maker {
        if (++asked == 1) {
            throw std::runtime_error("the plug-in is locked");
        }
        return [](std::int64_t station, Position position, MarkOptions options) {
            return std::make_unique<Lightship>(station, std::move(position), std::move(options), 7);
        };
    });
    EXPECT_THROW(static_cast<void>(registry.make("lightship", 3, basin())), std::runtime_error);
    EXPECT_EQ(registry.make("lightship", 3, basin())->chart_label(), "lightship with 7 aboard");
    EXPECT_EQ(registry.make("lightship", 4, basin())->station(), 4);
    EXPECT_EQ(asked, 2);
    EXPECT_THROW(registry.add_loader("none", nullptr), MissingError);
    EXPECT_THROW(registry.add_loader("buoy", [] { return MarkRegistry::Maker(); }), DuplicateKeyError);
}

TEST(Client, changes_a_clone_prints_both_and_compares) {
    auto builder = RefitPlanBuilder::from_spring_refit();
    const RefitPlan plan = builder.title("Basin 4").add_leg(Leg("Inspect")).add_tag("steel").serial(7).build();
    const std::string before = shown(plan);

    RefitPlan clone = plan.duplicate();
    EXPECT_FALSE(clone.serial().has_value());
    clone.mutable_legs().front().set_label("Paint");
    clone.set_tags({"wood"});
    EXPECT_EQ(shown(plan), before);
    EXPECT_EQ(plan.legs().front().label(), "Inspect");
    EXPECT_EQ(clone.legs().front().label(), "Paint");
    EXPECT_EQ(plan.tags(), (std::vector<std::string>{"spring", "steel"}));
}

TEST(Client, changes_one_leg_after_the_other) {
    RefitPlan plan("Basin 4", {Leg("Inspect")}, {.tags = {"steel"}});
    RefitPlan clone = plan.duplicate();
    plan.add_tag("spring");
    clone.add_tag("autumn");
    clone.put_tag(0, "wood");
    EXPECT_EQ(plan.tags(), (std::vector<std::string>{"steel", "spring"}));
    EXPECT_EQ(clone.tags(), (std::vector<std::string>{"wood", "autumn"}));
    EXPECT_THROW(plan.put_tag(2, "lost"), std::out_of_range);
    EXPECT_THROW(plan.remove_tag(2), std::out_of_range);
    EXPECT_EQ(plan.tags(), (std::vector<std::string>{"steel", "spring"}));
    plan.add_leg(Leg("Paint"));
    plan.remove_leg(0);
    EXPECT_THROW(plan.remove_leg(0), LimitError);
    EXPECT_EQ(plan.legs(), std::vector<Leg>{Leg("Paint")});
}

TEST(Client, finds_products_in_unordered_containers) {
    std::unordered_map<Position, int> soundings{{Position(54.2, 9.1), 12}, {Position(0.0, 0.0), 3}};
    EXPECT_EQ(soundings.at(Position(54.2, 9.1)), 12);
    EXPECT_EQ(soundings.at(Position(-0.0, 0.0)), 3);
    LightRhythmPool pool;
    const std::unordered_set<Shared<LightRhythm>> shown{pool.get("Fl", 4000), pool.get("Fl", 4000), LightRhythm("Fl", 4000)};
    EXPECT_EQ(shown.size(), 1U);
    const Buoy buoy(3, basin(), {.draught = 2.75});
    const std::unordered_set<Owned<Mark>> marks{Owned<Mark>(buoy), Owned<Mark>(buoy), Owned<Mark>(Buoy(3, basin()))};
    EXPECT_EQ(marks.size(), 2U);
    EXPECT_TRUE(marks.contains(Owned<Mark>(buoy)));
    const Mark &mark = buoy;
    EXPECT_EQ(std::hash<Mark>{}(mark), std::hash<Buoy>{}(buoy));
    EXPECT_NE(std::hash<Buoy>{}(buoy), std::hash<Buoy>{}(Buoy(3, basin())));
}

TEST(Client, forgets_and_goes_on) {
    RefitPlanBuilder builder;
    try {
        static_cast<void>(builder.build());
        FAIL() << "nothing is missing";
    } catch (const MissingError &error) {
        EXPECT_EQ(error.owner(), "RefitPlan");
        EXPECT_EQ(error.fields(), (std::vector<std::string>{"title", "legs"}));
    }
    const RefitPlan first = builder.title("Basin 4").add_leg(Leg("Inspect", {.hours = 2.5})).build();
    const RefitPlan second = builder.title("Basin 5").build();
    EXPECT_EQ(first.title(), "Basin 4");
    EXPECT_EQ(second.title(), "Basin 5");
    EXPECT_EQ(second.legs().front().hours(), 2.5);
}

// What a harbour office does with whatever outfit it is handed.
std::pair<double, std::size_t> fit_out(const Outfit &outfit) {
    return {outfit.hull({.length = 4.5})->length(), outfit.moorings().size()};
}

// What a temporary holds is moved out of it: a reference into it would dangle.
static_assert(std::is_same_v<decltype(std::declval<RefitPlan &>().legs()), const std::vector<Leg> &>);
static_assert(std::is_same_v<decltype(std::declval<RefitPlan>().legs()), std::vector<Leg>>);
template <class Plan>
concept has_legs_to_change = requires(Plan plan) { std::forward<Plan>(plan).mutable_legs(); };
static_assert(has_legs_to_change<RefitPlan &> && !has_legs_to_change<RefitPlan>);

TEST(Client, iterates_over_what_a_temporary_holds) {
    const RefitPlan plan("Basin 4", {Leg("Inspect"), Leg("Paint")});
    std::string labels;
    for (const Leg &leg : RefitPlan(plan).legs()) {
        labels += leg.label() + " ";
    }
    EXPECT_EQ(labels, "Inspect Paint ");
    EXPECT_EQ(Leg("Inspect").label(), "Inspect");
}

TEST(Client, asks_a_pool_without_making_a_string) {
    LightRhythmPool pool;
    const std::string_view code = "Fl";
    EXPECT_EQ(pool.get(code, 4000).pointer(), pool.get("Fl", 4000).pointer());
}

TEST(Client, takes_a_stand_in_for_a_family) {
    const StandInOutfit stand_in;
    EXPECT_EQ(fit_out(stand_in), (std::pair<double, std::size_t>(4.5, 1)));
    EXPECT_EQ(stand_in.asked(), (std::vector<std::string>{"hull", "moorings"}));
    EXPECT_EQ(fit_out(Outfit::of("ice")), (std::pair<double, std::size_t>(4.5, 1)));
    EXPECT_EQ(fit_out(Outfit::of("nowhere")), (std::pair<double, std::size_t>(4.5, 2)));
}

TEST(Client, asks_for_an_offset_or_nothing) {
    EXPECT_THROW(TideOffset::make(-501, "LAT"), RefusedError);
    EXPECT_EQ(TideOffset::make_or_null(40, " "), nullptr);
    const auto offset = TideOffset::make(40, "LAT");
    const auto *known = dynamic_cast<const KnownOffset *>(offset.get());
    ASSERT_NE(known, nullptr);
    EXPECT_EQ(known->centimetres(), 40);
    EXPECT_EQ(known->datum(), "LAT");
}

TEST(Client, lights_a_hundred_lanterns_with_one_rhythm) {
    std::atomic<int> makings = 0;
    LightRhythmPool pool([&](const std::string &code, std::int64_t period_ms) {
        ++makings;
        std::this_thread::yield();
        return LightRhythm(code, period_ms, {.pulses = {300, 3700}});
    });
    std::latch gate(10);
    std::vector<std::vector<Lantern>> lit(10);
    {
        std::vector<std::jthread> keepers;
        for (auto &own : lit) {
            keepers.emplace_back([&] {
                gate.arrive_and_wait();
                for (int number = 0; number < 10; ++number) {
                    own.push_back(Lantern(pool.get("Fl", 4000), basin()));
                }
            });
        }
    }
    for (const auto &own : lit) {
        for (const Lantern &lantern : own) {
            EXPECT_EQ(lantern.rhythm().pointer(), lit.front().front().rhythm().pointer());
        }
    }
    EXPECT_EQ(makings, 1);
    EXPECT_EQ(pool.made(), 1);
    EXPECT_EQ(pool.reused(), 99);
}

TEST(Client, lets_a_weak_pool_forget) {
    TopmarkPool pool;
    std::weak_ptr<const Topmark> gone;
    {
        const auto first = pool.get("cone");
        EXPECT_EQ(pool.get("cone").pointer(), first.pointer());
        gone = first.pointer();
    }
    EXPECT_TRUE(gone.expired());
    static_cast<void>(pool.get("cone"));
    EXPECT_EQ(pool.made(), 2);
    EXPECT_EQ(pool.reused(), 1);
}
TEST(Client, refuses_a_maker_that_asks_for_its_own_key) {
    std::unique_ptr<LightRhythmPool> pool;
    pool = std::make_unique<LightRhythmPool>(
        [&](const std::string &code, std::int64_t period_ms) { return *pool->get(code, period_ms); });
    EXPECT_THROW(pool->get("Fl", 4000), RefusedError);
    EXPECT_THROW(pool->get("Fl", 4000), RefusedError);
    EXPECT_EQ(pool->made(), 0);
}

TEST(Client, refuses_makers_that_are_nothing_or_give_nothing) {
    EXPECT_THROW(LightRhythmPool(LightRhythmPool::Maker()), MissingError);
    MarkRegistry registry;
    EXPECT_THROW(registry.add("raft", nullptr), MissingError);
    registry.add("raft", [](std::int64_t, Position, MarkOptions) -> std::unique_ptr<Mark> { return nullptr; });
    EXPECT_THROW(registry.make("raft", 3, Position(54.2, 9.1)), RefusedError);
}

TEST(Client, moves_leave_nothing_that_breaks) {
    const Position position(54.2, 9.1);
    Owned<Mark> mark = Buoy(3, position);
    const Owned<Mark> taken = std::move(mark);
    const std::vector<Owned<Mark>> copied(2, mark); // NOLINT(bugprone-use-after-move): a copy of nothing is nothing
    EXPECT_EQ(copied[0], mark);
    EXPECT_NE(taken, mark);
    LightRhythmPool pool([](const std::string &code, std::int64_t period_ms) { return LightRhythm(code, period_ms); });
    Shared<LightRhythm> rhythm = pool.get("Fl", 4000);
    const Shared<LightRhythm> other = std::move(rhythm);
    EXPECT_EQ(rhythm->code(), other->code()); // what is shared is copied, never taken
}

template <class... Functions> struct Told : Functions... {
    using Functions::operator()...;
};

struct OwnOffset : TideOffset {}; // nobody can make one: the base is closed
static_assert(!std::is_default_constructible_v<OwnOffset>);

TEST(Client, tells_the_kinds_of_a_closed_set_apart) {
    const auto centimetres = Told{[](const KnownOffset &known) { return known.centimetres(); },
                                  [](const NoOffset &) { return std::int64_t{0}; }};
    EXPECT_EQ(TideOffset::make(40, "LAT")->visit(centimetres), 40);
    EXPECT_EQ(TideOffset::make(0, "LAT")->visit(centimetres), 0);
}

TEST(Client, reads_words_from_what_a_file_holds) {
    EXPECT_EQ(parse_side("port"), Side::port);
    EXPECT_THROW(parse_side("larboard"), UnknownKeyError);
    EXPECT_EQ(every_side.size(), 2U);
}

} // namespace
