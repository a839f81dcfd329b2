#include <string>

#include "varrow/marks/mark_registry.hpp"
#include "varrow/marks/round_builder.hpp"

namespace {

/// A round that has seen one mark.
varrow::marks::Round begin(const std::string &watch, const std::string &kind, int station) {
    const auto mark = varrow::marks::MarkRegistry().make(kind, station);
    return varrow::marks::RoundBuilder()
        .watch(watch)
        .add_sighting(std::string(mark->key()) + " " + std::to_string(mark->station()))
        .build();
}

} // namespace

int main() {
    const auto round = begin("first", "buoy", 7);
    return round.seen().size() == 1 && round.seen().front() == "buoy 7" ? 0 : 1;
}
