#include "plan/chosen_words.h"

#include <algorithm>
#include <set>

#include "base/unicode.h"
#include "brief/chooser.h"
#include "naming/file_name.h"
#include "plan/choose_sources.h"
#include "routing/track_tree.h"

namespace octaphon {
namespace {

template <class Thing>
std::function<std::string(const std::string&)> namesIn(const std::vector<Thing>& things) {
  return [&things](const std::string& id) {
    const auto found =
        std::find_if(things.begin(), things.end(), [&](const Thing& thing) { return thing.id == id; });
    return found == things.end() ? std::string() : found->name;
  };
}

// --- sources

/// The group of which `ids` are exactly the tracks.
std::optional<Strip> groupOfTracks(const Session& session, const TrackTree& tree,
                                   const std::set<std::string>& ids) {
  for (const Strip group : tree.order()) {
    if (!session.tracks[group.track()].isGroup()) continue;
    std::set<std::string> inside;
    for (const Strip track : tree.order())
      if (tree.isInside(track, group) && session.tracks[track.track()].holdsClips())
        inside.insert(session.tracks[track.track()].id);
    if (!inside.empty() && inside == ids) return group;
  }
  return std::nullopt;
}

/// `each track tagged wet`, `each track, but not those tagged loose`.
std::string eachByRules(const Selection& selection, const PickedKind& kind) {
  const std::string rules = rulesText(selection, kind), each = "each " + std::string(kind.singular);
  const bool isOfAll = selection.picks.front().by == PickBy::All && !selection.picks.front().out;
  return isOfAll ? each + rules.substr(std::string_view("all").size()) : each + " " + rules;
}

/// `each track`, `3 groups`, `Gear`, `each track under Machines, but not those tagged loose`.
std::string stripsText(const Selection& selection, const Session& session, const TrackTree& tree,
                       const char* singular) {
  if (selection.isEverything()) return "each " + std::string(singular);
  const PickedKind kind = tracksKind(session, singular);
  const auto ids = selection.handPicked();
  if (!ids) return eachByRules(selection, kind);
  if (std::string_view(singular) == "track")
    if (const auto group = groupOfTracks(session, tree, {ids->begin(), ids->end()}))
      return "each track in " + printable(session.tracks[group->track()].name, 60);
  if (ids->size() > 1) return counted(ids->size(), singular);
  const std::string name = kind.nameOf(ids->front());
  return name.empty() ? "?" : printable(name, 60);
}

std::string sumText(const SumSource& sum, const Session& session) {
  const std::string name = printable(sum.name, 60);
  const std::string rules =
      sum.tracks.handPicked() ? std::string() : rulesText(sum.tracks, tracksKind(session, "track"));
  if (sum.without) return name + " (the mix without " + (rules.empty() ? "some" : "tracks " + rules) + ")";
  return name + (rules.empty() ? " (a sum)" : " (the sum of tracks " + rules + ")");
}

// --- spans

/// Path that all these regions lie under; empty where they have none in common.
std::string commonPath(const std::vector<const Region*>& regions) {
  std::string common;
  for (std::size_t i = 0; i < regions.size(); ++i) {
    const std::string_view name = regions[i]->name;
    const std::string_view path = name.substr(0, name.size() - lastPart(name).size());
    if (i == 0) common = path;
    while (!path.starts_with(common)) {
      common.pop_back();
      while (!common.empty() && common.back() != '/') common.pop_back();
    }
  }
  if (!common.empty()) common.pop_back();
  return common;
}

template <class Thing>
std::vector<const Thing*> chosenOf(const Selection& selection, const std::vector<Thing>& things) {
  Chooser chooser(selection);
  std::vector<const Thing*> chosen;
  for (const Thing& thing : things)
    if (chooser.takes({thing.id, thing.name, thing.ink, &thing.tags})) chosen.push_back(&thing);
  return chosen;
}

std::string allText(std::size_t count, const char* singular) {
  return count == 1 ? "the one " + std::string(singular) : "all " + counted(count, singular);
}

/// `9 regions (tagged wet)`: how many there are now, and by which rules.
std::string byRules(std::size_t count, const Selection& selection, const PickedKind& kind) {
  return counted(count, kind.singular) + " (" + rulesText(selection, kind) + ")";
}

std::string regionsText(const Selection& selection, const Session& session) {
  if (selection.isEverything()) return allText(session.regions.size(), "region");
  const std::vector<const Region*> chosen = chosenOf(selection, session.regions.all());
  if (!selection.handPicked()) return byRules(chosen.size(), selection, regionsKind(session));
  if (chosen.empty()) return "no region yet";
  if (chosen.size() == 1) return printable(chosen[0]->name, 60);
  const std::string path = commonPath(chosen);
  return counted(chosen.size(), "region") + (path.empty() ? "" : " under " + printable(path, 60));
}

std::string clipSetsText(const Selection& selection, const Session& session) {
  if (selection.isEverything()) return allText(session.clipSets.size(), "clip set");
  const std::vector<const ClipSet*> chosen = chosenOf(selection, session.clipSets.all());
  if (!selection.handPicked()) return byRules(chosen.size(), selection, clipSetsKind(session));
  return chosen.size() == 1 ? printable(chosen[0]->name, 60) : counted(chosen.size(), "clip set");
}

std::string clipsText(const Selection& selection, const Session& session) {
  if (selection.isEverything()) return "each clip";
  if (const auto ids = selection.handPicked()) return counted(ids->size(), "clip");
  return eachByRules(selection, tracksKind(session, "clip"));
}

std::string markersText(const Selection& selection, const Session& session) {
  const std::string between = "the spans between markers";
  if (selection.isEverything()) return between;
  const PickedKind kind{"set", nullptr, namesIn(session.markerSets)};
  return between + " of " + rulesText(selection, kind);
}

}  // namespace

PickedKind regionsKind(const Session& session) { return {"region", nullptr, namesIn(session.regions.all())}; }
PickedKind clipSetsKind(const Session& session) {
  return {"clip set", nullptr, namesIn(session.clipSets.all())};
}
PickedKind tracksKind(const Session& session, const char* singular) {
  return {singular, nullptr, namesIn(session.tracks)};
}

std::string sourcesText(const Brief& brief, const Session& session) {
  const TrackTree tree(session);
  const Brief::What& what = brief.what;
  std::vector<std::string> parts;
  if (!what.tracks.empty()) parts.push_back(stripsText(what.tracks, session, tree, "track"));
  if (!what.groups.empty()) parts.push_back(stripsText(what.groups, session, tree, "group"));
  if (!what.returns.empty()) parts.push_back(stripsText(what.returns, session, tree, "return"));
  for (const SumSource& sum : what.sums) parts.push_back(sumText(sum, session));
  if (what.matching != Matching::None)
    parts.push_back("of each region " + std::string(choiceOf(what.matching).words));
  if (what.ownLists) parts.push_back("what regions list themselves");
  if (what.mix) parts.push_back("the mix");
  return parts.empty() ? "nothing yet" : listed(parts);
}

std::string spansText(const Brief& brief, const Session& session) {
  const Brief::Where& where = brief.where;
  std::vector<std::string> parts;
  if (!where.regions.empty()) parts.push_back(regionsText(where.regions, session));
  if (!where.clipSets.empty()) parts.push_back(clipSetsText(where.clipSets, session));
  if (!where.clips.empty()) parts.push_back(clipsText(where.clips, session));
  if (!where.betweenMarkers.empty()) parts.push_back(markersText(where.betweenMarkers, session));
  if (where.wholeSession) parts.push_back("the whole session");
  if (where.extents) parts.push_back("each source's own extent");
  if (where.range.length > 0)
    parts.push_back("the time from " + timeText(where.range.start, session.rate) + " to " +
                    timeText(where.range.end(), session.rate));
  return parts.empty() ? "no region yet" : listed(parts);
}

}  // namespace octaphon
