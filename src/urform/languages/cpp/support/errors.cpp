#include "FOLDER/errors.hpp"

#include "FOLDER/values.hpp"

#include <sstream>
#include <utility>

namespace NAMESPACE {
namespace {

std::string joined(const std::vector<std::string> &words) {
    std::string all;
    for (const std::string &word : words) {
        all += (all.empty() ? "" : ", ") + word;
    }
    return all;
}

struct Shown {
    std::ostream &out;

    void operator()(std::monostate) const {}

    template <class T>
    void operator()(const T &bound) const {
        out << ' ';
        detail::show(out, bound);
    }
};

std::string shown(const Bound &bound) {
    std::ostringstream out;
    std::visit(Shown{out}, bound);
    return out.str();
}

std::string in_quotes(const std::string &text) {
    std::ostringstream out;
    detail::show(out, text);
    return out.str();
}

} // namespace

CreationError::CreationError(std::string owner, const std::string &message)
    : std::invalid_argument(owner + message),
      owner_(std::move(owner)) {}

MissingError::MissingError(std::string owner, std::vector<std::string> fields)
    : CreationError(std::move(owner), ": missing " + joined(fields)),
      fields_(std::move(fields)) {}

LimitError::LimitError(
    std::string_view owner, std::string_view field, std::string_view limit, Bound bound
)
    : CreationError(
          std::string(owner),
          "." + std::string(field) + ": breaks " + std::string(limit) + shown(bound)
      ),
      field_(field),
      limit_(limit),
      bound_(std::move(bound)) {}

UnknownKeyError::UnknownKeyError(std::string owner, std::string key, std::vector<std::string> known)
    : CreationError(std::move(owner), ": unknown key " + in_quotes(key) + ", known: " + joined(known)),
      key_(std::move(key)),
      known_(std::move(known)) {}

DuplicateKeyError::DuplicateKeyError(std::string owner, std::string key)
    : CreationError(std::move(owner), ": key " + in_quotes(key) + " is taken"),
      key_(std::move(key)) {}

RefusedError::RefusedError(std::string owner, std::string reason)
    : CreationError(std::move(owner), ": refused, " + reason),
      reason_(std::move(reason)) {}

} // namespace NAMESPACE
