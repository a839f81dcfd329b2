// Days: each that there is, and nothing else.
#include "PACKAGE/errors.hpp"
#include "PACKAGE/notice.hpp"
#include "PACKAGE/records.hpp"
#include "PACKAGE/tide.hpp"

#include <gtest/gtest.h>

#include <chrono>
#include <sstream>
#include <string>

using namespace PACKAGE;
using std::chrono::year_month_day;

static bool is_kept(year_month_day day) {
    try {
        return Tide(day, 1.0).day() == day;
    } catch (const LimitError &error) {
        EXPECT_EQ(error.limit(), "date");
        return false;
    }
}

static bool is_read(const std::string &text) {
    try {
        static_cast<void>(records::read_tide(RecordValue::Object{{"day", text}, {"metres", 1.0}}));
        return true;
    } catch (const RecordError &) {
        return false;
    }
}

TEST(Days, every_day_is_one_and_no_other_is) {
    for (const int year : {-32767, -1, 0, 1, 4, 100, 400, 1900, 2000, 2023, 2024, 9999, 10000, 32767}) {
        for (unsigned month = 0; month < 14; ++month) {
            for (unsigned day = 0; day < 34; ++day) {
                const year_month_day date{std::chrono::year(year), std::chrono::month(month), std::chrono::day(day)};
                EXPECT_EQ(is_kept(date), date.ok() && year >= 1 && year <= 9999) << year << ' ' << month << ' ' << day;
            }
        }
    }
}

TEST(Days, texts_are_read_in_one_form) {
    EXPECT_TRUE(is_read("2024-02-29"));
    for (const char *text : {"2023-02-29", "2026-12-1 ", "2026-12-0:", "2026-1/-01", "2026:12:01", "\xd9\xa2\xd9\xa0-12-01", "/999-12-01"}) {
        EXPECT_FALSE(is_read(text)) << text;
    }
    EXPECT_FALSE(is_read(std::string("2026-12-0\0", 10)));
}

TEST(Days, a_product_shows_its_days) {
    std::ostringstream out;
    out << Tide(std::chrono::year(7) / 1 / 2, 1.0);
    EXPECT_NE(out.str().find("0007-01-02"), std::string::npos) << out.str();
}
