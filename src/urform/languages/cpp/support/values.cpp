#include "FOLDER/values.hpp"

#include <charconv>

namespace NAMESPACE::detail {

std::string repeated(std::string_view text, std::size_t times) {
    std::string all;
    all.reserve(text.size() * times);
    for (std::size_t time = 0; time < times; ++time) {
        all += text;
    }
    return all;
}

void show(std::ostream &out, const std::string &text) {
    out << '"';
    for (const char letter : text) {
        if (letter == '"' || letter == '\\') {
            out << '\\';
        }
        out << letter;
    }
    out << '"';
}

void show(std::ostream &out, double value) {
    char digits[32];
    const auto written = std::to_chars(std::begin(digits), std::end(digits), value);
    const std::string_view shown(digits, static_cast<std::size_t>(written.ptr - digits));
    out << shown << (shown.find_first_not_of("-0123456789") == std::string_view::npos ? ".0" : "");
}

void show(std::ostream &out, bool value) {
    out << (value ? "true" : "false");
}

} // namespace NAMESPACE::detail
