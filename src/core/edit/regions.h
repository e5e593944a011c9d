// Edits of regions and markers. Locked ones stay as they are; those of fixed length can be moved only.
#pragma once

#include <string>
#include <vector>

#include "base/id_set.h"
#include "edit/selected_clips.h"
#include "session/session.h"

namespace octaphon {

using Ids = IdSet;

Region* findRegion(Session& session, const std::string& id);

/// All move by the same: as far as the first of them can go. Markers and regions alike.
EditCount moveRegions(Session& session, const Ids& ids, Frame by);
/// Sets where a region begins or ends; the other end stays. A frame is left at least.
EditCount startRegion(Session& session, const std::string& id, Frame start);
EditCount endRegion(Session& session, const std::string& id, Frame end);
/// Cuts regions that `at` lies inside of; the second keeps the colour and gets a numbered name. Gives the ids
/// of the new ones.
std::vector<std::string> splitRegions(Session& session, const Ids& ids, Frame at);
/// One region from the first start to the last end, under the first one's id, name and notes. Nothing happens
/// where any of them is locked or fixed.
EditCount joinRegions(Session& session, const Ids& ids);
EditCount deleteRegions(Session& session, const Ids& ids);

/// A marker in the set, which is made when it is not there; gives its id.
std::string addMarker(Session& session, const std::string& setId, const std::string& name, Frame at);
EditCount moveMarkers(Session& session, const Ids& ids, Frame by);
EditCount deleteMarkers(Session& session, const Ids& ids);

}  // namespace octaphon
