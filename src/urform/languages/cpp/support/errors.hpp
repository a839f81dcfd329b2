#pragma once

#include "FOLDER/export.hpp"

#include <cstdint>
#include <stdexcept>
#include <string>
#include <string_view>
#include <variant>
#include <vector>

namespace NAMESPACE {

/// The value of a limit, nothing where it has none.
using Bound = std::variant<
    std::monostate,
    std::int64_t,
    double,
    std::string,
    std::vector<std::int64_t>,
    std::vector<std::string>>;

/// What an error tells of a value, nothing where it is a secret.
using Found = std::variant<std::monostate, std::int64_t, double, std::string>;

/// Why there is no product, or why a change was refused.
class EXPORTED CreationError : public std::invalid_argument {
public:
    /// The product or family whose declaration says so.
    [[nodiscard]] const std::string &owner() const noexcept { return owner_; }

protected:
    CreationError(std::string owner, const std::string &message);

private:
    std::string owner_;
};

/// Required fields were not given.
class EXPORTED MissingError : public CreationError {
public:
    MissingError(std::string owner, std::vector<std::string> fields);

    /// In the order of the declaration.
    [[nodiscard]] const std::vector<std::string> &fields() const noexcept { return fields_; }

private:
    std::vector<std::string> fields_;
};

/// A value is outside a declared limit.
class EXPORTED LimitError : public CreationError {
public:
    LimitError(
        std::string_view owner, std::string_view field, std::string_view limit, Bound bound = {}, Found value = {}
    );

    [[nodiscard]] const std::string &field() const noexcept { return field_; }
    [[nodiscard]] const std::string &limit() const noexcept { return limit_; }
    [[nodiscard]] const Bound &bound() const noexcept { return bound_; }

    /// The value, or the length of a collection.
    [[nodiscard]] const Found &value() const noexcept { return value_; }

private:
    std::string field_;
    std::string limit_;
    Bound bound_;
    Found value_;
};

namespace detail {

// Numbers that break a limit are refused in a function of its own: what checks them stays as small as the checks.
template <class V>
[[noreturn]] void refuse(std::string_view owner, std::string_view field, std::string_view limit, V value) {
    throw LimitError(owner, field, limit, {}, value);
}

template <class B, class V>
[[noreturn]] void refuse(std::string_view owner, std::string_view field, std::string_view limit, B bound, V value) {
    throw LimitError(owner, field, limit, bound, value);
}

} // namespace detail

/// A key names nothing.
class EXPORTED UnknownKeyError : public CreationError {
public:
    UnknownKeyError(std::string owner, std::string key, std::vector<std::string> known);

    [[nodiscard]] const std::string &key() const noexcept { return key_; }

    /// Sorted.
    [[nodiscard]] const std::vector<std::string> &known() const noexcept { return known_; }

private:
    std::string key_;
    std::vector<std::string> known_;
};

/// A key is taken.
class EXPORTED DuplicateKeyError : public CreationError {
public:
    DuplicateKeyError(std::string owner, std::string key);

    [[nodiscard]] const std::string &key() const noexcept { return key_; }

private:
    std::string key_;
};

/// No product is made of such values.
class EXPORTED RefusedError : public CreationError {
public:
    RefusedError(std::string owner, std::string reason);

    [[nodiscard]] const std::string &reason() const noexcept { return reason_; }

private:
    std::string reason_;
};

namespace detail {

// How messages show a text and a number.
std::string in_quotes(std::string_view text);
std::string real(double number);

} // namespace detail

} // namespace NAMESPACE
