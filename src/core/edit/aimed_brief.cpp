#include "edit/aimed_brief.h"

#include <algorithm>

#include "base/unicode.h"

namespace octaphon {
namespace {

/// Those of the list that are chosen, in its order: their ids, and the name of the only one or how many.
struct Chosen {
  std::vector<std::string> ids;
  std::string name;
};

template <class List>
Chosen chosenOf(const List& list, const Ids& ids, const char* word) {
  Chosen chosen;
  for (const auto& thing : list)
    if (ids.contains(thing.id)) {
      chosen.ids.push_back(thing.id);
      chosen.name = thing.name;
    }
  if (chosen.ids.size() != 1 || chosen.name.empty()) chosen.name = counted(chosen.ids.size(), word);
  return chosen;
}

/// One that no other brief has.
std::string freeName(const Session& session, const std::string& name) {
  const auto isTaken = [&](const std::string& wanted) {
    return std::any_of(session.briefs.begin(), session.briefs.end(),
                       [&](const Brief& brief) { return brief.name == wanted; });
  };
  std::string free = name;
  for (int number = 2; isTaken(free); ++number) free = name + " " + std::to_string(number);
  return free;
}

void aimAtTracks(const Session& session, const Ids& ids, Brief& brief) {
  Brief::What& what = brief.what;
  what.mix = false;
  for (const Track& track : session.tracks) {
    if (!ids.contains(track.id)) continue;
    Selection& of = track.kind == TrackKind::Group    ? what.groups
                    : track.kind == TrackKind::Return ? what.returns
                                                      : what.tracks;
    of.picks.push_back({false, PickBy::Id, track.id});
  }
  brief.where.extents = true;
  brief.heard.counts = Counts::EverythingHeard;
  brief.names.format = "{source}";
}

}  // namespace

Brief aimedBrief(const Session& session, const Aim& aim) {
  Brief brief = newBrief();
  brief.where.regions = {};
  Chosen chosen;
  if (!aim.regions.empty()) {
    chosen = chosenOf(session.regions, aim.regions, "region");
    brief.where.regions = Selection(false, chosen.ids);
  } else if (!aim.clipSets.empty()) {
    chosen = chosenOf(session.clipSets, aim.clipSets, "clip set");
    brief.where.clipSets = Selection(false, chosen.ids);
  } else if (!aim.tracks.empty()) {
    chosen = chosenOf(session.tracks, aim.tracks, "track");
    aimAtTracks(session, aim.tracks, brief);
  } else if (!aim.clips.empty()) {
    for (const Track& track : session.tracks) {
      const Chosen here = chosenOf(track.clips, aim.clips, "clip");
      chosen.ids.insert(chosen.ids.end(), here.ids.begin(), here.ids.end());
      if (!here.ids.empty()) chosen.name = here.name;
    }
    if (chosen.ids.size() > 1) chosen.name = counted(chosen.ids.size(), "clip");
    brief.where.clips = Selection(false, chosen.ids);
  } else if (aim.range) {
    chosen.name = "Range";
    brief.where.range = *aim.range;
    brief.heard.counts = Counts::EverythingHeard;
  }
  brief.name = freeName(session, chosen.name);
  return brief;
}

}  // namespace octaphon
