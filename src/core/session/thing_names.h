// What the ids in a brief are called, so that it can be aimed anew in another session.
#pragma once

#include <map>
#include <string>
#include <vector>

#include "base/remark.h"
#include "session/session.h"

namespace octaphon {

/// By kind (`tracks`, `regions`, `clip_sets`, `clips`, `marker_sets`) and id. Tracks are groups and returns
/// too; a clip without a name is called by its medium and place.
using ThingNames = std::map<std::string, std::map<std::string, std::string>>;

/// Of all that the briefs name by id, as far as it is there.
ThingNames namesIn(const Session& session, const std::vector<Brief>& briefs);

/// Something that a brief names and a session does not have.
struct MissingThing {
  std::string kind, name;
  bool operator==(const MissingThing&) const = default;
  std::string words() const;  ///< `region 'Winch/Start 01'`
  Remark remark() const;
};

/// Gives the brief the ids that things of those names have in this session, the one of the same id first.
/// Ids of things that are not there are taken out, and told. An id that has no name here stays as it is.
std::vector<MissingThing> aimAnew(Brief& brief, const ThingNames& names, const Session& session);

}  // namespace octaphon
