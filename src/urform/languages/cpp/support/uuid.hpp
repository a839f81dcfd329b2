#pragma once

#include <array>
#include <compare>
#include <cstddef>
#include <cstdint>
#include <functional>
#include <optional>
#include <ostream>
#include <string>
#include <string_view>

namespace NAMESPACE {

/// A UUID (RFC 9562): 128 bits, told as 32 hexadecimal digits in five groups.
struct Uuid {
    std::array<std::uint8_t, 16> bytes{};

    /// The UUID that a text tells, in digits of either case; nothing where it tells none.
    [[nodiscard]] static std::optional<Uuid> parse(std::string_view text) {
        constexpr std::string_view form = "xxxxxxxx-xxxx-xxxx-xxxx-xxxxxxxxxxxx";
        constexpr std::string_view digits = "0123456789abcdef0123456789ABCDEF";
        if (text.size() != form.size()) {
            return std::nullopt;
        }
        Uuid read;
        std::size_t count = 0;
        for (std::size_t at = 0; at < form.size(); ++at) {
            const std::size_t digit = digits.find(text[at]);
            if (form[at] == '-' ? text[at] != '-' : digit == std::string_view::npos) {
                return std::nullopt;
            }
            if (form[at] != '-') {
                std::uint8_t &byte = read.bytes.at(count / 2);
                byte = static_cast<std::uint8_t>(byte * 16U + digit % 16U);
                ++count;
            }
        }
        return read;
    }

    /// The same in lower case.
    [[nodiscard]] std::string text() const {
        constexpr std::string_view digits = "0123456789abcdef";
        std::string shown;
        for (std::size_t at = 0; at < bytes.size(); ++at) {
            shown += at == 4 || at == 6 || at == 8 || at == 10 ? "-" : "";
            shown += digits[bytes.at(at) / 16U];
            shown += digits[bytes.at(at) % 16U];
        }
        return shown;
    }

    auto operator<=>(const Uuid &) const = default;
};

inline std::ostream &operator<<(std::ostream &out, const Uuid &uuid) {
    return out << uuid.text();
}

} // namespace NAMESPACE

template <>
struct std::hash<NAMESPACE::Uuid> {
    std::size_t operator()(const NAMESPACE::Uuid &uuid) const {
        std::size_t sum = 17;
        for (const std::uint8_t byte : uuid.bytes) {
            sum = sum * 31 + byte;
        }
        return sum;
    }
};
