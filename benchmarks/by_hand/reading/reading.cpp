// Reads the file both ways: by the generated library, and by nlohmann::json into structs, with checks by hand.
#include "logbook/json.hpp"
#include "logbook/records.hpp"

#include <algorithm>
#include <chrono>
#include <cstdint>
#include <fstream>
#include <iostream>
#include <iterator>
#include <map>
#include <optional>
#include <stdexcept>
#include <string>
#include <vector>

namespace {

using Json = nlohmann::json;

struct Position {
    double latitude;
    double longitude;
};

struct Mark {
    std::string kind;
    std::int64_t station;
    Position position;
    std::optional<int> side;
    std::optional<std::string> remarks;
    bool reflective;
    std::optional<std::string> password;
    std::optional<double> draught;
};

void check(bool holds, const char *what) {
    if (!holds) {
        throw std::invalid_argument(what);
    }
}

double number(const Json &value, double low, double high) {
    check(value.is_number(), "number");
    const auto number = value.get<double>();
    check(number >= low && number <= high, "range");
    return number;
}

std::string text(const Json &value, std::ptrdiff_t low, std::ptrdiff_t high) {
    const auto &text = value.get_ref<const std::string &>();
    const auto length = std::ranges::count_if(text, [](char unit) { return (unit & 0xC0) != 0x80; });
    check(length >= low && length <= high, "length");
    return text;
}

Mark mark(const Json &record) {
    static const std::map<std::string, int> sides{{"P", 0}, {"S (to starboard)", 1}, {"middle", 2}};
    Mark made{};
    int required = 0;
    bool has_reflective = false;
    for (const auto &[name, value] : record.items()) {
        if (name == "type") {
            made.kind = value.get<std::string>();
        } else if (name == "station") {
            check(value.is_number_integer(), "station");
            made.station = value.get<std::int64_t>();
            check(made.station >= 1 && made.station <= 9999, "station");
            ++required;
        } else if (name == "position") {
            check(value.size() == 2, "position");
            made.position = {number(value.at("lat"), -90, 90), number(value.at("lon (°)"), -180, 180)};
            ++required;
        } else if (name == "side") {
            made.side = sides.at(value.get<std::string>());
        } else if (name == "toString") {
            made.remarks = text(value, 0, 20);
        } else if (name == "reflective") {
            made.reflective = value.get<bool>();
            has_reflective = true;
        } else if (name == "password") {
            made.password = text(value, 3, 1'000'000'000);
        } else if (name == "draught") {
            made.draught = number(value, 5e-324, 1e308);
        } else {
            check(false, "unknown");
        }
    }
    const bool is_buoy = made.kind == "B-1" || made.kind == "buoy";
    check(is_buoy || (made.kind == "BCN" && !made.draught), "kind");
    check(required == 2, "missing");
    made.reflective = has_reflective ? made.reflective : is_buoy;
    if (is_buoy && !made.draught) {
        made.draught = 1.5;
    }
    return made;
}

std::size_t by_hand(const std::string &text) {
    const Json all = Json::parse(text);
    std::vector<Mark> marks;
    for (const Json &record : all) {
        marks.push_back(mark(record));
    }
    return marks.size();
}

std::size_t generated(const std::string &text) {
    const auto [marks, problems] = logbook::create_all(logbook::records::parse(text), logbook::records::read_mark);
    check(problems.empty(), "problems");
    return marks.size();
}

double milliseconds(std::size_t (*job)(const std::string &), const std::string &text, std::size_t count) {
    const auto start = std::chrono::steady_clock::now();
    check(job(text) == count, "some are missing");
    return std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - start).count();
}

double median(std::vector<double> all) {
    std::ranges::sort(all);
    return all[all.size() / 2];
}

} // namespace

int main(int, char **given) {
    std::ifstream file(given[1], std::ios::binary);
    const std::string text(std::istreambuf_iterator<char>(file), {});
    const std::size_t count = std::stoul(given[2]);
    std::vector<double> own;
    std::vector<double> hand;
    std::vector<double> ratios;
    for (int round = 0; round < 110; ++round) {
        const double a = milliseconds(generated, text, count);
        const double b = milliseconds(by_hand, text, count);
        if (round >= 10) {
            own.push_back(a);
            hand.push_back(b);
            ratios.push_back(a / b);
        }
    }
    std::cout << median(own) << " " << median(hand) << " " << median(ratios) << "\n";
}
