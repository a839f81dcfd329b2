// A million lanterns with rhythms that they share, or with one each: `lanterns shared|own COUNT`.

#include "fairway/lantern.hpp"
#include "fairway/light_rhythm_pool.hpp"

#include <cstdlib>
#include <numeric>
#include <string>
#include <vector>

static fairway::LightRhythm rhythm(const std::string &code, std::int64_t period_ms) {
    std::vector<std::int64_t> pulses(256);
    std::iota(pulses.begin(), pulses.end(), 0);
    return fairway::LightRhythm(code, period_ms, {.pulses = std::move(pulses)});
}

int main(int count, char **arguments) {
    const bool shared = count > 1 && std::string(arguments[1]) == "shared";
    const int wanted = std::atoi(arguments[2]);
    const fairway::Position position(54.5, 10.25);
    fairway::LightRhythmPool pool(rhythm);
    std::vector<fairway::Lantern> lanterns;
    for (int number = 0; number < wanted; ++number) {
        const std::string code = "Fl " + std::to_string(number % 50);
        if (shared) {
            lanterns.emplace_back(pool.get(code, 4000), position);
        } else {
            lanterns.emplace_back(rhythm(code, 4000), position);
        }
    }
    return lanterns.size() == static_cast<std::size_t>(wanted) ? 0 : 1;
}
