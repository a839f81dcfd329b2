// Times, durations and decimal numbers: what the types hold, and texts.
#include "PACKAGE/decimal.hpp"
#include "PACKAGE/duration.hpp"
#include "PACKAGE/errors.hpp"
#include "PACKAGE/records.hpp"
#include "PACKAGE/tide.hpp"
#include "PACKAGE/time.hpp"

#include <gtest/gtest.h>

#include <chrono>
#include <functional>
#include <optional>
#include <sstream>
#include <stdexcept>
#include <string>
#include <vector>

using namespace PACKAGE;
using namespace std::chrono_literals;

static const TimeOfDay SIX = TimeOfDay::at(6, 0);
static const Decimal ONE = Decimal::of("1");

static std::optional<Tide> read(const std::string &turns, const std::string &runs, const std::string &rises) {
    try {
        const RecordValue::Object record{{"turns", turns}, {"runs", runs}, {"rises", rises}};
        return records::read_tide(record);
    } catch (const RecordError &) {
        return std::nullopt;
    }
}

static bool is_kept(Duration length) {
    try {
        return Tide(SIX, length, ONE).runs() == length;
    } catch (const LimitError &error) {
        EXPECT_EQ(error.limit(), "duration");
        return false;
    }
}

TEST(Tides, longer_durations_are_refused) {
    const Duration most = std::chrono::days(100000);
    for (const Duration length : {most, -most, Duration(0), Duration(1), Duration(-1)}) {
        EXPECT_TRUE(is_kept(length));
    }
    for (const Duration length : {most + 1us, -most - 1us, Duration::min(), Duration::max()}) {
        EXPECT_FALSE(is_kept(length));
    }
}

TEST(Tides, decimals_have_the_order_of_numbers) {
    const std::vector<std::string> in_order{
        "-99999999999999999999.999999999999999999",
        "-10000000000.5",
        "-10",
        "-9.5",
        "-0.000000000000000001",
        "0",
        "0.1",
        "0.25",
        "9",
        "10.000000000000000001",
        "10000000000",
        "10000000000.000000000000000001",
        "99999999999999999999.999999999999999999",
    };
    for (std::size_t at = 0; at < in_order.size(); ++at) {
        EXPECT_EQ(Decimal::of(in_order[at]).text(), in_order[at]);
        for (std::size_t other = 0; other < in_order.size(); ++other) {
            EXPECT_EQ(Decimal::of(in_order[at]) < Decimal::of(in_order[other]), at < other);
        }
    }
    EXPECT_EQ(Decimal::of("-0.00"), Decimal());
    EXPECT_EQ(Decimal::of("12.500"), Decimal::of("12.5"));
    static_assert(Decimal::of("12.50") == Decimal::of("12.5"));
    EXPECT_THROW((void)Decimal::of("12,5"), std::invalid_argument);
}

TEST(Tides, times_are_those_of_a_day) {
    static_assert(TimeOfDay::at(6, 30) > TimeOfDay());
    EXPECT_EQ(TimeOfDay::from(24h), std::nullopt);
    EXPECT_EQ(TimeOfDay::from(-1us), std::nullopt);
    EXPECT_EQ(TimeOfDay::from(24h - 1us)->text(), "23:59:59.999999");
    EXPECT_EQ(TimeOfDay::at(6, 30, 0, 250000).since_midnight(), 6h + 30min + 250ms);
    EXPECT_THROW((void)TimeOfDay::at(24, 0), std::invalid_argument);
}

TEST(Tides, texts_are_read_in_one_form) {
    for (const char *text : {"", "06:00", "6:00:00", "24:00:00", "06:00:00.", "06:00:00.1234567", "06:00:00Z", "06:00:0\xd9\xa2"}) {
        EXPECT_EQ(read(text, "PT1H", "1"), std::nullopt) << text;
    }
    for (const char *text :
         {"", "-", "P", "-P", "PT", "P1DT", "PW", "PTH", "PTS", "PT.5S", "PT5.S", "PT1.5H", "P1W1D", "P1WT1H", "PT1H1H",
          "PT1M1H", "pt1h", "+PT1H", "P100001D", "PT99999999999S", "P1M", "PT1H "}) {
        EXPECT_EQ(read("06:00:00", text, "1"), std::nullopt) << text;
    }
    for (const char *text : {"", "-", ".", "-.", "1.", ".5", "01", "+1", "1e3", "1-", "1.2.3", "1.1234567890123456789"}) {
        EXPECT_EQ(read("06:00:00", "PT1H", text), std::nullopt) << text;
    }
    EXPECT_EQ(read(std::string("06:00:00\0", 9), "PT1H", "1"), std::nullopt);
    EXPECT_EQ(read("06:00:00.000", "PT3600.0S", "1.000"), Tide(SIX, 1h, ONE));
    EXPECT_EQ(read("06:00:00", "-P1W", "1")->runs(), -168h);
    EXPECT_EQ(read("06:00:00", "P1DT1M0.5S", "1")->runs(), 24h + 1min + 500ms);
}

TEST(Tides, a_product_shows_and_hashes_them) {
    std::ostringstream out;
    out << Tide(TimeOfDay::at(6, 30, 0, 250000), -90s + 500ms, Decimal::of("-0.50"));
    for (const char *shown : {"06:30:00.25", "-PT1M29.5S", "-0.5"}) {
        EXPECT_NE(out.str().find(shown), std::string::npos) << out.str();
    }
    EXPECT_NE(std::hash<Tide>()(Tide(SIX, 1h, ONE)), std::hash<Tide>()(Tide(SIX, 1h, Decimal::of("2"))));
}
