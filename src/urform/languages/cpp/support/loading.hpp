#pragma once

#include "FOLDER/errors.hpp"

#include <atomic>
#include <functional>
#include <mutex>
#include <string>
#include <utility>

namespace NAMESPACE::detail {

/// A maker that is loaded when it is first asked for: once, however many threads ask. A loader that throws or gives no maker is called
/// again when the maker is asked for again.
template <class Maker>
class LoadedMaker {
public:
    LoadedMaker(std::string owner, std::function<Maker()> loader)
        : owner_(std::move(owner)),
          loader_(std::move(loader)) {}

    const Maker &get() {
        if (!loaded_) {  // «#loaded#»
            const std::lock_guard alone(alone_);  // «#alone#»
            if (!loaded_) {
                Maker maker = loader_();  // «#load#»
                if (maker == nullptr) {  // «#check#»
                    throw RefusedError(owner_, "its loader gives no maker");
                }
                maker_ = std::move(maker);
                loaded_ = true;
            }
        }
        return maker_;
    }

private:
    std::string owner_;
    std::function<Maker()> loader_;
    std::mutex alone_;
    std::atomic<bool> loaded_ = false;
    Maker maker_;
};

} // namespace NAMESPACE::detail
