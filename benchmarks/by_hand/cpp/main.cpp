// Measures the generated C++ beside what a careful author writes by hand for the same jobs.
// Prints one line a job: name, ratio, nanoseconds. `generated.py` compiles it with the generated library.

#include "by_hand.hpp"
#include "fairway/light_rhythm_pool.hpp"
#include "fairway/mark_registry.hpp"
#include "fairway/refit_plan_builder.hpp"

#include <algorithm>
#include <chrono>
#include <cstdio>

constexpr int rounds = 21;

template <class T> void keep(const T &value) {
    asm volatile("" : : "g"(&value) : "memory");
}

template <class Job> double timed(int count, Job job) {
    const auto started = std::chrono::steady_clock::now();
    for (int number = 0; number < count; ++number) {
        keep(job());
    }
    const std::chrono::duration<double, std::nano> passed = std::chrono::steady_clock::now() - started;
    return passed.count() / count;
}

// Prints the median ratio of one to the other, measured in turn, and the nanoseconds of one.
template <class One, class Other> void compare(const char *name, int count, One one, Other other) {
    timed(count, one);
    timed(count, other);
    std::vector<double> ratios, times;
    for (int round = 0; round < rounds; ++round) {
        times.push_back(timed(count, one));
        ratios.push_back(times.back() / timed(count, other));
    }
    std::sort(ratios.begin(), ratios.end());
    std::sort(times.begin(), times.end());
    std::printf("%s %.3f %.0f\n", name, ratios[rounds / 2], times[rounds / 2]);
}

int main() {
    const fairway::Position ours(54.5, 10.25);
    const by_hand::Position theirs(54.5, 10.25);
    const fairway::MarkRegistry registry;
    const by_hand::MarkRegistry own_registry;
    compare(
        "factory", 200'000,
        [&] { return registry.make("buoy", 17, ours, {.remarks = "none"})->station(); },
        [&] { return own_registry.make("buoy", 17, theirs, {.remarks = "none"})->station(); }
    );

    const fairway::Leg inspect("Inspect");
    const by_hand::Leg own("Inspect");
    const std::string labels[] = {"lantern", "mooring", "paint", "topmark"};
    int at = 0;
    compare(
        "position", 500'000,
        [&] { return fairway::Position(++at % 90, 10.25); },
        [&] { return by_hand::Position(++at % 90, 10.25); }
    );
    compare(
        "leg", 500'000,
        [&] { return fairway::Leg(labels[++at & 3], {.hours = 1.0}); },
        [&] { return by_hand::Leg(labels[++at & 3], 1.0); }
    );
    fairway::Leg changed("Inspect");
    by_hand::Leg own_changed("Inspect");
    compare(
        "setter", 500'000,
        [&] { return changed.set_label(labels[++at & 3]), changed.label().size(); },
        [&] { return own_changed.set_label(labels[++at & 3]), own_changed.label().size(); }
    );
    compare(
        "builder", 100'000,
        [&] {
            fairway::RefitPlanBuilder builder;
            builder.title("Winter").crew(3).tags({"ice", "north"});
            return builder.add_leg(inspect).add_leg(inspect).add_leg(inspect).build();
        },
        [&] {
            by_hand::RefitPlanBuilder builder;
            builder.title("Winter").crew(3).tags({"ice", "north"});
            return builder.add_leg(own).add_leg(own).add_leg(own).build();
        }
    );

    const fairway::RefitPlan plan("Winter", std::vector<fairway::Leg>(50, inspect));
    const by_hand::RefitPlan own_plan("Winter", std::vector<by_hand::Leg>(50, own), 2, {});
    compare("clone", 20'000, [&] { return plan.duplicate(); }, [&] { return own_plan.fresh_clone(); });

    fairway::LightRhythmPool pool;
    const auto rhythm = pool.get("Fl", 4000);
    by_hand::Rhythms held; // the language's own map under a lock
    held.add(std::make_shared<const by_hand::Rhythm>("Fl", 4000));
    compare("pool", 500'000, [&] { return pool.get("Fl", 4000); }, [&] { return held.get("Fl", 4000); });
}
