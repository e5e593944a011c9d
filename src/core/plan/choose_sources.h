// Which sources a brief prints.
#pragma once

#include <unordered_map>

#include "plan/sheet.h"
#include "routing/inheritance.h"
#include "session/session.h"

namespace octaphon {

/// Chooses the sources of planned.brief, depth first in track order, then sums, returns, the mix; with
/// remarks. Those that only some spans ask for are there too, `isEverywhere` false.
void chooseSources(PlannedBrief& planned, const Session& session, const TrackTree& tree);

/// What regions and clip sets have for themselves: the groups that match, and their own lists.
class OwnSources {
 public:
  OwnSources(const Brief& brief, const Session& session, const TrackTree& tree);

  /// Ids of strips, and `main`, that a region or clip set asks for; in no order, some may be there
  /// twice.
  template <class Thing>
  std::vector<std::string> of(const Thing& thing) const {
    std::vector<std::string> ids = matching(thing.name, thing.ink, thing.tags);
    if (brief_.what.ownLists) ids.insert(ids.end(), thing.sources.begin(), thing.sources.end());
    return ids;
  }
  bool isThere() const { return brief_.what.matching != Matching::None || brief_.what.ownLists; }

 private:
  std::vector<std::string> matching(const std::string& name, int ink,
                                    const std::vector<std::string>& tags) const;
  std::vector<std::string> onPath(const std::string& name) const;

  const Brief& brief_;
  const Session& session_;
  const TrackTree& tree_;
  std::unordered_map<std::string, std::vector<Strip>> groupsByName_;  // folded
};

/// All tracks of a selection in track order, groups only where they are picked by hand.
std::vector<Strip> tracksOf(const Selection& selection, const Session& session, const TrackTree& tree,
                            std::vector<const Pick*>& idle);

/// What remarks say about lines of a selection that find nothing: things by hand are counted under `gone`.
void remarkIdle(PlannedBrief& planned, const std::vector<const Pick*>& idle, RemarkCode gone,
                const char* singular);

}  // namespace octaphon
