#pragma once

#include "FOLDER/errors.hpp"
#include "FOLDER/values.hpp"

#include <atomic>
#include <cstddef>
#include <cstdint>
#include <map>
#include <memory>
#include <mutex>
#include <string>
#include <thread>
#include <tuple>
#include <utility>

namespace NAMESPACE::detail {

/// The order of keys, and of the parts by which they are found. Not every compiler's `std::less<>` compares tuples of different types.
struct Before {
    using is_transparent = void;

    template <class One, class Other>
    bool operator()(const One &one, const Other &other) const {
        return from<0>(one, other);
    }

private:
    template <std::size_t at, class One, class Other>
    static bool from(const One &one, const Other &other) {
        if constexpr (at == std::tuple_size_v<One>) {
            return false;
        } else {
            const bool before = std::get<at>(one) < std::get<at>(other);
            const bool after = std::get<at>(other) < std::get<at>(one);
            return before || (!after && from<at + 1>(one, other));
        }
    }
};

/// One product a key; a weak pool holds it for as long as something else does.
template <class Key, class T>
class Pool {
public:
    Pool(std::string owner, bool weak)
        : owner_(std::move(owner)),
          weak_(weak) {}

    /// The product of a key, made if need be; one that waited for a maker that failed tries itself. It is found by the parts of the
    /// key, so that none of them is copied.
    template <class Parts, class Maker>
    Shared<T> get(const Parts &key, Maker make) {  // «#get#»
        if (std::shared_ptr<const T> found = find(key)) {
            return found;  // «#hit#»
        }
        const std::shared_ptr<Slot> slot = slot_of(key);
        if (slot->maker == std::this_thread::get_id()) {
            throw RefusedError(owner_, "its maker asks for the key that it makes");
        }
        const std::lock_guard making(slot->mutex);
        if (std::shared_ptr<const T> found = find(key)) {
            return found;  // «#hit#»
        }
        const Mine mine(*slot);
        const auto made = std::make_shared<const T>(make());  // «#make#»
        const std::lock_guard storing(mutex_);
        slot->held = made;  // «#keep#»
        slot->kept = weak_ ? nullptr : made;  // «#keep#»
        ++made_;  // «#count_made#»
        return made;
    }

    [[nodiscard]] std::int64_t made() const {
        const std::lock_guard looking(mutex_);
        return made_;
    }

    [[nodiscard]] std::int64_t reused() const {
        const std::lock_guard looking(mutex_);
        return reused_;
    }

private:
    /// Its mutex is locked while its product is made, so that others who ask for it wait, and nobody else.
    struct Slot {
        std::mutex mutex{};
        std::atomic<std::thread::id> maker{};
        std::weak_ptr<const T> held{};
        std::shared_ptr<const T> kept{};
    };

    /// Says, as long as it is there, which thread makes the product of a slot.
    class Mine {
    public:
        explicit Mine(Slot &slot)
            : slot_(slot) {
            slot_.maker = std::this_thread::get_id();
        }
        Mine(const Mine &) = delete;
        Mine &operator=(const Mine &) = delete;
        ~Mine() { slot_.maker = std::thread::id(); }

    private:
        Slot &slot_;
    };

    template <class Parts>
    std::shared_ptr<const T> find(const Parts &key) {
        const std::lock_guard looking(mutex_);
        const auto place = slots_.find(key);
        if (place == slots_.end()) {
            return nullptr;
        }
        const Slot &slot = *place->second;
        std::shared_ptr<const T> found = slot.kept != nullptr ? slot.kept : slot.held.lock();
        if (found != nullptr) {
            ++reused_;  // «#count_reused#»
        }
        return found;
    }

    template <class Parts>
    std::shared_ptr<Slot> slot_of(const Parts &key) {
        const std::lock_guard looking(mutex_);
        const auto place = slots_.find(key);
        if (place != slots_.end()) {
            return place->second;
        }
        if (slots_.size() >= forget_at_) { // keys whose maker failed, and what nobody holds any longer
            std::erase_if(slots_, [](const auto &slot) { return slot.second.use_count() == 1 && slot.second->held.expired(); });
            forget_at_ = 2 * slots_.size() + 16;
        }
        return slots_[Key(key)] = std::make_shared<Slot>();
    }

    std::string owner_;
    bool weak_;
    mutable std::mutex mutex_{}; // of all that follows, and of what slots hold
    std::map<Key, std::shared_ptr<Slot>, Before> slots_{};
    std::size_t forget_at_ = 16;
    std::int64_t made_ = 0;
    std::int64_t reused_ = 0;
};

} // namespace NAMESPACE::detail
