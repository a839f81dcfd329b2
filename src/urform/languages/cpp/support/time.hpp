#pragma once

#include <chrono>
#include <compare>
#include <cstddef>
#include <functional>
#include <optional>
#include <ostream>
#include <stdexcept>
#include <string>
#include <string_view>

namespace NAMESPACE {

/// A time of day, to the microsecond, in no place.
class TimeOfDay {
public:
    /// Midnight.
    TimeOfDay() = default;

    /// The time of day so long after midnight; nothing where that is on another day.
    [[nodiscard]] static constexpr std::optional<TimeOfDay> from(std::chrono::microseconds since_midnight) {
        if (since_midnight < since_midnight.zero() || since_midnight >= std::chrono::hours(24)) {
            return std::nullopt;
        }
        return TimeOfDay(since_midnight);
    }

    /// A time of day by its parts; throws std::invalid_argument where there is none.
    [[nodiscard]] static constexpr TimeOfDay at(int hour, int minute, int second = 0, int micro = 0) {
        if (hour < 0 || hour > 23 || minute < 0 || minute > 59 || second < 0 || second > 59 || micro < 0 || micro > 999999) {
            throw std::invalid_argument("there is no such time of day");
        }
        return TimeOfDay(
            std::chrono::hours(hour) + std::chrono::minutes(minute) + std::chrono::seconds(second) +
            std::chrono::microseconds(micro)
        );
    }

    /// The time of day that a text such as 06:30:00.25 tells, as RFC 3339 has it; nothing where it tells none.
    [[nodiscard]] static std::optional<TimeOfDay> parse(std::string_view text) {
        constexpr std::string_view form = "00:00:00";
        constexpr std::string_view digits = "0123456789";
        if (text.size() < form.size() || text.size() == 9 || text.size() > 15) {
            return std::nullopt;
        }
        for (std::size_t at = 0; at < text.size(); ++at) {
            const char behind = at == form.size() ? '.' : '0';
            const char sign = at < form.size() ? form[at] : behind;
            if (sign == '0' ? digits.find(text[at]) == std::string_view::npos : text[at] != sign) {
                return std::nullopt;
            }
        }
        const auto part = [&](std::size_t at) { return (text[at] - '0') * 10 + (text[at + 1] - '0'); };
        int micro = 0;
        for (std::size_t at = 9; at < 15; ++at) {
            micro = micro * 10 + (at < text.size() ? text[at] - '0' : 0);
        }
        if (part(0) > 23 || part(3) > 59 || part(6) > 59) {
            return std::nullopt;
        }
        return TimeOfDay::at(part(0), part(3), part(6), micro);
    }

    [[nodiscard]] constexpr std::chrono::microseconds since_midnight() const { return since_midnight_; }

    /// The same as parse reads it, without zeros at the end of a fraction.
    [[nodiscard]] std::string text() const {
        const std::chrono::hh_mm_ss<std::chrono::microseconds> time(since_midnight_);
        const auto in_digits = [](auto number, std::size_t count) {
            const std::string shown = std::to_string(number);
            return std::string(count - shown.size(), '0') + shown;
        };
        std::string shown = in_digits(time.hours().count(), 2);
        shown += ":" + in_digits(time.minutes().count(), 2);
        shown += ":" + in_digits(time.seconds().count(), 2);
        if (time.subseconds().count() != 0) {
            const std::string fraction = in_digits(time.subseconds().count(), 6);
            shown += "." + fraction.substr(0, fraction.find_last_not_of('0') + 1);
        }
        return shown;
    }

    auto operator<=>(const TimeOfDay &) const = default;

private:
    constexpr explicit TimeOfDay(std::chrono::microseconds since_midnight)
        : since_midnight_(since_midnight) {}

    std::chrono::microseconds since_midnight_{0};
};

inline std::ostream &operator<<(std::ostream &out, const TimeOfDay &time) {
    return out << time.text();
}

namespace detail {

inline std::string time_text(TimeOfDay time) {
    return time.text();
}

} // namespace detail
} // namespace NAMESPACE

template <>
struct std::hash<NAMESPACE::TimeOfDay> {
    std::size_t operator()(const NAMESPACE::TimeOfDay &time) const {
        return static_cast<std::size_t>(time.since_midnight().count());
    }
};
