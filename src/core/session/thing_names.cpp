#include "session/thing_names.h"

#include <algorithm>

#include "base/unicode.h"

namespace octaphon {
namespace {

struct Thing {
  std::string_view id;
  std::string name;
};

std::string nameOf(const Session& session, const Clip& clip) {
  if (!clip.name.empty()) return clip.name;
  const auto medium = std::find_if(session.media.begin(), session.media.end(),
                                   [&](const Medium& one) { return one.id == clip.medium; });
  return (medium == session.media.end() ? clip.medium : medium->file) + " at " + std::to_string(clip.start);
}

/// All things of a kind.
std::vector<Thing> thingsOf(const Session& session, const std::string& kind) {
  std::vector<Thing> things;
  const auto add = [&](const auto& list) {
    for (const auto& thing : list) things.push_back({thing.id, thing.name});
  };
  if (kind == "tracks") add(session.tracks);
  if (kind == "regions") add(session.regions);
  if (kind == "clip_sets") add(session.clipSets);
  if (kind == "marker_sets") add(session.markerSets);
  if (kind == "clips")
    for (const Track& track : session.tracks)
      for (const Clip& clip : track.clips) things.push_back({clip.id, nameOf(session, clip)});
  return things;
}

struct KindWords {
  const char *kind, *word;
  RemarkCode code;
};
constexpr KindWords kKinds[]{{"tracks", "track", RemarkCode::UnknownSource},
                             {"regions", "region", RemarkCode::UnknownRegion},
                             {"clip_sets", "clip set", RemarkCode::UnknownClipSet},
                             {"clips", "clip", RemarkCode::FindsNoSpan},
                             {"marker_sets", "set of markers", RemarkCode::FindsNoSpan}};
const KindWords& wordsFor(const std::string& kind) {
  return *std::find_if(std::begin(kKinds), std::end(kKinds) - 1,
                       [&](const KindWords& words) { return words.kind == kind; });
}

/// Calls visit(kind, id) for each id in a selection; those that it answers with false are taken out. Rules by
/// path, name, colour and tag name nothing by id; tracks are `under` a group of an id.
template <class Visit>
void forEachId(Selection& selection, const std::string& kind, const Visit& visit) {
  std::erase_if(selection.picks, [&](Pick& pick) {
    const bool isGroup = pick.by == PickBy::Under && (kind == "tracks" || kind == "clips");
    if (pick.by != PickBy::Id && !isGroup) return false;
    return !visit(isGroup ? std::string("tracks") : kind, pick.value);
  });
}

/// The same for a whole brief.
template <class Visit>
void forEachId(Brief& brief, const Visit& visit) {
  forEachId(brief.where.regions, "regions", visit);
  forEachId(brief.where.clipSets, "clip_sets", visit);
  forEachId(brief.where.clips, "clips", visit);
  forEachId(brief.where.betweenMarkers, "marker_sets", visit);
  for (Selection* selection : {&brief.what.tracks, &brief.what.groups, &brief.what.returns})
    forEachId(*selection, "tracks", visit);
  for (SumSource& sum : brief.what.sums) forEachId(sum.tracks, "tracks", visit);
  std::erase_if(brief.heard.exceptions, [&](TrackException& exception) {
    return exception.track != "main" && !visit("tracks", exception.track);
  });
  Reach& reach = brief.heard.reach;
  if (!reach.group.empty() && !visit("tracks", reach.group)) reach = {ReachStage::Main, {}};
}

}  // namespace

ThingNames namesIn(const Session& session, const std::vector<Brief>& briefs) {
  ThingNames names;
  std::map<std::string, std::vector<Thing>> things;
  for (Brief brief : briefs)
    forEachId(brief, [&](const std::string& kind, const std::string& id) {
      if (!things.contains(kind)) things[kind] = thingsOf(session, kind);
      const auto& all = things[kind];
      const auto found = std::find_if(all.begin(), all.end(), [&](const Thing& one) { return one.id == id; });
      if (found != all.end()) names[kind][id] = found->name;
      return true;
    });
  return names;
}

std::string MissingThing::words() const {
  return wordsFor(kind).word + std::string(" '") + printable(name, 120) + "'";
}

Remark MissingThing::remark() const {
  return {
      Severity::Warning, wordsFor(kind).code, name,
      "There is no " + words() + " in this session. Choose another one in the brief, or give it this name"};
}

std::vector<MissingThing> aimAnew(Brief& brief, const ThingNames& names, const Session& session) {
  std::vector<MissingThing> missing;
  std::map<std::string, std::vector<Thing>> things;
  forEachId(brief, [&](const std::string& kind, std::string& id) {
    const auto named = names.find(kind);
    if (named == names.end() || !named->second.contains(id)) return true;
    const std::string& name = named->second.at(id);
    if (!things.contains(kind)) things[kind] = thingsOf(session, kind);
    const auto& all = things[kind];
    const auto isIt = [&](const Thing& one) { return one.name == name; };
    const auto same =
        std::find_if(all.begin(), all.end(), [&](const Thing& one) { return one.id == id && isIt(one); });
    const auto found = same != all.end() ? same : std::find_if(all.begin(), all.end(), isIt);
    if (found != all.end()) {
      id = std::string(found->id);
      return true;
    }
    const MissingThing what{kind, name};
    if (std::find(missing.begin(), missing.end(), what) == missing.end()) missing.push_back(what);
    return false;
  });
  return missing;
}

}  // namespace octaphon
