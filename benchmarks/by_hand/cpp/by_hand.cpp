// The definitions, in a file of their own as in any library: a header would let the compiler see through them where it is called.
#include "by_hand.hpp"

#include <cmath>
#include <utility>

namespace by_hand {

static std::string joined(const std::vector<std::string> &words) {
    std::string all;
    for (const std::string &word : words) {
        all += (all.empty() ? "" : ", ") + word;
    }
    return all;
}

LimitError::LimitError(const char *owner, const char *field, const char *limit, std::optional<double> bound)
    : std::invalid_argument(std::string(owner) + "." + field + ": breaks " + limit + (bound ? " " + std::to_string(*bound) : "")),
      owner(owner), field(field), limit(limit), bound(bound) {}

MissingError::MissingError(const char *owner, std::vector<std::string> fields)
    : std::invalid_argument(std::string(owner) + ": missing " + joined(fields)), owner(owner), fields(std::move(fields)) {}

UnknownKeyError::UnknownKeyError(const char *owner, std::string key, std::vector<std::string> known)
    : std::invalid_argument(std::string(owner) + ": unknown key " + key + ", known: " + joined(known)),
      owner(owner), key(std::move(key)), known(std::move(known)) {}

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
    if (!std::isfinite(latitude)) {
        throw LimitError("Position", "latitude", "finite");
    }
    if (latitude < -90.0) {
        throw LimitError("Position", "latitude", "min", -90.0);
    }
    if (latitude > 90.0) {
        throw LimitError("Position", "latitude", "max", 90.0);
    }
    if (!std::isfinite(longitude)) {
        throw LimitError("Position", "longitude", "finite");
    }
    if (longitude < -180.0) {
        throw LimitError("Position", "longitude", "min", -180.0);
    }
    if (longitude > 180.0) {
        throw LimitError("Position", "longitude", "max", 180.0);
    }
}

Leg::Leg(std::string label, double hours)
    : label_(std::move(label)), hours_(hours + 0.0) {
    if (is_blank(label_)) {
        throw LimitError("Leg", "label", "not_blank");
    }
    if (!std::isfinite(hours)) {
        throw LimitError("Leg", "hours", "finite");
    }
    if (hours < 0.0) {
        throw LimitError("Leg", "hours", "min", 0.0);
    }
}

void Leg::set_label(std::string label) {
    if (is_blank(label)) {
        throw LimitError("Leg", "label", "not_blank");
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
    if (station < 1) {
        throw LimitError("Mark", "station", "min", 1.0);
    }
    if (station > 9999) {
        throw LimitError("Mark", "station", "max", 9999.0);
    }
    if (remarks_ && code_points(*remarks_) > 200) {
        throw LimitError("Mark", "remarks", "max_length", 200.0);
    }
}

Buoy::Buoy(std::int64_t station, Position position, MarkOptions options, double draught)
    : Mark(station, position, std::move(options), true), draught_(draught) {
    if (!std::isfinite(draught)) {
        throw LimitError("Buoy", "draught", "finite");
    }
    if (draught <= 0.0) {
        throw LimitError("Buoy", "draught", "above", 0.0);
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
        std::vector<std::string> known;
        for (const auto &[each, maker] : makers_) {
            known.push_back(each);
        }
        throw UnknownKeyError("Mark", std::string(key), std::move(known));
    }
    return found->second(station, position, std::move(options));
}

RefitPlan::RefitPlan(std::string title, std::vector<Leg> legs, std::int64_t crew, std::vector<std::string> tags)
    : title_(std::move(title)), legs_(std::move(legs)), crew_(crew), tags_(std::move(tags)) {
    if (is_blank(title_)) {
        throw LimitError("RefitPlan", "title", "not_blank");
    }
    if (legs_.empty()) {
        throw LimitError("RefitPlan", "legs", "min_length", 1.0);
    }
    if (crew_ < 1) {
        throw LimitError("RefitPlan", "crew", "min", 1.0);
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
        std::vector<std::string> missing;
        if (!title_) {
            missing.emplace_back("title");
        }
        if (!legs_) {
            missing.emplace_back("legs");
        }
        throw MissingError("RefitPlan", std::move(missing));
    }
    return RefitPlan(*title_, *legs_, crew_, tags_);
}

} // namespace by_hand
