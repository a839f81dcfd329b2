// What the tests have in common.
#pragma once

#include "FOLDER/errors.hpp"

#include <chrono>
#include <concepts>
#include <cstddef>
#include <exception>
#include <functional>
#include <future>
#include <latch>
#include <sstream>
#include <stdexcept>
#include <string>
#include <string_view>
#include <thread>
#include <typeinfo>
#include <utility>
#include <variant>
#include <vector>

namespace NAMESPACE {

/// A text so many times.
inline std::string repeated(std::string_view text, std::size_t times) {
    std::string all;
    for (std::size_t time = 0; time < times; ++time) {
        all += text;
    }
    return all;
}

// Each kind of error as text, with all that it knows: what is thrown and what is wanted are told alike.

inline std::string told(const std::vector<std::string> &words) {
    std::string all;
    for (const std::string &word : words) {
        all += " [" + word + "]";
    }
    return all;
}

inline std::string missing(std::string_view owner, const std::vector<std::string> &fields) {
    return "missing " + std::string(owner) + told(fields);
}

inline std::string limit(std::string_view owner, std::string_view field, std::string_view name, const Bound &bound, std::string_view said) {
    const LimitError shown("", "", "", bound);
    const std::string at = std::string(owner) + "." + std::string(field) + " " + std::string(name);
    return "limit " + at + " " + std::to_string(bound.index()) + shown.what() + ", which says: " + std::string(said);
}

inline std::string unknown(std::string_view owner, std::string_view key, const std::vector<std::string> &known) {
    return "unknown " + std::string(owner) + " [" + std::string(key) + "] of" + told(known);
}

inline std::string taken(std::string_view owner, std::string_view key) {
    return "taken " + std::string(owner) + " [" + std::string(key) + "]";
}

inline std::string refused(std::string_view owner, std::string_view reason) {
    return "refused " + std::string(owner) + " because " + std::string(reason);
}

/// What a call throws, or that it throws nothing.
template <std::invocable Call>
std::string refusal(Call call) {
    try {
        static_cast<void>(call());
    } catch (const MissingError &error) {
        return missing(error.owner(), error.fields());
    } catch (const LimitError &error) {
        return limit(error.owner(), error.field(), error.limit(), error.bound(), error.what());
    } catch (const UnknownKeyError &error) {
        return unknown(error.owner(), error.key(), error.known());
    } catch (const DuplicateKeyError &error) {
        return taken(error.owner(), error.key());
    } catch (const RefusedError &error) {
        return refused(error.owner(), error.reason());
    } catch (const std::exception &error) {
        return error.what();
    }
    return "nothing is thrown";
}

/// What an unordered container asks of a product.
template <class T>
std::size_t hashed(const T &product) {
    return std::hash<T>{}(product);
}

/// Whether a product is of just this type.
template <class T, class Base>
bool is_a(const Base &made) {
    return typeid(made) == typeid(T);
}

/// A product as what it is, of which only the base was known.
template <class T, class Base>
T &as(Base &made) {
    return dynamic_cast<T &>(made);
}

template <class T, class Base>
const T &as(const Base &made) {
    return dynamic_cast<const T &>(made);
}

/// The types of products, by what they print.
std::string kind_of(const auto &made) {
    std::ostringstream out;
    out << made;
    return out.str().substr(0, out.str().find('{'));
}

/// Waits until something holds, or for so long at most.
void until(std::chrono::milliseconds at_most, std::predicate auto holds) {
    const auto end = std::chrono::steady_clock::now() + at_most;
    while (!holds() && std::chrono::steady_clock::now() < end) {
        std::this_thread::sleep_for(std::chrono::milliseconds(1));
    }
}

/// What so many threads get that ask at once.
template <std::invocable Ask>
auto together(std::size_t count, Ask ask) {
    std::latch gate(static_cast<std::ptrdiff_t>(count));
    std::vector<std::future<decltype(ask())>> asked;
    for (std::size_t number = 0; number < count; ++number) {
        asked.push_back(std::async(std::launch::async, [&] {
            gate.arrive_and_wait();
            return ask();
        }));
    }
    std::vector<decltype(ask())> got;
    for (auto &each : asked) {
        got.push_back(each.get());
    }
    return got;
}

/// What a call gives, which must not take longer than that; one that does is left alone.
template <std::invocable Ask>
auto within(std::chrono::seconds at_most, Ask ask) {
    std::packaged_task<decltype(ask())()> task(std::move(ask));
    auto answer = task.get_future();
    std::thread(std::move(task)).detach();
    if (answer.wait_for(at_most) != std::future_status::ready) {
        throw std::runtime_error("no answer in time");
    }
    return answer.get();
}

} // namespace NAMESPACE
