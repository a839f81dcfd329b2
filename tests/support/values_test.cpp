#include "PACKAGE/errors.hpp"
#include "PACKAGE/values.hpp"

#include <gtest/gtest.h>

#include <cmath>
#include <sstream>

namespace PACKAGE {
namespace {

struct Base {
    virtual ~Base() = default;
    virtual std::unique_ptr<Base> clone() const = 0;
    virtual int depth() const = 0;
    bool operator==(const Base &other) const { return depth() == other.depth(); }
};

struct Deep final : Base {
    explicit Deep(int given) : given_(given) {}
    std::unique_ptr<Base> clone() const override { return std::make_unique<Deep>(*this); }
    int depth() const override { return given_; }
    int given_;
};

TEST(Values, owned_copies_keep_their_type_and_are_apart) {
    Owned<Base> one = Deep(3);
    const Owned<Base> two = one;
    dynamic_cast<Deep &>(*one).given_ = 4;
    EXPECT_EQ(one->depth(), 4);
    EXPECT_EQ(two->depth(), 3);
    EXPECT_FALSE(one == two);
    one = two;
    EXPECT_TRUE(one == two);
    EXPECT_NE(&*one, &*two);
}

TEST(Values, owned_and_shared_are_never_made_of_null) {
    EXPECT_THROW(Owned<Base>(std::unique_ptr<Base>()), std::invalid_argument);
    EXPECT_THROW(Shared<Base>(std::unique_ptr<Base>()), std::invalid_argument);
}

// Whoever keeps such a pointer could write to what others share.
static_assert(!std::is_constructible_v<Shared<Base>, std::shared_ptr<Base>>);
static_assert(!std::is_convertible_v<std::shared_ptr<const Base>, Shared<Base>>);

TEST(Values, shared_ones_have_one_pointer_and_compare_by_content) {
    const Shared<Base> one = Deep(3);
    const Shared<Base> same = one;
    const Shared<Base> other = Deep(3);
    EXPECT_EQ(one.pointer(), same.pointer());
    EXPECT_NE(one.pointer(), other.pointer());
    EXPECT_TRUE(one == other);
}

TEST(Values, blanks_are_those_of_ascii) {
    for (const char *blank : {"", " \t\n\v\f\r"}) {
        EXPECT_TRUE(detail::is_blank(blank));
    }
    for (const char *shown : {"\302\240", "\302\205", "\342\200\250", " a"}) {
        EXPECT_FALSE(detail::is_blank(shown));
    }
    EXPECT_FALSE(detail::is_blank(std::string_view("\0", 1)));
}

TEST(Values, lengths_are_code_points) {
    EXPECT_EQ(detail::length(""), 0U);
    EXPECT_EQ(detail::length("a\303\244\342\202\254\360\237\233\237"), 4U);
    EXPECT_EQ(detail::repeated("\360\237\233\237", 3), "\360\237\233\237\360\237\233\237\360\237\233\237");
}

TEST(Values, a_negative_zero_is_stored_as_a_plain_one_at_every_level) {
    EXPECT_FALSE(std::signbit(detail::plain_zero(-0.0)));
    EXPECT_FALSE(std::signbit(*detail::plain_zero(std::optional<double>(-0.0))));
    const auto rows = detail::plain_zero(std::vector<std::vector<double>>{{-0.0, -1.5}});
    EXPECT_FALSE(std::signbit(rows[0][0]));
    EXPECT_EQ(rows[0][1], -1.5);
    const auto depths = detail::plain_zero(std::map<std::string, double>{{"a", -0.0}});
    EXPECT_FALSE(std::signbit(depths.at("a")));
}

TEST(Values, messages_tell_owner_field_and_bound) {
    EXPECT_STREQ(MissingError("Buoy", {"a", "c"}).what(), "Buoy: missing a, c");
    EXPECT_STREQ(LimitError("Mark", "station", "min", 1, 0).what(), "Mark.station is 0; at least 1 is allowed");
    EXPECT_STREQ(LimitError("Leg", "hours", "below", 2.0, 1e21).what(), "Leg.hours is 1e+21; less than 2.0 is wanted");
    EXPECT_STREQ(LimitError("Leg", "label", "not_blank").what(), "Leg.label: a text that is not blank is wanted");
    EXPECT_STREQ(
        LimitError("Leg", "label", "each.not_blank", {}, "\x01\t\u0085é").what(),
        "an element of Leg.label is \"\\u0001\\t\\u0085é\"; a text that is not blank is wanted"
    );
    const std::vector<std::string> words{"red", "a \"b\""};
    EXPECT_STREQ(LimitError("Crate", "code", "one_of", words, "blue").what(), "Crate.code is \"blue\"; one of \"red\", \"a \\\"b\\\"\" is wanted");
    EXPECT_STREQ(UnknownKeyError("Mark", "a\"b", {"x", "y"}).what(), "Mark: unknown key \"a\\\"b\", known: x, y");
    EXPECT_STREQ(DuplicateKeyError("Mark", "x").what(), "Mark: key \"x\" is taken");
    EXPECT_STREQ(RefusedError("TideOffset", "too low").what(), "TideOffset: refused, too low");
}

TEST(Values, what_is_shown_is_nested_as_it_is) {
    std::ostringstream out;
    detail::show(out, std::map<std::string, std::vector<double>>{{"a", {1.0, 0.25}}, {"b", {}}});
    detail::show(out, std::optional<bool>());
    detail::show(out, std::optional<bool>(true));
    EXPECT_EQ(out.str(), "{\"a\": [1.0, 0.25], \"b\": []}nonetrue");
}

} // namespace
} // namespace PACKAGE
