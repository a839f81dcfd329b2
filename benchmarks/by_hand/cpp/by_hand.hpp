// What a careful author writes by hand for the same jobs.
#pragma once

#include <cmath>
#include <cstdint>
#include <functional>
#include <map>
#include <memory>
#include <optional>
#include <stdexcept>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

namespace by_hand {

enum class Side { port, starboard };

struct Position {
    double latitude;
    double longitude;
};

struct MarkOptions {
    std::optional<Side> side = {};
    std::optional<std::string> remarks = {};
    std::optional<bool> reflective = {};
};

inline std::size_t code_points(std::string_view text) {
    std::size_t count = 0;
    for (const char byte : text) {
        count += (static_cast<unsigned char>(byte) & 0xC0U) != 0x80U ? 1U : 0U;
    }
    return count;
}

class Mark {
public:
    virtual ~Mark() = default;
    std::int64_t station() const { return station_; }

protected:
    Mark(std::int64_t station, Position position, MarkOptions options, bool reflective)
        : station_(station), position_(position), side_(options.side), remarks_(std::move(options.remarks)),
          reflective_(options.reflective.value_or(reflective)) {
        if (station < 1 || station > 9999) {
            throw std::invalid_argument("Mark.station");
        }
        if (remarks_ && code_points(*remarks_) > 200) {
            throw std::invalid_argument("Mark.remarks");
        }
    }

private:
    std::int64_t station_;
    Position position_;
    std::optional<Side> side_;
    std::optional<std::string> remarks_;
    bool reflective_;
};

class Buoy final : public Mark {
public:
    Buoy(std::int64_t station, Position position, MarkOptions options, double draught = 1.5)
        : Mark(station, position, std::move(options), true), draught_(draught) {
        if (!std::isfinite(draught) || draught <= 0.0) {
            throw std::invalid_argument("Buoy.draught");
        }
    }

    double draught() const { return draught_; }

private:
    double draught_;
};

class MarkRegistry {
public:
    using Maker = std::function<std::unique_ptr<Mark>(std::int64_t, Position, MarkOptions)>;

    MarkRegistry() {
        makers_.emplace("buoy", [](std::int64_t station, Position position, MarkOptions options) {
            return std::make_unique<Buoy>(station, position, std::move(options));
        });
    }

    std::unique_ptr<Mark> make(std::string_view key, std::int64_t station, Position position, MarkOptions options) const {
        const auto found = makers_.find(key);
        if (found == makers_.end()) {
            throw std::invalid_argument("unknown key");
        }
        return found->second(station, position, std::move(options));
    }

private:
    std::map<std::string, Maker, std::less<>> makers_;
};

struct Leg {
    std::string label;
    double hours = 0.0;
};

class RefitPlan {
public:
    RefitPlan(std::string title, std::vector<Leg> legs, std::int64_t crew, std::vector<std::string> tags)
        : title_(std::move(title)), legs_(std::move(legs)), crew_(crew), tags_(std::move(tags)) {
        if (title_.find_first_not_of(" \t\n\v\f\r") == std::string::npos) {
            throw std::invalid_argument("RefitPlan.title");
        }
        if (legs_.empty()) {
            throw std::invalid_argument("RefitPlan.legs");
        }
        if (crew_ < 1) {
            throw std::invalid_argument("RefitPlan.crew");
        }
    }

    RefitPlan fresh_clone() const {
        RefitPlan made = *this;
        made.serial_.reset();
        return made;
    }

private:
    std::string title_;
    std::vector<Leg> legs_;
    std::int64_t crew_;
    std::vector<std::string> tags_;
    std::vector<std::shared_ptr<const std::string>> sheets_{};
    std::shared_ptr<const std::string> chart_{};
    std::optional<std::int64_t> serial_{};
};

class RefitPlanBuilder {
public:
    RefitPlanBuilder &title(std::string title) {
        title_ = std::move(title);
        return *this;
    }

    RefitPlanBuilder &crew(std::int64_t crew) {
        crew_ = crew;
        return *this;
    }

    RefitPlanBuilder &tags(std::vector<std::string> tags) {
        tags_ = std::move(tags);
        return *this;
    }

    RefitPlanBuilder &add_leg(Leg leg) {
        if (!legs_) {
            legs_.emplace();
        }
        legs_->push_back(std::move(leg));
        return *this;
    }

    RefitPlan build() const {
        if (!title_ || !legs_) {
            throw std::invalid_argument("RefitPlan: missing");
        }
        return RefitPlan(*title_, *legs_, crew_, tags_);
    }

private:
    std::optional<std::string> title_;
    std::optional<std::vector<Leg>> legs_;
    std::int64_t crew_ = 2;
    std::vector<std::string> tags_;
};

} // namespace by_hand
