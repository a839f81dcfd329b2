#pragma once

// Records from JSON text. Who includes this links with nlohmann_json::nlohmann_json; nothing else here needs it.

#include "FOLDER/reading.hpp"

#include <nlohmann/json.hpp>

#include <cstddef>
#include <cstdint>
#include <limits>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

namespace NAMESPACE {

namespace detail {

/// Makes a record of what a reader of JSON meets, one thing after the other.
class JsonEvents : public nlohmann::json_sax<nlohmann::json> {
public:
    [[nodiscard]] RecordValue record() && { return std::move(root_); }

    bool null() override { return put({}); }
    bool boolean(bool truth) override { return put(truth); }
    bool number_integer(number_integer_t number) override { return put(number); }

    bool number_unsigned(number_unsigned_t number) override {
        constexpr auto most = static_cast<std::uint64_t>(std::numeric_limits<std::int64_t>::max());
        return number <= most ? put(static_cast<std::int64_t>(number)) : put(static_cast<double>(number));
    }

    bool number_float(number_float_t number, const string_t & /*text*/) override { return put(number); }
    bool string(string_t &text) override { return put(std::move(text)); }
    bool binary(binary_t & /*bytes*/) override { return false; }

    bool key(string_t &name) override {
        open_.back().names.push_back(std::move(name));
        return true;
    }

    bool start_object(std::size_t /*size*/) override { return open(); }
    bool start_array(std::size_t /*size*/) override { return open(); }

    bool end_object() override {
        Open closed = close();
        RecordValue::Object object;
        object.reserve(closed.values.size());
        for (std::size_t at = 0; at < closed.values.size(); ++at) {
            object.emplace_back(std::move(closed.names[at]), std::move(closed.values[at]));
        }
        return put(std::move(object));
    }

    bool end_array() override { return put(std::move(close().values)); }

    bool parse_error(std::size_t /*at*/, const std::string & /*token*/, const nlohmann::detail::exception &error) override {
        refuse(error.what());
        return false;
    }

private:
    /// An object, or a list, which has no names, that has not ended yet.
    struct Open {
        std::vector<std::string> names;
        RecordValue::List values;
    };

    [[noreturn]] static void refuse(std::string said) {
        throw RecordError("JSON", {{"", std::move(said), "JSON", "", "text", {}, {}, {}}});
    }

    bool put(RecordValue value) {
        if (open_.empty()) {
            root_ = std::move(value);
        } else {
            open_.back().values.push_back(std::move(value));
        }
        return true;
    }

    bool open() {
        constexpr std::size_t most_levels = 500; // more than any product is read of
        if (open_.size() == most_levels) {
            refuse("this is more than " + std::to_string(most_levels) + " levels deep");
        }
        open_.emplace_back();
        return true;
    }

    Open close() {
        Open closed = std::move(open_.back());
        open_.pop_back();
        return closed;
    }

    std::vector<Open> open_;
    RecordValue root_;
};

} // namespace detail

namespace records {

/// Reads the record of a JSON text (RFC 8259). Names that stand twice are kept, for whoever reads the record to tell.
/// @throws RecordError for what is no JSON, with its place: bytes that are no UTF-8, numbers beyond doubles, and what follows
/// after the end too.
[[nodiscard]] inline RecordValue parse(std::string_view text) {
    detail::JsonEvents events;
    nlohmann::json::sax_parse(text, &events);
    return std::move(events).record();
}

} // namespace records

} // namespace NAMESPACE
