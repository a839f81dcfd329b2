// What a careful author writes by hand for the same jobs.
#pragma once

#include <cstdint>
#include <functional>
#include <map>
#include <memory>
#include <mutex>
#include <optional>
#include <stdexcept>
#include <string>
#include <string_view>
#include <tuple>
#include <vector>

namespace by_hand {

// What a caller is told: which product and field, and the limit that was broken, or what is missing or known.
class LimitError : public std::invalid_argument {
public:
    LimitError(const char *owner, const char *field, const char *limit, std::optional<double> bound = {});

    const char *const owner, *const field, *const limit;
    const std::optional<double> bound;
};

class MissingError : public std::invalid_argument {
public:
    MissingError(const char *owner, std::vector<std::string> fields);

    const char *const owner;
    const std::vector<std::string> fields;
};

class UnknownKeyError : public std::invalid_argument {
public:
    UnknownKeyError(const char *owner, std::string key, std::vector<std::string> known);

    const char *const owner;
    const std::string key;
    const std::vector<std::string> known;
};

enum class Side { port, starboard };

class Position {
public:
    Position(double latitude, double longitude);

    double latitude() const { return latitude_; }

private:
    double latitude_;
    double longitude_;
};

struct MarkOptions {
    std::optional<Side> side = {};
    std::optional<std::string> remarks = {};
    std::optional<bool> reflective = {};
};

class Mark {
public:
    virtual ~Mark() = default;
    std::int64_t station() const { return station_; }

protected:
    Mark(std::int64_t station, Position position, MarkOptions options, bool reflective);

private:
    std::int64_t station_;
    Position position_;
    std::optional<Side> side_;
    std::optional<std::string> remarks_;
    bool reflective_;
};

class Buoy final : public Mark {
public:
    Buoy(std::int64_t station, Position position, MarkOptions options, double draught = 1.5);

    double draught() const { return draught_; }

private:
    double draught_;
};

class Beacon final : public Mark {
public:
    Beacon(std::int64_t station, Position position, MarkOptions options);
};

class MarkRegistry {
public:
    using Maker = std::function<std::unique_ptr<Mark>(std::int64_t, Position, MarkOptions)>;

    MarkRegistry();
    std::unique_ptr<Mark> make(std::string_view key, std::int64_t station, Position position, MarkOptions options) const;

private:
    std::map<std::string, Maker, std::less<>> makers_;
};

class Leg {
public:
    explicit Leg(std::string label, double hours = 0.0);

    const std::string &label() const { return label_; }
    void set_label(std::string label);

private:
    std::string label_;
    double hours_;
};

class RefitPlan {
public:
    RefitPlan(std::string title, std::vector<Leg> legs, std::int64_t crew, std::vector<std::string> tags);

    RefitPlan fresh_clone() const;

private:
    std::string title_;
    std::vector<Leg> legs_;
    std::int64_t crew_;
    std::vector<std::string> tags_;
    std::vector<std::shared_ptr<const std::string>> sheets_{};
    std::shared_ptr<const std::string> chart_{};
    std::optional<std::int64_t> serial_{};
};

struct Rhythm {
    std::string code;
    std::int64_t period_ms;
};

class Rhythms {
public:
    std::shared_ptr<const Rhythm> get(const std::string &code, std::int64_t period_ms) const;
    void add(std::shared_ptr<const Rhythm> rhythm);

private:
    mutable std::mutex mutex_{};
    std::map<std::tuple<std::string, std::int64_t>, std::shared_ptr<const Rhythm>> held_{};
};

class RefitPlanBuilder {
public:
    RefitPlanBuilder &title(std::string title);
    RefitPlanBuilder &crew(std::int64_t crew);
    RefitPlanBuilder &tags(std::vector<std::string> tags);
    RefitPlanBuilder &add_leg(Leg leg);
    RefitPlan build() const;

private:
    std::optional<std::string> title_;
    std::optional<std::vector<Leg>> legs_;
    std::int64_t crew_ = 2;
    std::vector<std::string> tags_;
};

} // namespace by_hand
