#pragma once

#include "NAMESPACE/values.hpp"

#include <atomic>
#include <cstdint>
#include <map>
#include <memory>
#include <mutex>

namespace NAMESPACE::detail {

/// One product a key, whoever asks; a weak pool holds it for as long as somebody else does.
template <class Key, class T>
class Pool {
public:
    explicit Pool(bool weak)
        : weak_(weak) {}

    /// The product of a key, made if need be; one that waited for a maker that failed tries itself.
    template <class Maker>
    Shared<T> get(const Key &key, Maker make) {
        const std::shared_ptr<Slot> slot = slot_of(key);
        const std::lock_guard making(slot->mutex);
        if (std::shared_ptr<const T> found = slot->held.lock()) {
            ++reused_;
            return found;
        }
        const auto made = std::make_shared<const T>(make());
        slot->held = made;
        slot->kept = weak_ ? nullptr : made;
        ++made_;
        return made;
    }

    std::int64_t made() const { return made_; }
    std::int64_t reused() const { return reused_; }

private:
    /// Locked while its product is made, so that others who ask for it wait, and nobody else.
    struct Slot {
        std::mutex mutex{};
        std::weak_ptr<const T> held{};
        std::shared_ptr<const T> kept{};
    };

    std::shared_ptr<Slot> slot_of(const Key &key) {
        const std::lock_guard looking(mutex_);
        const auto found = slots_.find(key);
        if (found != slots_.end()) {
            return found->second;
        }
        if (weak_ && slots_.size() >= forget_at_) {
            std::erase_if(slots_, [](const auto &slot) { return slot.second.use_count() == 1 && slot.second->held.expired(); });
            forget_at_ = 2 * slots_.size() + 16;
        }
        return slots_[key] = std::make_shared<Slot>();
    }

    bool weak_;
    std::mutex mutex_{};
    std::map<Key, std::shared_ptr<Slot>> slots_{};
    std::size_t forget_at_ = 16;
    std::atomic<std::int64_t> made_ = 0;
    std::atomic<std::int64_t> reused_ = 0;
};

} // namespace NAMESPACE::detail
