#pragma once

#include <chrono>
#include <cstddef>
#include <cstdint>
#include <optional>
#include <ostream>
#include <string>
#include <string_view>

namespace NAMESPACE {

/// A length of time, to the microsecond; products hold those of at most 100,000 days.
using Duration = std::chrono::microseconds;

namespace detail {

/// Whether it is of at most 100,000 days.
inline bool is_duration(Duration length) {
    constexpr Duration longest = std::chrono::days(100000);
    return -longest <= length && length <= longest;
}

/// A length of time as PT26H30M0.5S: hours, minutes and seconds, those that are not zero.
inline std::string duration_text(Duration length) {
    const std::int64_t count = length.count();
    const std::uint64_t total = count < 0 ? 0U - static_cast<std::uint64_t>(count) : static_cast<std::uint64_t>(count);
    const std::uint64_t minutes = total / 60000000U;
    const std::uint64_t rest = total % 60000000U;
    std::string shown = count < 0 ? "-PT" : "PT";
    shown += minutes >= 60U ? std::to_string(minutes / 60U) + "H" : "";
    shown += minutes % 60U != 0U ? std::to_string(minutes % 60U) + "M" : "";
    if (rest != 0U || total == 0U) {
        const std::string micros = std::to_string(rest % 1000000U);
        std::string seconds = std::to_string(rest / 1000000U) + "." + std::string(6U - micros.size(), '0') + micros;
        seconds.erase(seconds.find_last_not_of('0') + 1);
        shown += (seconds.back() == '.' ? seconds.substr(0, seconds.size() - 1) : seconds) + "S";
    }
    return shown;
}

/// So many digits at most, one at least, and nothing else.
inline std::optional<std::int64_t> count_of(std::string_view digits, std::size_t most) {
    if (digits.empty() || digits.size() > most || digits.find_first_not_of("0123456789") != std::string_view::npos) {
        return std::nullopt;
    }
    std::int64_t count = 0;
    for (const char digit : digits) {
        count = count * 10 + (digit - '0');
    }
    return count;
}

/// Takes the count before a unit from a text, if that has the unit.
inline std::optional<std::int64_t> taken(std::string_view &text, char unit, std::size_t most) {
    const std::size_t end = text.find(unit);
    if (end == std::string_view::npos) {
        return 0;
    }
    const std::string_view digits = text.substr(0, end);
    text.remove_prefix(end + 1);
    return count_of(digits, most);
}

/// The microseconds of seconds with a fraction of at most six digits; none where nothing is told.
inline std::optional<std::int64_t> seconds_of(std::string_view text) {
    if (text.empty()) {
        return 0;
    }
    if (!text.ends_with('S')) {
        return std::nullopt;
    }
    text.remove_suffix(1);
    const std::size_t point = text.find('.');
    const std::optional<std::int64_t> whole = count_of(text.substr(0, point), 10);
    std::optional<std::int64_t> micros = 0;
    if (point != std::string_view::npos) {
        const std::string_view fraction = text.substr(point + 1);
        micros = count_of(fraction, 6);
        for (std::size_t digits = fraction.size(); micros && digits < 6; ++digits) {
            *micros *= 10;
        }
    }
    return whole && micros ? std::optional(*whole * 1000000 + *micros) : std::nullopt;
}

/// The length of time that a text tells as ISO 8601 has it: weeks, or days, hours, minutes and seconds.
inline std::optional<Duration> duration_of(std::string_view text) {
    const bool is_negative = text.starts_with('-');
    text.remove_prefix(is_negative ? 1 : 0);
    if (!text.starts_with('P') || text.ends_with('P') || text.ends_with('T')) {
        return std::nullopt;
    }
    text.remove_prefix(1);
    const std::size_t begin = text.find('T');
    std::string_view date = text.substr(0, begin);
    std::string_view clock = begin == std::string_view::npos ? std::string_view() : text.substr(begin + 1);
    const bool is_weeks = text.ends_with('W');
    const std::optional<std::int64_t> days = is_weeks ? taken(date, 'W', 5) : taken(date, 'D', 6);
    const std::optional<std::int64_t> hours = taken(clock, 'H', 7);
    const std::optional<std::int64_t> minutes = taken(clock, 'M', 9);
    const std::optional<std::int64_t> micros = seconds_of(clock);
    if (!days || !hours || !minutes || !micros || !date.empty()) {
        return std::nullopt;
    }
    const Duration length = std::chrono::days(is_weeks ? *days * 7 : *days) + std::chrono::hours(*hours) +
                            std::chrono::minutes(*minutes) + Duration(*micros);
    return is_duration(length) ? std::optional(is_negative ? -length : length) : std::nullopt;
}

inline std::size_t hash_of(Duration length) {
    return static_cast<std::size_t>(length.count());
}

inline void show(std::ostream &out, Duration length) {
    out << duration_text(length);
}

} // namespace detail
} // namespace NAMESPACE
