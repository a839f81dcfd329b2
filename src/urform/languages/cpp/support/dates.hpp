/// Whether it is a day, of the years 1 to 9999.
inline bool is_date(std::chrono::year_month_day date) {
    return date.ok() && date.year() >= std::chrono::year(1) && date.year() <= std::chrono::year(9999);
}

/// A number with so many digits at least.
inline std::string digits(int number, std::size_t least) {
    const std::string shown = std::to_string(number);
    return shown.size() < least ? std::string(least - shown.size(), '0') + shown : shown;
}

/// A day such as 2026-12-01.
inline std::string date_text(std::chrono::year_month_day date) {
    const auto month = static_cast<unsigned>(date.month());
    const auto day = static_cast<unsigned>(date.day());
    return digits(static_cast<int>(date.year()), 4) + "-" + digits(static_cast<int>(month), 2) + "-" +
           digits(static_cast<int>(day), 2);
}

/// The day that a text tells in just that form.
inline std::optional<std::chrono::year_month_day> date_of(std::string_view text) {
    if (text.size() != 10) {
        return std::nullopt;
    }
    const auto number = [&](std::size_t begin, std::size_t count) {
        unsigned sum = 0;
        for (const char digit : text.substr(begin, count)) {
            sum = sum * 10 + static_cast<unsigned>(digit - '0');
        }
        return sum;
    };
    const auto year = std::chrono::year(static_cast<int>(number(0, 4) % 10000U));
    const std::chrono::year_month_day date(year, std::chrono::month(number(5, 2)), std::chrono::day(number(8, 2)));
    return is_date(date) && date_text(date) == text ? std::optional(date) : std::nullopt;
}

inline std::size_t hash_of(std::chrono::year_month_day date) {
    const auto year = static_cast<std::size_t>(static_cast<int>(date.year()));
    return (year * 16U + static_cast<unsigned>(date.month())) * 32U + static_cast<unsigned>(date.day());
}

inline void show(std::ostream &out, std::chrono::year_month_day date) {
    out << date_text(date);
}
