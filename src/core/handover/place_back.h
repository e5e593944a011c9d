// What was delivered, back in the session it came from: on new tracks beside the originals, which are muted.
#pragma once

#include <set>
#include <string>
#include <vector>

#include "handover/delivery.h"
#include "session/session.h"

namespace octaphon {

struct PlacedBack {
  std::size_t files = 0, tracks = 0, muted = 0;
  std::vector<Error> left;  ///< files that could not be placed
};

/// Files of the session that `delivery` is of, those of these rows, or (none) of all; of several forms the
/// first. Each source has a track right below main, behind the original or the group around it: what was
/// heard through groups goes through them no second time. Sounds that overlap lie on tracks below each other.
/// Of the mix, all that is there is muted. The session must know its file.
PlacedBack placeBack(Session& session, const Delivery& delivery, const std::set<std::string>& keys = {});

}  // namespace octaphon
