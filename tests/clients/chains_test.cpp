// Products that hold others of their own type, thousands deep.

#include "PACKAGE/line.hpp"
#include "PACKAGE/link.hpp"

#include <gtest/gtest.h>

#include <algorithm>
#include <chrono>
#include <memory>
#include <stdexcept>
#include <utility>

namespace {

using namespace PACKAGE;
using Clock = std::chrono::steady_clock;

Link chain(int depth) {
    Link first("first", {.serial = 7});
    for (int each = 0; each < depth; ++each) {
        Link outer("outer", {.serial = 7});
        outer.set_next(std::move(first));
        first = std::move(outer);
    }
    return first;
}

std::unique_ptr<Line> line(int depth) {
    std::unique_ptr<Line> first = std::make_unique<Rope>("first");
    for (int each = 0; each < depth; ++each) {
        auto outer = std::make_unique<Cable>("outer", CableOptions{.serial = 7});
        outer->set_next(Owned<Line>(std::move(first)));
        first = std::move(outer);
    }
    return first;
}

template <class Duplicate>
Clock::duration shortest(Duplicate duplicate) {
    auto least = Clock::duration::max();
    for (int each = 0; each < 5; ++each) {
        const auto begun = Clock::now();
        duplicate();
        least = std::min(least, Clock::now() - begun);
    }
    return least;
}

/// Eight times as deep takes eight times as long; copied once a level, it took sixty-four times.
TEST(Chains, AreDuplicatedOnce) {
    const auto shallow = chain(500), deep = chain(4000);
    EXPECT_LT(shortest([&] { return deep.duplicate(); }), 30 * shortest([&] { return shallow.duplicate(); }));
    const auto near = line(500), far = line(4000);
    EXPECT_LT(shortest([&] { return far->duplicate(); }), 30 * shortest([&] { return near->duplicate(); }));
}

TEST(Chains, StartAgainAtEveryLevel) {
    const auto original = chain(2000);
    const auto duplicate = original.duplicate();
    int levels = 0;
    for (const Link *each = &duplicate; each != nullptr; each = each->next() ? &**each->next() : nullptr) {
        EXPECT_EQ(each->serial(), std::nullopt);
        ++levels;
    }
    EXPECT_EQ(levels, 2001);
    EXPECT_EQ(original.next()->operator*().serial(), 7);
}

/// A kind may start with a number of its own, though the member is that of its base.
TEST(Chains, OfAKindStartAsTheKindDoes) {
    Rope rope("tow", {.serial = 9});
    rope.set_next(Owned<Line>(Rope("tail", {.serial = 9})));
    const auto duplicate = rope.duplicate();
    EXPECT_EQ(duplicate->serial(), 3);
    EXPECT_EQ((*duplicate->next())->serial(), 3);
    EXPECT_EQ(rope.clone()->serial(), 9);
    EXPECT_EQ(Cable("anchor", {.serial = 9}).duplicate()->serial(), std::nullopt);
}

/// What was moved from holds nothing: it is refused on the way in, and nothing changes.
TEST(Chains, RefuseWhatWasMovedFrom) {
    Owned<Line> first = Rope("first");
    const Owned<Line> second = std::move(first);
    EXPECT_TRUE(first.was_moved_from()); // NOLINT(bugprone-use-after-move)
    EXPECT_THROW(Cable("outer", {.next = first}), std::invalid_argument);
    Cable outer("outer", {.next = second});
    EXPECT_THROW(outer.set_next(first), std::invalid_argument);
    EXPECT_EQ((*outer.next())->label(), "first");
    EXPECT_NO_THROW(Cable("alone", {.next = std::nullopt}));
}

} // namespace
