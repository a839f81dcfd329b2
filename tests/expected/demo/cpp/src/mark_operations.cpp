// Operations of Mark, yours to write; Urform made this file once,
// from fairway.urform.yaml.

#include "fairway/mark.hpp"

#include <stdexcept>

// From how far the mark is seen, in sea miles.
double fairway::Buoy::range_from(double /* eye_height */) const {
    throw std::logic_error("Buoy.range_from is yours to write");
}
