#pragma once

#include "FOLDER/export.hpp"

#include <concepts>
#include <cstddef>
#include <cstdint>
#include <functional>
#include <map>
#include <memory>
#include <optional>
#include <ostream>
#include <set>
#include <stdexcept>
#include <string>
#include <string_view>
#include <type_traits>
#include <utility>
#include <vector>

namespace NAMESPACE {

/// Owns one product behind a pointer, as if it were a value: a copy is another one of the same type, and comparison is by
/// content. It is never null until it is moved from; what was moved from is refused wherever a product is given one.
template <class T>
class Owned {
public:
    template <std::derived_from<T> U>
    Owned(U product)
        : product_(std::make_unique<U>(std::move(product))) {}

    Owned(std::unique_ptr<T> product)
        : product_(std::move(product)) {
        if (product_ == nullptr) {
            throw std::invalid_argument("a product is null");
        }
    }

    Owned(const Owned &other)
        : product_(copied(other)) {}
    Owned(Owned &&) noexcept = default;

    Owned &operator=(const Owned &other) {
        product_ = copied(other);
        return *this;
    }

    Owned &operator=(Owned &&) noexcept = default;
    ~Owned() = default;

    T &operator*() { return *product_; }
    const T &operator*() const { return *product_; }
    T *operator->() { return product_.get(); }
    const T *operator->() const { return product_.get(); }

    /// Whether it holds nothing any more.
    [[nodiscard]] bool was_moved_from() const noexcept { return product_ == nullptr; }

    bool operator==(const Owned &other) const {
        if (product_ == nullptr || other.product_ == nullptr) {
            return product_ == other.product_; // one that was moved from is equal to such only
        }
        return *product_ == *other.product_;
    }

    friend std::ostream &operator<<(std::ostream &out, const Owned &owned) { return out << *owned; }

private:
    static std::unique_ptr<T> copied(const Owned &other) {
        if (other.product_ == nullptr) {
            return nullptr;
        }
        if constexpr (std::is_abstract_v<T>) {
            return other.product_->clone();
        } else {
            return std::make_unique<T>(*other.product_);
        }
    }

    std::unique_ptr<T> product_;
};

namespace detail {
template <class Key, class T>
class Pool;
} // namespace detail

/// Shares one product that nobody changes. It is never null, for what moves it copies it; comparison is by content.
template <class T>
class Shared {
public:
    template <std::derived_from<T> U>
    Shared(U product)
        : product_(std::make_shared<const U>(std::move(product))) {}

    Shared(std::unique_ptr<T> product)
        : Shared(std::shared_ptr<const T>(std::move(product))) {}

    Shared(const Shared &) = default;
    Shared &operator=(const Shared &) = default;
    ~Shared() = default;

    const T &operator*() const { return *product_; }
    const T *operator->() const { return product_.get(); }

    /// The pointer itself: two that share have the same.
    [[nodiscard]] const std::shared_ptr<const T> &pointer() const { return product_; }

    bool operator==(const Shared &other) const { return product_ == other.product_ || *product_ == *other.product_; }

    friend std::ostream &operator<<(std::ostream &out, const Shared &shared) { return out << *shared; }

private:
    template <class Key, class Kept>
    friend class detail::Pool;

    /// For what holds the only pointers there are: through a pointer of someone else's the product could be written.
    Shared(std::shared_ptr<const T> product)
        : product_(std::move(product)) {
        if (product_ == nullptr) {
            throw std::invalid_argument("a product is null");
        }
    }

    std::shared_ptr<const T> product_;
};

namespace detail {

/// Tells the constructor of a clone from that of a copy.
struct Again {};

// What a clone has of a product, or of a field with products: another one, in which what is fresh starts again.
template <class T>
T duplicated(const T &product) {
    if constexpr (std::is_same_v<decltype(product.duplicate()), T>) {
        return product.duplicate();
    } else {
        return static_cast<T &&>(*product.duplicate()); // a kind, which its base gives behind a pointer to the base
    }
}

template <class T>
Owned<T> duplicated(const Owned<T> &owned);
template <class T>
std::optional<T> duplicated(const std::optional<T> &value);
template <class T>
std::vector<T> duplicated(const std::vector<T> &values);
template <class K, class T>
std::map<K, T> duplicated(const std::map<K, T> &values);

template <class T>
Owned<T> duplicated(const Owned<T> &owned) {
    if constexpr (std::is_abstract_v<T>) {
        return owned->duplicate();
    } else {
        return duplicated(*owned);
    }
}

template <class T>
std::optional<T> duplicated(const std::optional<T> &value) {
    if (!value) {
        return std::nullopt;
    }
    return duplicated(*value);
}

template <class T>
std::vector<T> duplicated(const std::vector<T> &values) {
    std::vector<T> made;
    made.reserve(values.size());
    for (const T &value : values) {
        made.push_back(duplicated(value));
    }
    return made;
}

template <class K, class T>
std::map<K, T> duplicated(const std::map<K, T> &values) {
    std::map<K, T> made;
    for (const auto &[key, value] : values) {
        made.emplace_hint(made.end(), key, duplicated(value));
    }
    return made;
}

// Refuse a product that was moved from, at every level of a collection; what is no `Owned` is there.
template <class T>
void refuse_moved(const T &) {}

template <class T>
void refuse_moved(const Owned<T> &owned) {
    if (owned.was_moved_from()) {
        throw std::invalid_argument("a product was moved from");
    }
}

template <class T>
void refuse_moved(const std::optional<T> &value);
template <class T>
void refuse_moved(const std::vector<T> &values);
template <class K, class T>
void refuse_moved(const std::map<K, T> &values);

template <class T>
void refuse_moved(const std::optional<T> &value) {
    if (value) {
        refuse_moved(*value);
    }
}

template <class T>
void refuse_moved(const std::vector<T> &values) {
    for (const T &value : values) {
        refuse_moved(value);
    }
}

template <class K, class T>
void refuse_moved(const std::map<K, T> &values) {
    for (const auto &entry : values) {
        refuse_moved(entry.second);
    }
}

/// What is kept of owned products: all of them are there.
template <class T>
T whole(T value) {
    refuse_moved(value);
    return value;
}

/// Nothing but the blanks of ASCII.
inline bool is_blank(std::string_view text) {
    for (const char byte : text) {
        if (byte != ' ' && (byte < '\t' || byte > '\r')) {
            return false;
        }
    }
    return true;
}

/// How many code points there are.
inline std::size_t length(std::string_view text) {
    std::size_t count = 0;
    for (const char byte : text) {
        count += (static_cast<unsigned char>(byte) & 0xC0U) != 0x80U ? 1U : 0U;
    }
    return count;
}

/// The first value that stood before it already, or none.
template <class T>
[[nodiscard]] const T *first_repeated(const std::vector<T> &values) {
    const auto less = [](const T *one, const T *other) { return *one < *other; };
    std::set<const T *, decltype(less)> before(less);
    for (const T &value : values) {
        if (!before.insert(&value).second) {
            return &value;
        }
    }
    return nullptr;
}

/// A text so many times.
EXPORTED std::string repeated(std::string_view text, std::size_t times);

/// What is stored of a real: a negative zero as a plain one, at every level.
inline double plain_zero(double value) {
    return value + 0.0;
}

template <class T>
std::vector<T> plain_zero(std::vector<T> values);
template <class K, class T>
std::map<K, T> plain_zero(std::map<K, T> values);

template <class T>
std::vector<T> plain_zero(std::vector<T> values) {
    for (T &value : values) {
        value = plain_zero(std::move(value));
    }
    return values;
}

template <class K, class T>
std::map<K, T> plain_zero(std::map<K, T> values) {
    for (auto &[key, value] : values) {
        value = plain_zero(std::move(value));
    }
    return values;
}

template <class T>
std::optional<T> plain_zero(std::optional<T> value) {
    if (value) {
        value = plain_zero(*std::move(value));
    }
    return value;
}

// Hashes of content: what is equal has the same.
template <class T>
std::size_t hash_of(const T &value) {
    return std::hash<T>{}(value);
}

template <class T>
std::size_t hash_of(const std::optional<T> &value);
template <class T>
std::size_t hash_of(const std::vector<T> &values);
template <class T>
std::size_t hash_of(const std::set<T> &values);
template <class K, class T>
std::size_t hash_of(const std::map<K, T> &values);

template <class... T>
std::size_t hash_all(const T &...values) {
    std::size_t hash = 17;
    ((hash = hash * 31 + hash_of(values)), ...);
    return hash;
}

template <class T>
std::size_t hash_each(const T &values) {
    std::size_t hash = values.size();
    for (const typename T::value_type &value : values) {
        hash = hash * 31 + hash_of(value);
    }
    return hash;
}

template <class T>
std::size_t hash_of(const std::optional<T> &value) {
    return value ? hash_all(true, *value) : 0;
}

template <class T>
std::size_t hash_of(const std::vector<T> &values) {
    return hash_each(values);
}

template <class T>
std::size_t hash_of(const std::set<T> &values) {
    return hash_each(values);
}

template <class K, class T>
std::size_t hash_of(const std::map<K, T> &values) {
    std::size_t hash = values.size();
    for (const auto &[key, value] : values) {
        hash = hash * 31 + hash_all(key, value);
    }
    return hash;
}

// How values are shown within products.
EXPORTED void show(std::ostream &out, const std::string &text);
EXPORTED void show(std::ostream &out, double value);
EXPORTED void show(std::ostream &out, bool value);

template <class T>
void show(std::ostream &out, const T &value) {
    out << value;
}

template <class T>
void show(std::ostream &out, const std::optional<T> &value);
template <class T>
void show(std::ostream &out, const std::vector<T> &values);
template <class T>
void show(std::ostream &out, const std::set<T> &values);
template <class K, class T>
void show(std::ostream &out, const std::map<K, T> &values);

template <class T>
void show_all(std::ostream &out, const T &values) {
    const char *between = "";
    out << '[';
    for (const auto &value : values) {
        out << between;
        show(out, value);
        between = ", ";
    }
    out << ']';
}

template <class T>
void show(std::ostream &out, const std::optional<T> &value) {
    if (value) {
        show(out, *value);
    } else {
        out << "none";
    }
}

template <class T>
void show(std::ostream &out, const std::vector<T> &values) {
    show_all(out, values);
}

template <class T>
void show(std::ostream &out, const std::set<T> &values) {
    show_all(out, values);
}

template <class K, class T>
void show(std::ostream &out, const std::map<K, T> &values) {
    const char *between = "";
    out << '{';
    for (const auto &[key, value] : values) {
        out << between;
        show(out, key);
        out << ": ";
        show(out, value);
        between = ", ";
    }
    out << '}';
}

/// One field of a product that is shown.
template <class T>
void show_pair(std::ostream &out, const char *between, const char *name, const T &value) {
    out << between << name;
    show(out, value);
}

} // namespace detail
} // namespace NAMESPACE

/// What owns a product has the hash of its content.
template <class T>
struct std::hash<NAMESPACE::Owned<T>> {
    std::size_t operator()(const NAMESPACE::Owned<T> &owned) const {
        return owned.was_moved_from() ? 0 : std::hash<T>{}(*owned);
    }
};

/// What shares a product has the hash of its content.
template <class T>
struct std::hash<NAMESPACE::Shared<T>> {
    std::size_t operator()(const NAMESPACE::Shared<T> &shared) const { return std::hash<T>{}(*shared); }
};
