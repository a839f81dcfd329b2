#pragma once

#include <chrono>
#include <cstddef>
#include <cstdint>
#include <optional>
#include <ostream>
#include <string>
#include <string_view>

namespace NAMESPACE {

/// A point in time, to the microsecond; products hold those of the years 1 to 9999 in UTC.
using Instant = std::chrono::sys_time<std::chrono::microseconds>;

namespace detail {

/// Whether it is of the years 1 to 9999.
inline bool is_instant(Instant at) {
    using std::chrono::sys_days, std::chrono::year;
    return at >= sys_days(year(1) / 1 / 1) && at < sys_days(year(10000) / 1 / 1);
}

/// A number with so many digits at least.
inline std::string in_digits(std::int64_t number, std::size_t least) {
    const std::string shown = std::to_string(number);
    return shown.size() < least ? std::string(least - shown.size(), '0') + shown : shown;
}

/// A point in time as 2026-12-01T05:30:00.25Z, without zeros at the end of a fraction.
inline std::string instant_text(Instant at) {
    const auto begin = std::chrono::floor<std::chrono::days>(at);
    const std::chrono::year_month_day day(begin);
    const std::chrono::hh_mm_ss<std::chrono::microseconds> time(at - begin);
    std::string shown = in_digits(static_cast<int>(day.year()), 4);
    shown += "-" + in_digits(static_cast<unsigned>(day.month()), 2);
    shown += "-" + in_digits(static_cast<unsigned>(day.day()), 2);
    shown += "T" + in_digits(time.hours().count(), 2);
    shown += ":" + in_digits(time.minutes().count(), 2);
    shown += ":" + in_digits(time.seconds().count(), 2);
    if (time.subseconds().count() != 0) {
        const std::string fraction = in_digits(time.subseconds().count(), 6);
        shown += "." + fraction.substr(0, fraction.find_last_not_of('0') + 1);
    }
    return shown + "Z";
}

/// The number that some digits tell, and nothing where they are no digits or not that many.
inline std::optional<int> in_clock(std::string_view text, std::size_t begin, std::size_t count, int most) {
    int sum = 0;
    if (text.size() < begin + count || count == 0) {
        return std::nullopt;
    }
    for (const char digit : text.substr(begin, count)) {
        if (digit < '0' || digit > '9') {
            return std::nullopt;
        }
        sum = sum * 10 + (digit - '0');
    }
    return sum <= most ? std::optional(sum) : std::nullopt;
}

/// How far an offset such as +05:30 is ahead of UTC.
inline std::optional<std::chrono::minutes> offset_of(std::string_view zone) {
    if (zone == "Z" || zone == "z") {
        return std::chrono::minutes(0);
    }
    const std::optional<int> hours = in_clock(zone, 1, 2, 23);
    const std::optional<int> minutes = in_clock(zone, 4, 2, 59);
    if (zone.size() != 6 || (zone[0] != '+' && zone[0] != '-') || zone[3] != ':' || !hours || !minutes) {
        return std::nullopt;
    }
    const auto ahead = std::chrono::minutes(*hours * 60 + *minutes);
    return zone[0] == '-' ? -ahead : ahead;
}

/// The point in time that a text tells as RFC 3339 has it, with any offset and at most six digits of a second.
inline std::optional<Instant> instant_of(std::string_view text) {
    const std::optional<int> year = in_clock(text, 0, 4, 9999);
    const std::optional<int> month = in_clock(text, 5, 2, 12);
    const std::optional<int> day = in_clock(text, 8, 2, 31);
    const std::optional<int> hour = in_clock(text, 11, 2, 23);
    const std::optional<int> minute = in_clock(text, 14, 2, 59);
    const std::optional<int> second = in_clock(text, 17, 2, 59);
    if (!year || !month || !day || !hour || !minute || !second || text.size() < 20) {
        return std::nullopt;
    }
    const bool is_formed = text[4] == '-' && text[7] == '-' && (text[10] == 'T' || text[10] == 't') && text[13] == ':' &&
                           text[16] == ':';
    std::size_t end = 19;
    std::optional<int> micros = 0;
    if (text[end] == '.') {
        const std::size_t after = text.find_first_not_of("0123456789", ++end);
        const std::size_t length = (after == std::string_view::npos ? text.size() : after) - end;
        micros = length <= 6 ? in_clock(text, end, length, 999999) : std::nullopt;
        for (std::size_t digits = length; micros && digits < 6; ++digits) {
            *micros *= 10;
        }
        end += length;
    }
    const std::optional<std::chrono::minutes> offset = offset_of(text.substr(end));
    const std::chrono::year_month_day date(
        std::chrono::year(*year),
        std::chrono::month(static_cast<unsigned>(*month)),
        std::chrono::day(static_cast<unsigned>(*day))
    );
    if (!is_formed || !micros || !offset || !date.ok()) {
        return std::nullopt;
    }
    const Instant at = std::chrono::sys_days(date) + std::chrono::hours(*hour) + std::chrono::minutes(*minute) +
                       std::chrono::seconds(*second) + std::chrono::microseconds(*micros) - *offset;
    return is_instant(at) ? std::optional(at) : std::nullopt;
}

inline std::size_t hash_of(Instant at) {
    return static_cast<std::size_t>(at.time_since_epoch().count());
}

inline void show(std::ostream &out, Instant at) {
    out << instant_text(at);
}

} // namespace detail
} // namespace NAMESPACE
