#include <algorithm>
#include <array>
#include <chrono>
#include <cstddef>
#include <cstdio>
#include <cstdlib>
#include <cstring>
#include <functional>
#include <malloc.h>
#include <string>
#include <unordered_map>
#include <utility>
#include <vector>

namespace measuring {

constexpr int batches = 9;
inline std::vector<std::string> asked;

/// What keeps the compiler from leaving out what nobody uses.
template <class T> void keep(const T &made) { asm volatile("" : : "g"(&made) : "memory"); }

template <class Make> double batch(const Make &make, long count) {
    const auto started = std::chrono::steady_clock::now();
    for (long number = 0; number < count; ++number) {
        keep(make());
    }
    const std::chrono::duration<double> taken = std::chrono::steady_clock::now() - started;
    return std::max(taken.count(), 1e-9);
}

/// Seconds for one, batch by batch; each batch takes so many seconds, or so.
template <class Make> void timed(const char *name, const Make &make, double seconds) {
    long count = 1;
    double taken = batch(make, 1);
    while (taken < seconds / 4) {
        count *= 2;
        taken = batch(make, count);
    }
    count = std::max(1L, static_cast<long>(static_cast<double>(count) * seconds / taken));
    std::printf("{\"name\": \"%s\", \"seconds\": [", name);
    for (int number = 0; number < batches; ++number) {
        std::printf("%s%.6e", number == 0 ? "" : ", ", batch(make, count) / static_cast<double>(count));
    }
    std::printf("]}\n");
}

/// What glibc tells of its heap; `mallinfo2` is there from 2.33 on.
inline std::size_t heap() {
    const auto told = mallinfo2();
    return told.uordblks + told.hblkhd;
}

/// Prints what making one takes, or what many weigh, as one line of JSON: time SECONDS, or memory NAME COUNT.
template <class First, class... Others> void measure(const char *name, const First &first, const Others &...others) {
    if (asked[0] == "time") {
        timed(name, first, std::atof(asked[1].c_str()));
        return;
    }
    if (asked[1] != name) {
        return;
    }
    using Made = decltype(first());
    const std::vector<std::function<Made()>> makers{first, others...};
    for (const auto &make : makers) {
        keep(make());
    }
    const std::size_t count = std::strtoul(asked[2].c_str(), nullptr, 10);
    const std::size_t before = heap();
    std::vector<Made> held;
    held.reserve(count);
    for (std::size_t number = 0; number < count; ++number) {
        held.push_back(makers[number % makers.size()]());
    }
    const std::size_t after = heap();
    keep(held);
    std::printf("{\"name\": \"%s\", \"bytes\": %zu}\n", name, after > before ? after - before : 0);
}

/// The language's own map, read by a key that it has.
inline void map_read() {
    const std::unordered_map<std::string, int> held{{"north", 1}};
    const std::string key = "north";
    measure("map read", [&] { return held.find(key)->second; });
}

} // namespace measuring
