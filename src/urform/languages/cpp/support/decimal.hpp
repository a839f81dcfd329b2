#pragma once

#include <compare>
#include <cstddef>
#include <cstdint>
#include <functional>
#include <optional>
#include <ostream>
#include <stdexcept>
#include <string>
#include <string_view>

namespace NAMESPACE {

/// An exact decimal number, with up to twenty digits before the point and eighteen behind it.
class Decimal {
public:
    /// Zero.
    Decimal() = default;

    /// The number that a text such as 12.5 tells, without an exponent; nothing where it tells none.
    [[nodiscard]] static constexpr std::optional<Decimal> parse(std::string_view text) {
        const bool is_negative = text.starts_with('-');
        text.remove_prefix(is_negative ? 1 : 0);
        const std::size_t point = text.find('.');
        const std::string_view whole = text.substr(0, point);
        const bool is_broken = point != std::string_view::npos;
        const std::string_view fraction = is_broken ? text.substr(point + 1) : std::string_view();
        const bool is_whole = are_digits(whole, 20) && (whole.size() == 1 || whole[0] != '0');
        if (!is_whole || (is_broken && !are_digits(fraction, 18))) {
            return std::nullopt;
        }
        const std::size_t high = whole.size() > 10 ? whole.size() - 10 : 0;
        Decimal read;
        read.high_ = number(whole.substr(0, high), high);
        read.low_ = number(whole.substr(high), whole.size() - high);
        read.fraction_ = number(fraction, 18);
        return is_negative ? read.negated() : read;
    }

    /// The same of a text that tells one; throws std::invalid_argument where it tells none.
    [[nodiscard]] static constexpr Decimal of(std::string_view text) {
        const std::optional<Decimal> read = parse(text);
        if (!read) {
            throw std::invalid_argument("there is no such decimal number");
        }
        return *read;
    }

    /// The same as parse reads it, without zeros at its end.
    [[nodiscard]] std::string text() const {
        const bool is_negative = high_ < 0 || low_ < 0 || fraction_ < 0;
        const Decimal size = is_negative ? negated() : *this;
        std::string shown = is_negative ? "-" : "";
        shown += size.high_ != 0 ? std::to_string(size.high_) + in_digits(size.low_, 10) : std::to_string(size.low_);
        if (size.fraction_ != 0) {
            const std::string digits = in_digits(size.fraction_, 18);
            shown += "." + digits.substr(0, digits.find_last_not_of('0') + 1);
        }
        return shown;
    }

    auto operator<=>(const Decimal &) const = default;

private:
    friend struct std::hash<Decimal>;

    static constexpr bool are_digits(std::string_view text, std::size_t most) {
        return !text.empty() && text.size() <= most && text.find_first_not_of("0123456789") == std::string_view::npos;
    }

    /// The number of some digits, with zeros behind them up to a count.
    static constexpr std::int64_t number(std::string_view digits, std::size_t count) {
        std::int64_t sum = 0;
        for (std::size_t at = 0; at < count; ++at) {
            sum = sum * 10 + (at < digits.size() ? digits[at] - '0' : 0);
        }
        return sum;
    }

    static std::string in_digits(std::int64_t number, std::size_t count) {
        const std::string shown = std::to_string(number);
        return std::string(count - shown.size(), '0') + shown;
    }

    [[nodiscard]] constexpr Decimal negated() const {
        Decimal other;
        other.high_ = -high_;
        other.low_ = -low_;
        other.fraction_ = -fraction_;
        return other;
    }

    // Each with the sign of the number, so that they are compared one after another.
    std::int64_t high_ = 0; // before the last ten digits of the whole number
    std::int64_t low_ = 0;
    std::int64_t fraction_ = 0;
};

inline std::ostream &operator<<(std::ostream &out, const Decimal &number) {
    return out << number.text();
}

namespace detail {

inline std::string decimal_text(Decimal number) {
    return number.text();
}

} // namespace detail
} // namespace NAMESPACE

template <>
struct std::hash<NAMESPACE::Decimal> {
    std::size_t operator()(const NAMESPACE::Decimal &number) const {
        return static_cast<std::size_t>(number.high_ * 31 + number.low_ * 37 + number.fraction_);
    }
};
