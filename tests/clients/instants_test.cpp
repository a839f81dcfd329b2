// Points in time: what the clock of the system holds beside them, and texts.
#include "PACKAGE/errors.hpp"
#include "PACKAGE/instant.hpp"
#include "PACKAGE/records.hpp"
#include "PACKAGE/tide.hpp"

#include <gtest/gtest.h>

#include <chrono>
#include <functional>
#include <optional>
#include <sstream>
#include <string>

using namespace PACKAGE;
using namespace std::chrono_literals;
using std::chrono::sys_days;

static const std::chrono::year_month_day DAY = std::chrono::year(2026) / 12 / 1;
static const Instant NOON = Instant(sys_days(DAY) + 12h);

static bool is_kept(Instant at) {
    try {
        return Tide(at, 1.0, DAY).turned() == at;
    } catch (const LimitError &error) {
        EXPECT_EQ(error.limit(), "instant");
        return false;
    }
}

static std::optional<Instant> read(const std::string &text) {
    try {
        const RecordValue::Object record{{"turned", text}, {"metres", 1.0}, {"day", "2026-12-01"}};
        return records::read_tide(record).turned();
    } catch (const RecordError &) {
        return std::nullopt;
    }
}

TEST(Instants, other_years_are_refused) {
    const Instant first = sys_days(std::chrono::year(1) / 1 / 1);
    const Instant end = sys_days(std::chrono::year(10000) / 1 / 1);
    for (const Instant at : {first - 1us, end, Instant::min(), Instant::max()}) {
        EXPECT_FALSE(is_kept(at));
    }
    for (const Instant at : {first, end - 1us, NOON}) {
        EXPECT_TRUE(is_kept(at));
    }
    EXPECT_TRUE(is_kept(std::chrono::floor<std::chrono::microseconds>(std::chrono::system_clock::now())));
}

TEST(Instants, texts_are_read_in_one_form) {
    for (const char *text : {"2026-12-01t12:00:00z", "2026-12-01T12:00:00.000-00:00", "2026-12-02T11:59:00+23:59"}) {
        EXPECT_EQ(read(text), NOON) << text;
    }
    for (const char *text :
         {"",
          "2026-12-01T12:00:00",
          "2026-12-01T12:00:00.Z",
          "2026-12-01T12:00:00.",
          "2026-12-01T12:00:00.1234567Z",
          "2026-12-01T12:00:00+",
          "2026-12-01T12:00:00+01:0",
          "2026-12-01T12:00:00+24:00",
          "2026-12-01T12:00:0\xd9\xa2Z",
          "0001-01-01T00:00:00+00:01",
          "9999-12-31T23:59:59-00:01"}) {
        EXPECT_EQ(read(text), std::nullopt) << text;
    }
    EXPECT_EQ(read(std::string("2026-12-01T12:00:00\0", 20)), std::nullopt);
}

TEST(Instants, a_product_shows_and_hashes_its_instants) {
    std::ostringstream out;
    out << Tide(NOON - 750ms, 1.0, DAY);
    EXPECT_NE(out.str().find("2026-12-01T11:59:59.25Z"), std::string::npos) << out.str();
    EXPECT_NE(std::hash<Tide>()(Tide(NOON, 1.0, DAY)), std::hash<Tide>()(Tide(NOON + 1us, 1.0, DAY)));
}
