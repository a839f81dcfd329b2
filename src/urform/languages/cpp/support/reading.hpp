#pragma once

#include "FOLDER/errors.hpp"
#include "FOLDER/export.hpp"
#include "FOLDER/values.hpp"

#include <concepts>
#include <cstddef>
#include <cstdint>
#include <exception>
#include <functional>
#include <initializer_list>
#include <map>
#include <memory>
#include <optional>
#include <set>
#include <span>
#include <string>
#include <string_view>
#include <type_traits>
#include <utility>
#include <variant>
#include <vector>

namespace NAMESPACE {

/// A value of a record, as any reader of JSON has it. Names of an object stand in their order.
class EXPORTED RecordValue {
public:
    using List = std::vector<RecordValue>;
    using Object = std::vector<std::pair<std::string, RecordValue>>;

    /// Null.
    RecordValue() = default;

    template <std::same_as<bool> T>
    RecordValue(T truth)
        : value_(truth) {}

    template <std::integral T>
    RecordValue(T number)
        requires(!std::same_as<T, bool>)
        : value_(static_cast<std::int64_t>(number)) {}

    RecordValue(double number)
        : value_(number) {}
    RecordValue(std::string text)
        : value_(std::move(text)) {}
    RecordValue(const char *text)
        : value_(std::string(text)) {}
    RecordValue(List list)
        : value_(std::move(list)) {}
    RecordValue(Object object)
        : value_(std::move(object)) {}

    [[nodiscard]] bool is_null() const { return std::holds_alternative<std::monostate>(value_); }

    /// What it holds, if that is of this type: bool, std::int64_t, double, std::string, List or Object.
    template <class T>
    [[nodiscard]] const T *as() const {
        return std::get_if<T>(&value_);
    }

    /// The JSON text: no blanks, names in their order, numbers as ECMAScript writes them.
    [[nodiscard]] std::string to_text() const;

    bool operator==(const RecordValue &other) const = default;

private:
    std::variant<std::monostate, bool, std::int64_t, double, std::string, List, Object> value_;
};

/// One thing that is wrong with a record: where, and what.
struct RecordProblem {
    /// The way to it, as `legs[1].hours`.
    std::string path;
    /// What is wrong there.
    std::string text;
    std::string owner;
    std::string field;
    /// A limit's name, or one of missing, type, kind, unknown, twice, refused, depth.
    std::string limit;
    Bound bound;
    /// What was found; nothing where it is a secret.
    std::optional<RecordValue> value;
    /// Its place in a list of records, counted from 0.
    std::optional<std::size_t> record;

    /// The path and what is wrong there.
    [[nodiscard]] std::string to_string() const { return path.empty() ? text : path + ": " + text; }
};

/// No product is made of a record.
class EXPORTED RecordError : public CreationError {
public:
    RecordError(const std::string &owner, std::vector<RecordProblem> problems);

    /// Everything that is wrong with it.
    [[nodiscard]] const std::vector<RecordProblem> &problems() const noexcept { return problems_; }

private:
    std::vector<RecordProblem> problems_;
};

namespace detail {

/// A limit that is checked, by its name; one on the form of texts has what tells them.
struct Limit {
    std::string_view name;
    Bound bound = {};
    bool (*is_of_form)(std::string_view) = nullptr;
    bool is_free_if_empty = false;
};

using Limits = std::initializer_list<Limit>;
using Names = std::initializer_list<std::string_view>;

class Fields;

/// A value in a record, and the field that it is for.
class At {
public:
    At(std::vector<RecordProblem> &problems, std::string_view owner, const RecordValue &record)
        : problems_(&problems),
          owner_(owner),
          value_(&record) {}

    /// The same, but no message tells it.
    [[nodiscard]] At secret() const {
        At hidden = *this;
        hidden.is_secret_ = true;
        return hidden;
    }

    [[nodiscard]] std::optional<std::string> text(Limits limits) const;
    [[nodiscard]] std::optional<std::int64_t> integer(Limits limits) const;
    [[nodiscard]] std::optional<double> real(Limits limits) const;
    [[nodiscard]] std::optional<bool> truth() const;

    /// A word of a choice, by its name in records.
    template <class C, class Words>
    [[nodiscard]] std::optional<C> word(const Words &words) const {
        const std::string *found = value_ == nullptr ? nullptr : value_->as<std::string>();
        std::vector<std::string_view> names;
        for (const auto &[name, word] : words) {
            if (found != nullptr && *found == name) {
                return word;
            }
            names.push_back(name);
        }
        if (value_ != nullptr) {
            unfit("choice", one_of(names));
        }
        return std::nullopt;
    }

    template <class T, class Read>
    [[nodiscard]] std::optional<std::vector<T>> list(Read read, Limits limits) const {
        const auto *values = inside<RecordValue::List>("a list is wanted");
        if (values == nullptr) {
            return std::nullopt;
        }
        const std::size_t before = problems_->size();
        std::vector<T> held;
        for (std::size_t at = 0; at < values->size(); ++at) {
            std::optional<T> one = read(element("[" + std::to_string(at) + "]", (*values)[at]));
            if (one) {
                held.push_back(*std::move(one));
            }
        }
        if (problems_->size() > before || !keeps_size(limits, held.size())) {
            return std::nullopt;
        }
        return held;
    }

    /// What a text tells, such as a date; `read` gives nothing for what tells none, and `shown` is the text of a value.
    template <class T>
    [[nodiscard]] std::optional<T> told(
        std::string_view kind,
        std::string_view wanted,
        std::optional<T> (*read)(std::string_view),
        std::string (*shown)(T),
        Limits limits
    ) const {
        const std::string *text = told_text(wanted);
        if (text == nullptr) {
            return std::nullopt;
        }
        const std::optional<T> value = read(*text);  // «#date#»
        if (!value) {
            unfit(kind, wanted);
            return std::nullopt;
        }
        const auto order = [&](const std::string &bound) {
            const std::optional<T> other = read(bound);
            return *value < other ? -1 : static_cast<int>(other < *value);
        };
        return limits.size() == 0 || keeps_order(limits, shown(*value), order) ? value : std::nullopt;
    }

    /// A list in which no element stands twice.
    template <class T, class Read>
    [[nodiscard]] std::optional<std::vector<T>> distinct(Read read, Limits limits) const {
        std::optional<std::vector<T>> held = list<T>(read, limits);
        const T *twice = held ? detail::first_repeated(*held) : nullptr;
        if (twice == nullptr) {
            return held;
        }
        if constexpr (std::is_enum_v<T>) {
            tell_repeated(std::string(to_string(*twice)));
        } else {
            tell_repeated(*twice);
        }
        return std::nullopt;
    }

    template <class T, class Read>
    [[nodiscard]] std::optional<std::set<T>> set(Read read, Limits limits) const {
        const std::optional<std::vector<T>> held = list<T>(read, {});
        if (!held) {
            return std::nullopt;
        }
        std::set<T> distinct(held->begin(), held->end());
        return keeps_size(limits, distinct.size()) ? std::optional(std::move(distinct)) : std::nullopt;
    }

    template <class K, class T, class Key, class Read>
    [[nodiscard]] std::optional<std::map<K, T>> map(Key key, Read read, Limits limits) const {
        const auto *entries = inside<RecordValue::Object>("a record is wanted");
        if (entries == nullptr) {
            return std::nullopt;
        }
        const std::size_t before = problems_->size();
        tell_twice(*entries);
        std::map<K, T> held;
        for (const auto &[name, value] : sorted(*entries)) {
            const auto [named, step] = key_of(name, std::same_as<K, std::int64_t>);
            std::optional<K> found = key(below(step, "key.", named));
            std::optional<T> one = read(element(step, *value));
            if (found && one) {
                held.emplace(*std::move(found), *std::move(one));
            }
        }
        if (problems_->size() > before || !keeps_size(limits, held.size())) {
            return std::nullopt;
        }
        return held;
    }

    /// What a product is read of; nothing where it is no record. The kind is empty for a product that has none.
    [[nodiscard]] std::optional<Fields> fields(std::string_view owner, std::string_view kind, Names kinds) const;

    /// The record without one of its names, for a maker that reads it.
    [[nodiscard]] RecordValue without(std::string_view name) const;

    /// The kind that a record tells, if it is one of these; empty where it tells none and needs none.
    [[nodiscard]] std::optional<std::string_view>
    kind(std::string_view owner, std::string_view name, bool is_needed, Names kinds) const {
        return kind_among(owner, name, is_needed, {kinds.begin(), kinds.size()});
    }

    /// The same of kinds that are known while running only.
    [[nodiscard]] std::optional<std::string_view> kind_among(
        std::string_view owner, std::string_view name, bool is_needed, std::span<const std::string_view> kinds
    ) const;

private:
    friend class Fields;

    std::vector<RecordProblem> *problems_;
    const At *up_ = nullptr;
    std::string step_;
    std::size_t level_ = 0;
    std::string_view owner_;
    std::string_view field_;
    std::string_view within_;
    bool is_secret_ = false;
    const RecordValue *value_;

    using Entries = std::map<std::string_view, const RecordValue *>;

    static Entries sorted(const RecordValue::Object &object);
    static std::pair<RecordValue, std::string> key_of(std::string_view name, bool is_numbered);
    static std::string one_of(const std::vector<std::string_view> &names);

    template <class T>
    const T *inside(std::string_view wanted) const {
        if (value_ == nullptr) {
            return nullptr;
        }
        const T *held = value_->as<T>();
        if (held == nullptr) {
            unfit("type", wanted);
        }
        return held == nullptr || is_too_deep() ? nullptr : held;
    }

    [[nodiscard]] std::string path() const;
    [[nodiscard]] std::string named() const;
    [[nodiscard]] bool is_too_deep() const;
    [[nodiscard]] At below(std::string step, std::string_view within, const RecordValue &value) const;
    [[nodiscard]] At element(std::string step, const RecordValue &value) const;
    [[nodiscard]] At of(std::string_view owner) const;
    [[nodiscard]] bool keeps_size(Limits limits, std::size_t size) const;
    template <class Breaks>
    [[nodiscard]] bool keeps(Limits limits, const Found &found, Breaks breaks) const;
    void tell(const std::string &step, std::string text, std::string_view limit, Bound bound, std::optional<RecordValue> value) const;
    void unfit(std::string_view limit, std::string_view wanted) const;
    void missing() const;
    [[nodiscard]] const std::string *told_text(std::string_view wanted) const;
    /// `order` compares with a bound: below it, above it, or 0.
    [[nodiscard]] bool keeps_order(
        Limits limits, const std::string &shown, const std::function<int(const std::string &)> &order
    ) const;
    void tell_repeated(const Found &element) const;
    void tell_twice(const RecordValue::Object &object) const;
    void unknown_kind(std::string_view name, const RecordValue *kind, const std::vector<std::string_view> &kinds) const;
};

/// An object that is read as one product.
class Fields {
public:
    Fields(At record, const RecordValue::Object &object)
        : record_(std::move(record)),
          object_(&object),
          before_(record_.problems_->size()) {}

    [[nodiscard]] At optional(std::string_view name, std::string_view owner, std::string_view field) const;
    [[nodiscard]] At required(std::string_view name, std::string_view owner, std::string_view field) const;

    /// Tells the names that are none of these.
    void refuse_others(Names known) const;

    /// Whether nothing is wrong so far.
    [[nodiscard]] bool is_sound() const { return record_.problems_->size() == before_; }

    /// What a constructor makes, or nothing, and why it does not.
    template <std::invocable Make>
    [[nodiscard]] std::optional<std::invoke_result_t<Make>> made(Make make) const {
        try {
            return make();
        } catch (const CreationError &error) {
            refused(error);
        }
        return std::nullopt;
    }

    /// What a factory by values makes, or null; so is what is not of the kind that the record tells.
    template <class Kind, std::invocable Make>
    [[nodiscard]] std::unique_ptr<Kind> chosen(Make make) const {
        try {
            auto product = make();
            if (auto *kind = dynamic_cast<Kind *>(product.get())) {
                static_cast<void>(product.release());
                return std::unique_ptr<Kind>(kind);
            }
            throw RefusedError(std::string(record_.owner_), "such values make another kind");
        } catch (const CreationError &error) {
            refused(error);
        }
        return nullptr;
    }

private:
    friend class At;

    At record_;
    const RecordValue::Object *object_;
    std::size_t before_;

    [[nodiscard]] const RecordValue *find(std::string_view name) const;
    void refused(const CreationError &error) const;
};

inline std::optional<std::string> read_text(const At &at, Limits limits) {
    return at.text(limits);
}

inline std::optional<std::int64_t> read_integer(const At &at, Limits limits) {
    return at.integer(limits);
}

inline std::optional<double> read_real(const At &at, Limits limits) {
    return at.real(limits);
}

template <class T, class Read>
std::optional<std::vector<T>> read_list(const At &at, Read read, Limits limits) {
    return at.list<T>(read, limits);
}

template <class T>
std::optional<T> read_told(
    const At &at,
    std::string_view kind,
    std::string_view wanted,
    std::optional<T> (*read)(std::string_view),
    std::string (*shown)(T),
    Limits limits
) {
    return at.told<T>(kind, wanted, read, shown, limits);
}

template <class T, class Read>
std::optional<std::vector<T>> read_distinct(const At &at, Read read, Limits limits) {
    return at.distinct<T>(read, limits);
}

template <class T, class Read>
std::optional<std::set<T>> read_set(const At &at, Read read, Limits limits) {
    return at.set<T>(read, limits);
}

template <class K, class T, class Key, class Read>
std::optional<std::map<K, T>> read_map(const At &at, Key key, Read read, Limits limits) {
    return at.map<K, T>(key, read, limits);
}

/// What was read, as what a field holds.
template <class T, class U>
std::optional<T> held(std::optional<U> made) {
    return made ? std::optional<T>(T(*std::move(made))) : std::nullopt;
}

template <class T, class U>
std::optional<T> held(std::unique_ptr<U> made) {
    return made == nullptr ? std::nullopt : std::optional<T>(T(std::move(made)));
}

/// The product of a record; throws everything that is wrong with it.
template <class Read>
auto from_record(std::string_view owner, const RecordValue &record, Read read) {
    std::vector<RecordProblem> problems;
    auto made = read(At(problems, owner, record));
    if (!problems.empty()) {
        throw RecordError(std::string(owner), std::move(problems));
    }
    return made;
}

/// The names of words, in their order.
template <class T, class Name>
std::set<std::string> names(const T &held, Name name) {
    std::set<std::string> all;
    for (const auto &word : held) {
        all.insert(name(word));
    }
    return all;
}

inline RecordValue itself(const std::string &text) {
    return text;
}

/// What is written of each element.
template <class T, class Write>
RecordValue each(const T &held, Write write) {
    RecordValue::List written;
    for (const auto &one : held) {
        written.emplace_back(write(one));
    }
    return written;
}

/// What is written of a map whose keys are in the order of their names.
template <class T, class Name, class Write>
RecordValue entries(const T &held, Name name, Write write) {
    std::map<decltype(name(held.begin()->first)), RecordValue> sorted;
    for (const auto &[key, value] : held) {
        sorted.emplace(name(key), write(value));
    }
    RecordValue::Object written;
    for (auto &[key, value] : sorted) {
        if constexpr (std::same_as<std::remove_cvref_t<decltype(key)>, std::int64_t>) {
            written.emplace_back(std::to_string(key), std::move(value));
        } else {
            written.emplace_back(std::string(key), std::move(value));
        }
    }
    return written;
}

EXPORTED void add_problems(
    std::vector<RecordProblem> &problems, std::size_t record, const std::vector<RecordProblem> &found
);
EXPORTED const RecordValue::List *list_of(const RecordValue &records, std::vector<RecordProblem> &problems);

} // namespace detail

/// Makes products of a list of records, with a function that reads one; nothing stops at the first that makes none. Returns
/// them, and what is wrong with the others.
template <class Read>
auto create_all(const RecordValue &records, Read read) {
    std::pair<std::vector<decltype(read(records))>, std::vector<RecordProblem>> all;
    const RecordValue::List *values = detail::list_of(records, all.second);
    for (std::size_t at = 0; values != nullptr && at < values->size(); ++at) {
        try {
            all.first.push_back(read((*values)[at]));
        } catch (const RecordError &error) {
            detail::add_problems(all.second, at, error.problems());
        }
    }
    return all;
}

} // namespace NAMESPACE
