#include "brief/brief.h"

namespace octaphon {

std::string_view countsName(Counts counts) {
  return counts == Counts::BeginsHere ? "begins-here" : "everything-heard";
}

std::string_view crossingName(Crossing crossing) {
  return crossing == Crossing::LeftOut ? "left-out" : "from-start";
}

std::string_view existingName(Existing existing) { return existing == Existing::Keep ? "keep" : "replace"; }

}  // namespace octaphon
