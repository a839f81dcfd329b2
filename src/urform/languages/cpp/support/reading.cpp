#include "FOLDER/reading.hpp"

#include <algorithm>
#include <charconv>
#include <cmath>
#include <cstdio>
#include <numeric>

namespace NAMESPACE {
namespace detail {

namespace {

constexpr std::size_t most_levels = 200;

/// In characters: nothing is suggested for a longer name.
constexpr std::size_t farthest = 80;

/// The first whole number that has neighbours of the same real.
constexpr double exact = 9007199254740992.0;

void append_string(std::string &text, std::string_view value) {
    text += '"';
    for (const char byte : value) {
        switch (byte) {
        case '"':
            text += "\\\"";
            break;
        case '\\':
            text += "\\\\";
            break;
        case '\b':
            text += "\\b";
            break;
        case '\f':
            text += "\\f";
            break;
        case '\n':
            text += "\\n";
            break;
        case '\r':
            text += "\\r";
            break;
        case '\t':
            text += "\\t";
            break;
        default:
            if (static_cast<unsigned char>(byte) < 0x20) {
                constexpr std::string_view digits = "0123456789abcdef";
                const auto code = static_cast<unsigned char>(byte);
                text += {'\\', 'u', '0', '0', digits[code / 16], digits[code % 16]};
            } else {
                text += byte;
            }
        }
    }
    text += '"';
}

void append_value(std::string &text, const RecordValue &value) {
    if (const auto *truth = value.as<bool>()) {
        text += *truth ? "true" : "false";
    } else if (const auto *whole = value.as<std::int64_t>()) {
        text += std::to_string(*whole);
    } else if (const auto *number = value.as<double>()) {
        const std::string shown = real(*number);
        text += shown.ends_with(".0") ? shown.substr(0, shown.size() - 2) : shown;
    } else if (const auto *string = value.as<std::string>()) {
        append_string(text, *string);
    } else if (const auto *list = value.as<RecordValue::List>()) {
        const char *before = "[";
        for (const RecordValue &one : *list) {
            text += before;
            append_value(text, one);
            before = ",";
        }
        text += list->empty() ? "[]" : "]";
    } else if (const auto *object = value.as<RecordValue::Object>()) {
        const char *before = "{";
        for (const auto &[name, one] : *object) {
            text += before;
            append_string(text, name);
            text += ':';
            append_value(text, one);
            before = ",";
        }
        text += object->empty() ? "{}" : "}";
    } else {
        text += "null";
    }
}

std::string shown_value(const RecordValue &value) {
    if (value.as<RecordValue::Object>() != nullptr) {
        return "a record";
    }
    if (value.as<RecordValue::List>() != nullptr) {
        return "a list";
    }
    if (const auto *text = value.as<std::string>()) {
        return in_quotes(*text);
    }
    const auto *number = value.as<double>();
    return number != nullptr ? real(*number) : value.to_text();
}

std::string step_to(std::string_view name) {
    const auto is_letter = [](char byte) {
        return byte == '_' || (byte >= 'a' && byte <= 'z') || (byte >= 'A' && byte <= 'Z');
    };
    const bool is_plain = !name.empty() && is_letter(name.front()) && std::ranges::all_of(name, [&](char byte) {
        return is_letter(byte) || (byte >= '0' && byte <= '9');
    });
    return is_plain ? "." + std::string(name) : "[" + in_quotes(name) + "]";
}

template <class N>
bool breaks_bound(std::string_view name, N number, N bound) {
    return (name.starts_with("min") && number < bound) || (name.starts_with("max") && number > bound) ||
           (name == "above" && number <= bound) || (name == "below" && number >= bound);
}

/// The characters of a text, each as its bytes.
std::vector<std::string_view> characters(std::string_view text) {
    std::vector<std::string_view> all;
    std::size_t begin = 0;
    for (std::size_t at = 1; at <= text.size(); ++at) {
        if (at == text.size() || (static_cast<unsigned char>(text[at]) & 0xC0U) != 0x80U) {
            all.push_back(text.substr(begin, at - begin));
            begin = at;
        }
    }
    return all;
}

/// How many characters have to be put in, dropped or replaced (Levenshtein).
std::size_t distance(const std::vector<std::string_view> &one, const std::vector<std::string_view> &other) {
    std::vector<std::size_t> row(other.size() + 1);
    std::iota(row.begin(), row.end(), std::size_t{0});
    for (std::size_t at = 0; at < one.size(); ++at) {
        std::size_t last = row[0];
        row[0] = at + 1;
        for (std::size_t place = 0; place < other.size(); ++place) {
            const std::size_t changed = last + (one[at] == other[place] ? 0U : 1U);
            last = row[place + 1];
            row[place + 1] = std::min({last + 1, row[place] + 1, changed});
        }
    }
    return row.back();
}

std::string lower(std::string_view text) {
    std::string all(text);
    std::ranges::transform(all, all.begin(), [](char byte) {
        return byte >= 'A' && byte <= 'Z' ? static_cast<char>(byte + ('a' - 'A')) : byte;
    });
    return all;
}

/// The known name that is likely meant, or nothing: the same but for case, or the one that takes the fewest changes.
std::string_view nearest(std::string_view name, Names known) {
    for (const std::string_view each : known) {
        if (lower(each) == lower(name)) {
            return each;
        }
    }
    const std::vector<std::string_view> letters = characters(name);
    if (letters.size() > farthest) {
        return {};
    }
    std::string_view best;
    std::size_t fewest = std::max(letters.size() / 3, std::size_t{1}) + 1;
    for (const std::string_view each : known) {
        const std::size_t changes = distance(letters, characters(each));
        if (changes < fewest) {
            best = each;
            fewest = changes;
        }
    }
    return best;
}

std::string told_all(const std::string &owner, const std::vector<RecordProblem> &problems) {
    std::string all = owner + ": not made of this record";
    for (const RecordProblem &problem : problems) {
        all += "\n  " + problem.to_string();
    }
    return all;
}

} // namespace

std::string At::path() const {
    if (up_ == nullptr) {
        return {};
    }
    return up_->path() + step_;  // «#step#»
}

std::string At::named() const {
    std::string part;
    if (!within_.empty()) {
        part = within_ == "key." ? "a key of " : "an element of ";
    }
    return part + std::string(owner_) + (field_.empty() ? "" : ".") + std::string(field_);
}

void At::tell(
    const std::string &step, std::string text, std::string_view limit, Bound bound, std::optional<RecordValue> value
) const {
    std::string path = this->path() + step;
    if (path.starts_with('.')) {
        path.erase(0, 1);
    }
    RecordProblem problem{
        std::move(path),
        std::move(text),
        std::string(owner_),
        std::string(field_),
        std::string(within_) + std::string(limit),
        std::move(bound),
        std::move(value),
        std::nullopt,
    };
    problems_->push_back(std::move(problem));  // «#tell#»
}

void At::unfit(std::string_view limit, std::string_view wanted) const {
    const std::string found = is_secret_ ? ": " : " is " + shown_value(*value_) + "; ";
    std::optional<RecordValue> value;
    if (!is_secret_) {
        value = *value_;
    }
    tell("", named() + found + std::string(wanted), limit, {}, std::move(value));
}

void At::missing() const {
    tell("", named() + " is missing", "missing", {}, std::nullopt);
}

template <class Breaks>
bool At::keeps(Limits limits, const Found &found, Breaks breaks) const {
    for (const Limit &limit : limits) {
        if (!breaks(limit)) {
            continue;
        }
        const bool is_hidden = is_secret_ && std::holds_alternative<std::string>(found);
        const Found told = is_hidden ? Found{} : found;
        std::optional<RecordValue> value;
        if (const auto *whole = std::get_if<std::int64_t>(&told)) {
            value = *whole;
        } else if (const auto *number = std::get_if<double>(&told)) {
            value = *number;
        } else if (const auto *text = std::get_if<std::string>(&told)) {
            value = *text;
        }
        const std::string name = std::string(within_) + std::string(limit.name);
        const LimitError error(owner_, field_, name, limit.bound, told);
        tell("", error.what(), limit.name, limit.bound, std::move(value));
        return false;
    }
    return true;
}

bool At::keeps_size(Limits limits, std::size_t size) const {
    const auto length = static_cast<std::int64_t>(size);
    return keeps(limits, length, [&](const Limit &limit) {
        const auto *bound = std::get_if<std::int64_t>(&limit.bound);
        const bool is_free = limit.is_free_if_empty && length == 0;
        return bound != nullptr && !is_free && breaks_bound(limit.name, length, *bound);
    });
}

const std::string *At::told_text(std::string_view wanted) const {
    if (value_ == nullptr) {
        return nullptr;
    }
    const auto *text = value_->as<std::string>();
    if (text == nullptr) {
        unfit("type", wanted);
    }
    return text;
}

bool At::keeps_order(
    Limits limits, const std::string &shown, const std::function<int(const std::string &)> &order
) const {
    return keeps(limits, shown, [&](const Limit &limit) {
        const auto *bound = std::get_if<std::string>(&limit.bound);
        return bound != nullptr && breaks_bound(limit.name, order(*bound), 0);
    });
}

void At::tell_repeated(const Found &element) const {
    static_cast<void>(keeps({{"unique"}}, element, [](const Limit &) { return true; }));
}

std::optional<std::string> At::text(Limits limits) const {
    if (value_ == nullptr) {
        return std::nullopt;
    }
    const auto *text = value_->as<std::string>();
    if (text == nullptr) {
        unfit("type", "a text is wanted");
        return std::nullopt;
    }
    const bool is_kept = keeps(limits, *text, [&](const Limit &limit) {
        if (limit.is_of_form != nullptr) {
            return !limit.is_of_form(*text);
        }
        if (const auto *bound = std::get_if<std::int64_t>(&limit.bound)) {
            return breaks_bound(limit.name, static_cast<std::int64_t>(detail::length(*text)), *bound);
        }
        const auto *words = std::get_if<std::vector<std::string>>(&limit.bound);
        return words != nullptr ? std::ranges::find(*words, *text) == words->end() : detail::is_blank(*text);
    });
    return is_kept ? std::optional(*text) : std::nullopt;
}

std::optional<std::int64_t> At::integer(Limits limits) const {
    if (value_ == nullptr) {
        return std::nullopt;
    }
    const auto *whole = value_->as<std::int64_t>();
    const auto *number = value_->as<double>();
    const bool is_whole = number != nullptr && std::trunc(*number) == *number && std::fabs(*number) < exact;
    if (whole == nullptr && !is_whole) {
        unfit("type", "an integer is wanted");
        return std::nullopt;
    }
    const std::int64_t held = whole != nullptr ? *whole : static_cast<std::int64_t>(*number);
    const bool is_kept = keeps(limits, held, [&](const Limit &limit) {
        if (const auto *bound = std::get_if<std::int64_t>(&limit.bound)) {
            return breaks_bound(limit.name, held, *bound);
        }
        const auto *words = std::get_if<std::vector<std::int64_t>>(&limit.bound);
        return words != nullptr && std::ranges::find(*words, held) == words->end();
    });
    return is_kept ? std::optional(held) : std::nullopt;
}

std::optional<double> At::real(Limits limits) const {
    if (value_ == nullptr) {
        return std::nullopt;
    }
    const auto *whole = value_->as<std::int64_t>();
    const auto *number = value_->as<double>();
    if (whole == nullptr && number == nullptr) {
        unfit("type", "a number is wanted");
        return std::nullopt;
    }
    const double held = number != nullptr ? *number : static_cast<double>(*whole);
    const bool is_kept = keeps(limits, held, [&](const Limit &limit) {
        const auto *bound = std::get_if<double>(&limit.bound);
        return bound != nullptr ? breaks_bound(limit.name, held, *bound) : !std::isfinite(held);
    });
    return is_kept ? std::optional(held) : std::nullopt;
}

std::optional<bool> At::truth() const {
    if (value_ == nullptr) {
        return std::nullopt;
    }
    const auto *truth = value_->as<bool>();
    if (truth == nullptr) {
        unfit("type", "true or false is wanted");
        return std::nullopt;
    }
    return *truth;
}

std::string At::one_of(const std::vector<std::string_view> &names) {
    std::string all;
    for (const std::string_view name : names) {
        all += (all.empty() ? "" : ", ") + in_quotes(name);
    }
    return "one of " + all + " is wanted";
}

bool At::is_too_deep() const {
    if (level_ < most_levels) {
        return false;
    }
    const auto most = static_cast<std::int64_t>(most_levels);
    tell("", "this is more than " + std::to_string(most) + " levels deep", "depth", most, std::nullopt);
    return true;
}

At At::below(std::string step, std::string_view within, const RecordValue &value) const {
    At inner = *this;
    inner.up_ = this;
    inner.step_ = std::move(step);
    inner.level_ = level_ + 1;
    inner.within_ = within;
    inner.value_ = &value;
    return inner;
}

At At::element(std::string step, const RecordValue &value) const {
    At inner = below(std::move(step), "each.", value);
    if (value.is_null()) {
        inner.value_ = nullptr;
        inner.missing();
    }
    return inner;
}

At At::of(std::string_view owner) const {
    At whole = *this;
    whole.owner_ = owner;
    whole.field_ = {};
    whole.within_ = {};
    whole.is_secret_ = false;
    return whole;
}

At::Entries At::sorted(const RecordValue::Object &object) {
    Entries entries;
    for (const auto &[name, value] : object) {
        entries.insert_or_assign(name, &value);
    }
    return entries;
}

std::pair<RecordValue, std::string> At::key_of(std::string_view name, bool is_numbered) {
    std::int64_t number = 0;
    const auto [end, fault] = std::from_chars(name.data(), name.data() + name.size(), number);
    if (is_numbered && fault == std::errc() && std::to_string(number) == name) {
        return {number, "[" + std::string(name) + "]"};
    }
    return {std::string(name), "[" + in_quotes(name) + "]"};
}

void At::tell_twice(const RecordValue::Object &object) const {
    std::set<std::string_view> names;
    for (const auto &[name, value] : object) {
        if (!names.insert(name).second) {
            tell(step_to(name), "this name stands there twice", "twice", {}, std::nullopt);
        }
    }
}

std::optional<Fields> At::fields(std::string_view owner, std::string_view kind, Names kinds) const {
    const At record = of(owner);
    const auto *object = value_ == nullptr ? nullptr : value_->as<RecordValue::Object>();
    if (object == nullptr) {
        if (value_ != nullptr) {
            unfit("type", "a record is wanted");
        }
        return std::nullopt;
    }
    if (record.is_too_deep()) {
        return std::nullopt;
    }
    Fields fields(record, *object);
    record.tell_twice(*object);
    const RecordValue *found = kind.empty() ? nullptr : fields.find(kind);
    const auto *name = found == nullptr ? nullptr : found->as<std::string>();
    if (found != nullptr && (name == nullptr || std::ranges::find(kinds, *name) == kinds.end())) {
        record.unknown_kind(kind, found, kinds);
    }
    return fields;
}

RecordValue At::without(std::string_view name) const {
    RecordValue::Object rest;
    if (const auto *object = value_ == nullptr ? nullptr : value_->as<RecordValue::Object>()) {
        for (const auto &entry : *object) {
            if (entry.first != name) {
                rest.push_back(entry);
            }
        }
    }
    return rest;
}

std::optional<std::string_view> At::kind_among(
    std::string_view owner, std::string_view name, bool is_needed, std::span<const std::string_view> kinds
) const {
    const auto *object = value_ == nullptr ? nullptr : value_->as<RecordValue::Object>();
    if (object == nullptr) {
        if (value_ != nullptr) {
            unfit("type", "a record is wanted");
        }
        return std::nullopt;
    }
    const RecordValue *found = Fields(*this, *object).find(name);
    const auto *told = found == nullptr ? nullptr : found->as<std::string>();
    if (told != nullptr) {
        const auto known = std::ranges::find(kinds, *told);
        if (known != kinds.end()) {
            return *known;
        }
    }
    if (found == nullptr && !is_needed) {
        return std::string_view();
    }
    of(owner).unknown_kind(name, found, {kinds.begin(), kinds.end()});  // «#kind#»
    return std::nullopt;
}

void At::unknown_kind(
    std::string_view name, const RecordValue *kind, const std::vector<std::string_view> &kinds
) const {
    const std::string field = std::string(owner_) + "." + std::string(name);
    if (kind == nullptr) {
        tell(step_to(name), field + " is missing", "missing", {}, std::nullopt);
    } else {
        tell(step_to(name), field + " is " + shown_value(*kind) + "; " + one_of(kinds), "kind", {}, *kind);
    }
}

const RecordValue *Fields::find(std::string_view name) const {
    for (const auto &[each, value] : *object_) {
        if (each == name) {
            return value.is_null() ? nullptr : &value;
        }
    }
    return nullptr;
}

At Fields::optional(std::string_view name, std::string_view owner, std::string_view field) const {
    At value = record_;
    value.up_ = &record_;
    value.step_ = step_to(name);
    value.level_ = record_.level_ + 1;
    value.owner_ = owner;
    value.field_ = field;
    value.value_ = find(name);
    return value;
}

At Fields::required(std::string_view name, std::string_view owner, std::string_view field) const {
    At value = optional(name, owner, field);
    if (value.value_ == nullptr) {
        value.missing();
    }
    return value;
}

void Fields::refuse_others(Names known) const {
    for (const auto &[name, value] : At::sorted(*object_)) {
        if (std::ranges::find(known, name) != known.end()) {
            continue;
        }
        const std::string_view meant = nearest(name, known);
        const std::string hint = meant.empty() ? "" : "; did you mean " + in_quotes(meant) + "?";
        const std::string text = std::string(record_.owner_) + " has no such field" + hint;
        record_.tell(step_to(name), text, "unknown", {}, std::nullopt);
    }
}

void Fields::refused(const CreationError &error) const {
    const auto *limit = dynamic_cast<const LimitError *>(&error);
    if (limit != nullptr) {
        record_.tell(step_to(limit->field()), error.what(), limit->limit(), limit->bound(), std::nullopt);
    } else {
        record_.tell("", error.what(), "refused", {}, std::nullopt);
    }
}

void add_problems(
    std::vector<RecordProblem> &problems, std::size_t record, const std::vector<RecordProblem> &found
) {
    for (RecordProblem problem : found) {
        const bool is_apart = !problem.path.empty() && !problem.path.starts_with('[');
        problem.path = "[" + std::to_string(record) + "]" + (is_apart ? "." : "") + problem.path;
        problem.record = record;
        problems.push_back(std::move(problem));
    }
}

const RecordValue::List *list_of(const RecordValue &records, std::vector<RecordProblem> &problems) {
    const auto *list = records.as<RecordValue::List>();
    if (list == nullptr) {
        const std::string text = "the records are " + shown_value(records) + "; a list is wanted";
        problems.push_back({"", text, "", "", "type", {}, records, std::nullopt});
    }
    return list;
}

} // namespace detail

std::string RecordValue::to_text() const {
    std::string text;
    detail::append_value(text, *this);
    return text;
}

RecordError::RecordError(const std::string &owner, std::vector<RecordProblem> problems)
    : CreationError(owner, detail::told_all(owner, problems)),
      problems_(std::move(problems)) {}

} // namespace NAMESPACE
