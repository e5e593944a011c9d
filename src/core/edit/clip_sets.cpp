#include "edit/clip_sets.h"

#include <algorithm>

#include "edit/ids.h"
#include "naming/file_name.h"
#include "routing/set_extent.h"

namespace octaphon {
namespace {

/// Calls change(set) unless it is locked.
template <class Change>
EditCount forEachFree(Session& session, const Ids& ids, Change&& change) {
  EditCount count;
  for (const ClipSet& set : session.clipSets)
    if (ids.contains(set.id)) ++(set.lock ? count.locked : count.changed);
  changeWhere(
      session.clipSets, [&](const ClipSet& set) { return ids.contains(set.id) && !set.lock; }, change);
  return count;
}

}  // namespace

std::vector<std::string> addClipSets(Session& session, const std::vector<SpanProposal>& proposals) {
  IdMaker maker(session);
  std::vector<std::string> ids;
  for (const SpanProposal& proposal : proposals) {
    if (proposal.clips.empty()) continue;
    ClipSet set;
    set.id = maker.next("s");
    set.name = proposal.name;
    set.clips = proposal.clips;
    set.ink = proposal.ink;
    const auto own = extentOf(session, set);
    if (own && *own != proposal.span) set.span = proposal.span;
    ids.push_back(set.id);
    session.clipSets.push_back(std::move(set));
  }
  return ids;
}

EditCount addToClipSet(Session& session, const std::string& id, const ClipIds& clips) {
  return forEachFree(session, {id}, [&](ClipSet& set) {
    for (const ClipPlace place : placesOf(session, clips)) {
      const std::string& clip = clipAt(session, place).id;
      if (std::find(set.clips.begin(), set.clips.end(), clip) == set.clips.end()) set.clips.push_back(clip);
    }
  });
}

EditCount removeFromClipSet(Session& session, const std::string& id, const ClipIds& clips) {
  return forEachFree(session, {id}, [&](ClipSet& set) {
    std::erase_if(set.clips, [&](const std::string& clip) { return clips.contains(clip); });
  });
}

EditCount muteClipSets(Session& session, const Ids& ids, bool mute) {
  return forEachFree(session, ids, [&](ClipSet& set) { set.mute = mute; });
}

EditCount setSpanOfClipSet(Session& session, const std::string& id, std::optional<TimeSpan> span) {
  return forEachFree(session, {id}, [&](ClipSet& set) { set.span = span; });
}

std::vector<std::string> splitUpClipSet(Session& session, const std::string& id, Frame gap) {
  const auto found = std::find_if(session.clipSets.begin(), session.clipSets.end(),
                                  [&](const ClipSet& set) { return set.id == id; });
  if (found == session.clipSets.end() || found->lock || found->clips.empty()) return {};
  const ClipSet whole = *found;
  session.clipSets.erase(found, found + 1);
  SpanRequest request;
  request.rule = SpanRule::Islands;
  request.clips = {whole.clips.begin(), whole.clips.end()};
  request.gap = gap;
  request.name = baseName(whole.name);
  std::vector<SpanProposal> proposals = proposeSpans(session, request);
  for (SpanProposal& proposal : proposals) proposal.ink = whole.ink;
  return addClipSets(session, proposals);
}

EditCount deleteClipSets(Session& session, const Ids& ids) {
  EditCount count;
  for (const ClipSet& set : session.clipSets)
    if (ids.contains(set.id)) ++(set.lock ? count.locked : count.changed);
  session.clipSets.eraseIf([&](const ClipSet& set) { return ids.contains(set.id) && !set.lock; });
  return count;
}

std::optional<TimeSpan> extentOf(const Session& session, const ClipSet& set) {
  const TrackTree tree(session);
  SetExtent extent(tree);
  for (const ClipPlace place : placesOf(session, {set.clips.begin(), set.clips.end()}))
    extent.add(Strip(place.track), clipAt(session, place));
  return extent.of(set);
}

}  // namespace octaphon
