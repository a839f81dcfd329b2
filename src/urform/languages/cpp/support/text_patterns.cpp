#include "FOLDER/text_patterns.hpp"

#include <algorithm>
#include <bit>
#include <cstddef>
#include <cstdint>
#include <vector>

namespace NAMESPACE::detail {

namespace {

/// What texts look like, as tables: a row of moves leads from a state to others, by the kind of the next character; kinds are
/// those of the characters from each of starts on. State 0 refuses everything, state 1 is the first.
struct TextPattern {
    std::vector<char32_t> starts;
    std::vector<std::uint16_t> kinds;
    std::vector<std::vector<std::uint16_t>> moves;
    std::vector<std::uint16_t> ends;

    /// Whether the whole text has the form.
    [[nodiscard]] bool accepts(std::string_view text) const;

private:
    [[nodiscard]] std::uint16_t kind(char32_t point) const;
};

/// The code point that begins at a place of UTF-8, which moves behind it; U+FFFD for what is none.
char32_t next_point(std::string_view text, std::size_t &at) {
    const auto first = static_cast<unsigned char>(text[at++]);
    const int bytes = std::countl_one(first); // none for a byte by itself
    if (bytes == 1 || bytes > 4) {
        return 0xFFFD;
    }
    char32_t point = first & (0x7FU >> static_cast<unsigned>(bytes));
    for (int byte = 1; byte < bytes; ++byte) {
        if (at == text.size() || (static_cast<unsigned char>(text[at]) & 0xC0U) != 0x80) {
            return 0xFFFD;
        }
        point = (point << 6U) | (static_cast<unsigned char>(text[at++]) & 0x3FU);
    }
    return point;
}

bool TextPattern::accepts(std::string_view text) const {
    std::uint16_t state = 1;
    for (std::size_t at = 0; at < text.size();) {
        state = moves[state][kind(next_point(text, at))];
    }
    return std::ranges::binary_search(ends, state);
}

std::uint16_t TextPattern::kind(char32_t point) const {
    const auto after = std::ranges::upper_bound(starts, point);
    return kinds[static_cast<std::size_t>(after - starts.begin()) - 1];
}

} // namespace

// clang-format off
