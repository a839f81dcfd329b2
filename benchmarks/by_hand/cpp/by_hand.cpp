// The definitions, in a file of their own as in any library: a header would let the compiler see through them where it is called.
#include "by_hand.hpp"

#include <cmath>
#include <stdexcept>
#include <utility>

namespace by_hand {

static std::size_t code_points(std::string_view text) {
    std::size_t count = 0;
    for (const char byte : text) {
        count += (static_cast<unsigned char>(byte) & 0xC0U) != 0x80U ? 1U : 0U;
    }
    return count;
}

static bool is_blank(std::string_view text) {
    return text.find_first_not_of(" \t\n\v\f\r") == std::string_view::npos;
}

Position::Position(double latitude, double longitude)
    : latitude_(latitude + 0.0), longitude_(longitude + 0.0) {
    if (!std::isfinite(latitude) || latitude < -90.0 || latitude > 90.0) {
        throw std::invalid_argument("Position.latitude");
    }
    if (!std::isfinite(longitude) || longitude < -180.0 || longitude > 180.0) {
        throw std::invalid_argument("Position.longitude");
    }
}

Leg::Leg(std::string label, double hours)
    : label_(std::move(label)), hours_(hours + 0.0) {
    if (is_blank(label_)) {
        throw std::invalid_argument("Leg.label");
    }
    if (!std::isfinite(hours) || hours < 0.0) {
        throw std::invalid_argument("Leg.hours");
    }
}

void Leg::set_label(std::string label) {
    if (is_blank(label)) {
        throw std::invalid_argument("Leg.label");
    }
    label_ = std::move(label);
}

std::shared_ptr<const Rhythm> Rhythms::get(const std::string &code, std::int64_t period_ms) const {
    const std::lock_guard reading(mutex_);
    return held_.find({code, period_ms})->second;
}

void Rhythms::add(std::shared_ptr<const Rhythm> rhythm) {
    held_[{rhythm->code, rhythm->period_ms}] = std::move(rhythm);
}

Mark::Mark(std::int64_t station, Position position, MarkOptions options, bool reflective)
    : station_(station), position_(position), side_(options.side), remarks_(std::move(options.remarks)),
      reflective_(options.reflective.value_or(reflective)) {
    if (station < 1 || station > 9999) {
        throw std::invalid_argument("Mark.station");
    }
    if (remarks_ && code_points(*remarks_) > 200) {
        throw std::invalid_argument("Mark.remarks");
    }
}

Buoy::Buoy(std::int64_t station, Position position, MarkOptions options, double draught)
    : Mark(station, position, std::move(options), true), draught_(draught) {
    if (!std::isfinite(draught) || draught <= 0.0) {
        throw std::invalid_argument("Buoy.draught");
    }
}

Beacon::Beacon(std::int64_t station, Position position, MarkOptions options)
    : Mark(station, position, std::move(options), false) {}

MarkRegistry::MarkRegistry() {
    makers_.emplace("beacon", [](std::int64_t station, Position position, MarkOptions options) {
        return std::make_unique<Beacon>(station, position, std::move(options));
    });
    makers_.emplace("buoy", [](std::int64_t station, Position position, MarkOptions options) {
        return std::make_unique<Buoy>(station, position, std::move(options));
    });
}

std::unique_ptr<Mark> MarkRegistry::make(std::string_view key, std::int64_t station, Position position, MarkOptions options) const {
    const auto found = makers_.find(key);
    if (found == makers_.end()) {
        throw std::invalid_argument("unknown key");
    }
    return found->second(station, position, std::move(options));
}

RefitPlan::RefitPlan(std::string title, std::vector<Leg> legs, std::int64_t crew, std::vector<std::string> tags)
    : title_(std::move(title)), legs_(std::move(legs)), crew_(crew), tags_(std::move(tags)) {
    if (is_blank(title_)) {
        throw std::invalid_argument("RefitPlan.title");
    }
    if (legs_.empty()) {
        throw std::invalid_argument("RefitPlan.legs");
    }
    if (crew_ < 1) {
        throw std::invalid_argument("RefitPlan.crew");
    }
}

RefitPlan RefitPlan::fresh_clone() const {
    RefitPlan made = *this;
    made.serial_.reset();
    return made;
}

RefitPlanBuilder &RefitPlanBuilder::title(std::string title) {
    title_ = std::move(title);
    return *this;
}

RefitPlanBuilder &RefitPlanBuilder::crew(std::int64_t crew) {
    crew_ = crew;
    return *this;
}

RefitPlanBuilder &RefitPlanBuilder::tags(std::vector<std::string> tags) {
    tags_ = std::move(tags);
    return *this;
}

RefitPlanBuilder &RefitPlanBuilder::add_leg(Leg leg) {
    if (!legs_) {
        legs_.emplace();
    }
    legs_->push_back(std::move(leg));
    return *this;
}

RefitPlan RefitPlanBuilder::build() const {
    if (!title_ || !legs_) {
        throw std::invalid_argument("RefitPlan: missing");
    }
    return RefitPlan(*title_, *legs_, crew_, tags_);
}

} // namespace by_hand
