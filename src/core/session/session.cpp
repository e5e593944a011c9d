#include "session/session.h"

#include <algorithm>
#include <utility>

namespace octaphon {

std::string Session::displayName() const {
  if (!title.empty()) return title;
  const std::string stem = file.stem().string();
  return stem.empty() ? "Untitled" : stem;
}

Frame Session::end() const {
  Frame latest = 0;
  for (const Track& track : tracks)
    for (const Clip& clip : track.clips) latest = std::max(latest, clip.end());
  for (const Region& region : regions) latest = std::max(latest, region.end());
  for (const ClipSet& set : clipSets)
    if (set.span) latest = std::max(latest, set.span->end());
  return latest;
}

std::size_t Session::clipCount() const {
  std::size_t count = 0;
  for (const Track& track : tracks) count += track.clips.size();
  return count;
}

std::size_t Session::markerCount() const {
  std::size_t count = 0;
  for (const MarkerSet& set : markerSets) count += set.markers.size();
  return count;
}

Facts Session::factsOf(const std::string& name, const Facts& own) const {
  Facts facts = own;
  for (std::string path = name; !path.empty();) {
    const std::size_t slash = path.rfind('/');
    path.resize(slash == std::string::npos ? 0 : slash);
    if (const auto found = pathFacts.find(path); found != pathFacts.end())
      facts.insert(found->second.begin(), found->second.end());
  }
  return facts;
}

bool isAllowedId(std::string_view id) {
  const auto allowed = [](char c) {
    return (c >= 'A' && c <= 'Z') || (c >= 'a' && c <= 'z') || (c >= '0' && c <= '9') || c == '.' ||
           c == '_' || c == '-';
  };
  return !id.empty() && id.size() <= 64 && id != "main" && std::all_of(id.begin(), id.end(), allowed);
}

const Track* findTrack(const Session& session, std::string_view id) {
  const auto found = std::find_if(session.tracks.begin(), session.tracks.end(),
                                  [&](const Track& track) { return track.id == id; });
  return found == session.tracks.end() ? nullptr : &*found;
}

Track* findTrack(Session& session, std::string_view id) {
  return const_cast<Track*>(findTrack(std::as_const(session), id));
}

bool overridesTouch(const Brief& brief, const Track* track) {
  if (track == nullptr) return brief.heard.overrideMain;
  return track->isGroup()    ? brief.heard.overrideGroups
         : track->isReturn() ? brief.heard.overrideReturns
                             : true;
}

}  // namespace octaphon
