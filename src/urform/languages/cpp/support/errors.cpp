#include "FOLDER/errors.hpp"

#include <array>
#include <charconv>
#include <cmath>
#include <map>
#include <utility>

namespace NAMESPACE {
namespace detail {
namespace {

constexpr int most_shown = 80;

std::string escaped(unsigned char byte) {
    constexpr std::string_view digits = "0123456789abcdef";
    switch (byte) {
    case '\n':
        return "\\n";
    case '\r':
        return "\\r";
    case '\t':
        return "\\t";
    case '"':
        return "\\\"";
    case '\\':
        return "\\\\";
    default:
        return {'\\', 'u', '0', '0', digits[byte / 16], digits[byte % 16]};
    }
}

} // namespace

/// A text in quotes, cut, its controls escaped: those of ASCII, and U+0080 to U+009F, which are two bytes of UTF-8.
std::string in_quotes(std::string_view text) {
    std::string shown = "\"";
    int characters = 0;
    for (std::size_t at = 0; at < text.size(); ++at) {
        const auto byte = static_cast<unsigned char>(text[at]);
        const bool begins = (byte & 0xC0U) != 0x80U;
        if (begins && ++characters > most_shown) {
            return shown + "…\"";
        }
        const bool is_control = byte == 0xC2 && at + 1 < text.size() && static_cast<unsigned char>(text[at + 1]) < 0xA0;
        if (is_control) {
            shown += escaped(static_cast<unsigned char>(text[++at]));
        } else if (byte < 0x20 || byte == 0x7F || byte == '"' || byte == '\\') {
            shown += escaped(byte);
        } else {
            shown += text[at];
        }
    }
    return shown + "\"";
}

/// The fewest digits that read back as this number, laid out as in ECMAScript, with `.0` if it is whole.
std::string real(double number) {
    if (std::isnan(number)) {
        return "NaN";
    }
    if (std::isinf(number)) {
        return number > 0 ? "Infinity" : "-Infinity";
    }
    if (number == 0) {
        return "0.0";
    }
    const double size = std::fabs(number);
    const bool is_plain = size >= 1e-6 && size < 1e21;
    std::array<char, 64> digits{};
    const auto format = is_plain ? std::chars_format::fixed : std::chars_format::scientific;
    const auto end = std::to_chars(digits.data(), digits.data() + digits.size(), number, format).ptr;
    std::string shown(digits.data(), static_cast<std::size_t>(end - digits.data()));
    if (is_plain) {
        return shown.find('.') == std::string::npos ? shown + ".0" : shown;
    }
    const std::size_t exponent = shown.find('e') + 2;
    return shown.erase(exponent, shown.find_first_not_of('0', exponent) - exponent);
}

} // namespace detail

namespace {

std::string joined(const std::vector<std::string> &words) {
    std::string all;
    for (const std::string &word : words) {
        all += (all.empty() ? "" : ", ") + word;
    }
    return all;
}

struct Shown {
    std::string operator()(std::monostate) const { return ""; }
    std::string operator()(std::int64_t number) const { return std::to_string(number); }
    std::string operator()(double number) const { return detail::real(number); }
    std::string operator()(const std::string &text) const { return detail::in_quotes(text); }

    template <class T>
    std::string operator()(const std::vector<T> &words) const {
        std::string all;
        for (const T &word : words) {
            all += (all.empty() ? "" : ", ") + (*this)(word);
        }
        return all;
    }
};

/// Whether a bound is a date or a time: these have signs between their numbers, and other bounds that are texts have none.
bool is_in_time(const Bound &bound) {
    const auto *text = std::get_if<std::string>(&bound);
    return text != nullptr && text->find_first_of("-:", 1) != std::string::npos;
}

/// What is said of the limits of dates and times.
std::string wanted_in_time(std::string_view limit, const std::string &bound) {
    static const std::map<std::string_view, std::pair<std::string_view, std::string_view>> phrases{
        {"min", {"", " or later is allowed"}},
        {"max", {"", " or earlier is allowed"}},
        {"above", {"later than ", " is wanted"}},
        {"below", {"earlier than ", " is wanted"}},
    };
    const auto phrase = phrases.find(limit);
    if (phrase == phrases.end()) {
        return "";
    }
    return std::string(phrase->second.first) + bound + std::string(phrase->second.second);
}

std::string wanted(std::string_view limit, const std::string &bound) {
    static const std::map<std::string_view, std::pair<std::string_view, std::string_view>> phrases{
        {"min", {"at least ", " is allowed"}},
        {"max", {"at most ", " is allowed"}},
        {"above", {"more than ", " is wanted"}},
        {"below", {"less than ", " is wanted"}},
        {"finite", {"a finite number", " is wanted"}},
        {"not_blank", {"a text that is not blank", " is wanted"}},
        {"min_length", {"at least ", " is allowed"}},
        {"max_length", {"at most ", " is allowed"}},
        {"one_of", {"one of ", " is wanted"}},
        {"pattern", {"a text that matches ", " is wanted"}},
        {"uri", {"a URI", " is wanted"}},
        {"date", {"a date", " is wanted"}},
        {"time", {"a time of day", " is wanted"}},
        {"instant", {"an instant", " is wanted"}},
        {"duration", {"a duration", " is wanted"}},
        {"decimal", {"a decimal number", " is wanted"}},
        {"unique", {"each element", " is allowed once"}},
    };
    const auto phrase = phrases.find(limit);
    if (phrase == phrases.end()) {
        return bound + " is its " + std::string(limit);
    }
    return std::string(phrase->second.first) + bound + std::string(phrase->second.second);
}

/// What the error of a limit says, after the owner.
std::string said(std::string_view limit, const Bound &bound, const Found &value) {
    const std::string shown = std::visit(Shown{}, bound);
    const std::string in_time = is_in_time(bound) ? wanted_in_time(limit, shown) : "";
    const std::string allowed = in_time.empty() ? wanted(limit, shown) : in_time;
    const bool is_length = limit == "min_length" || limit == "max_length";
    if (is_length && std::holds_alternative<std::int64_t>(value)) {
        return " has the length " + std::visit(Shown{}, value) + "; " + allowed;
    }
    const std::string of = is_length ? "a length of " : "";
    if (std::holds_alternative<std::monostate>(value)) {
        return ": " + of + allowed;
    }
    if (limit == "unique") {
        return " has " + std::visit(Shown{}, value) + " twice; " + allowed;
    }
    return " is " + std::visit(Shown{}, value) + "; " + of + allowed;
}

/// The field and what it says, the owner's name first.
std::string said_of(
    std::string_view owner, std::string_view field, std::string_view limit, const Bound &bound, const Found &value
) {
    constexpr std::string_view each = "each.";
    const bool is_inside = limit.substr(0, each.size()) == each;
    const std::string path = std::string(owner) + "." + std::string(field);
    const std::string_view name = is_inside ? limit.substr(each.size()) : limit;
    return (is_inside ? "an element of " : "") + path + said(name, bound, value);
}

} // namespace

CreationError::CreationError(std::string owner, const std::string &message)
    : std::invalid_argument(message),
      owner_(std::move(owner)) {}

MissingError::MissingError(std::string owner, std::vector<std::string> fields)
    : CreationError(owner, owner + ": missing " + joined(fields)),
      fields_(std::move(fields)) {}

LimitError::LimitError(
    std::string_view owner, std::string_view field, std::string_view limit, Bound bound, Found value
)
    : CreationError(std::string(owner), said_of(owner, field, limit, bound, value)),
      field_(field),
      limit_(limit),
      bound_(std::move(bound)),
      value_(std::move(value)) {}

UnknownKeyError::UnknownKeyError(std::string owner, std::string key, std::vector<std::string> known)
    : CreationError(owner, owner + ": unknown key " + detail::in_quotes(key) + ", known: " + joined(known)),
      key_(std::move(key)),
      known_(std::move(known)) {}

DuplicateKeyError::DuplicateKeyError(std::string owner, std::string key)
    : CreationError(owner, owner + ": key " + detail::in_quotes(key) + " is taken"),
      key_(std::move(key)) {}

RefusedError::RefusedError(std::string owner, std::string reason)
    : CreationError(owner, owner + ": refused, " + reason),
      reason_(std::move(reason)) {}

} // namespace NAMESPACE
