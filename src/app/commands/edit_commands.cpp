#include "app/commands/edit_commands.h"

#include <algorithm>

#include "app/commands/edit_work.h"
#include "app/work/text.h"
#include "base/unicode.h"
#include "edit/clip_sets.h"
#include "edit/clips.h"
#include "edit/tracks.h"

namespace octaphon::app {
namespace {

void selectAllClips(Work& work) {
  Ids ids;
  std::size_t count = 0;
  for (const Track& track : work.session()->tracks) count += track.clips.size();
  ids.reserve(count);
  for (const Track& track : work.session()->tracks)
    for (const Clip& clip : track.clips) ids.insert(clip.id);
  work.selected().set(Thing::Clip, std::move(ids));
}

void selectInTime(Work& work) {
  const auto session = work.session();
  Ids ids;
  const auto take = [&](const TimeSpan& span) {
    for (const std::string& id : clipsIn(*session, span)) ids.insert(id);
  };
  if (work.selected().range()) take(*work.selected().range());
  for (const Region& region : session->regions)
    if (work.selected().regions().contains(region.id)) take({region.start, region.length});
  if (!ids.empty()) work.selected().set(Thing::Clip, std::move(ids));
}

void splitHere(Work& work) {
  const Frame at = work.transport().position();
  const Ids regions = work.selected().regions();
  if (!regions.empty())
    work.document().edit(tr("Split a region"), [&](Session& session) { splitRegions(session, regions, at); });
  else
    editCounted(work, tr("Split clips"),
                [&](Session& session) { return splitClips(session, selectedClips(work), at); });
}

void duplicateSelected(Work& work) {
  Selected& selected = work.selected();
  const QString words = tr("Duplicate %1");
  if (const Ids tracks = selected.tracks(); !tracks.empty()) {
    std::vector<std::string> made;
    work.document().edit(words.arg(wordOf(Thing::Track, tracks.size())),
                         [&](Session& session) { made = duplicateTracks(session, listOf(tracks)); });
    return selected.set(Thing::Track, {made.begin(), made.end()});
  }
  ClipIds made;
  work.document().edit(words.arg(wordOf(Thing::Clip, selected.clips().size())),
                       [&](Session& session) { made = duplicateClips(session, selectedClips(work)); });
  if (!made.empty()) selected.set(Thing::Clip, {made.begin(), made.end()});
}

/// Tracks among their neighbours, or clips from track to track.
void moveAcross(Work& work, int by) {
  const Selected& selected = work.selected();
  if (const Ids tracks = selected.tracks(); !tracks.empty()) {
    work.document().edit(
        tr("Order tracks"), [&](Session& session) { stepTracks(session, listOf(tracks), by); },
        mergeKey("order", tracks));
    return;
  }
  const ClipIds clips = selectedClips(work);
  editCounted(work, tr("Move %1").arg(wordOf(Thing::Clip, clips.size())),
              [&](Session& session) { return moveClips(session, clips, 0, by); });
}

/// What Delete takes: things of one kind, as many as are selected.
Thing thingToDelete(const Selected& selected) {
  for (const Thing thing : {Thing::Clip, Thing::Region, Thing::ClipSet, Thing::Marker})
    if (!selected.of(thing).empty()) return thing;
  return Thing::Track;
}

void remove(Work& work) {
  const Thing thing = thingToDelete(work.selected());
  const Ids ids = work.selected().of(thing);
  editCounted(work, tr("Delete %1").arg(wordOf(thing, ids.size())), [&](Session& session) {
    switch (thing) {
      case Thing::Clip: return deleteClips(session, selectedClips(work));
      case Thing::Region: return deleteRegions(session, ids);
      case Thing::ClipSet: return deleteClipSets(session, ids);
      case Thing::Marker: return deleteMarkers(session, ids);
      case Thing::Track: return deleteTracks(session, ids);
    }
    return EditCount{};
  });
}

/// Switches a flag on for all where one of them has it off; else off.
template <class List>
void turn(List& list, const Ids& ids, bool List::value_type::*flag) {
  const auto isOne = [&](const auto& item) { return ids.contains(item.id); };
  const bool on =
      std::any_of(list.begin(), list.end(), [&](const auto& item) { return isOne(item) && !(item.*flag); });
  changeWhere(list, isOne, [&](auto& item) { item.*flag = on; });
}

void mute(Work& work) {
  const Selected& selected = work.selected();
  work.document().edit(tr("Mute"), [&](Session& session) {
    if (!selected.tracks().empty()) return turn(session.tracks, selected.tracks(), &Track::mute);
    if (!selected.clipSets().empty()) return turn(session.clipSets, selected.clipSets(), &ClipSet::mute);
    const ClipIds clips = selectedClips(work);
    bool any = false;
    for (const ClipPlace place : placesOf(session, clips)) any |= !clipAt(session, place).mute;
    muteClips(session, clips, any);
  });
}

void lock(Work& work) {
  const Selected& selected = work.selected();
  work.document().edit(tr("Lock"), [&](Session& session) {
    turn(session.tracks, selected.tracks(), &Track::lock);
    turn(session.regions, selected.regions(), &Region::lock);
    turn(session.clipSets, selected.clipSets(), &ClipSet::lock);
    for (MarkerSet& set : session.markerSets) turn(set.markers, selected.markers(), &Marker::lock);
    bool any = false;
    for (const ClipPlace place : placesOf(session, selected.clips())) any |= !clipAt(session, place).lock;
    lockClips(session, selected.clips(), any);
  });
}

void trim(Work& work, bool start) {
  const Frame at = work.transport().position();
  editCounted(work, start ? tr("Trim the start") : tr("Trim the end"), [&](Session& session) {
    EditCount count;
    const auto add = [&](const EditCount& more) { count.locked += more.locked; };
    for (const std::string& id : work.selected().regions())
      add(start ? startRegion(session, id, at) : endRegion(session, id, at));
    for (const ClipPlace place : placesOf(session, selectedClips(work))) {
      const Clip clip = clipAt(session, place);
      if (start ? at >= clip.end() : at <= clip.start) continue;
      add(start ? trimStarts(session, {clip.id}, at - clip.start)
                : trimEnds(session, {clip.id}, at - clip.end()));
    }
    return count;
  });
}

void fade(Work& work, bool in) {
  const Frame at = work.transport().position();
  editCounted(work, in ? tr("Fade in") : tr("Fade out"), [&](Session& session) {
    EditCount count;
    for (const ClipPlace place : placesOf(session, selectedClips(work))) {
      const Clip clip = clipAt(session, place);
      if (at < clip.start || at > clip.end()) continue;
      count.locked +=
          fadeClips(session, {clip.id}, in ? at - clip.start : -1, in ? -1 : clip.end() - at).locked;
    }
    return count;
  });
}

void addHistory(Commands& commands, Work& work) {
  commands.add(std::vector<Command>{
      {.id = "edit.undo",
       .words = tr("&Undo"),
       .keys = {QKeySequence::Undo},
       .needs = needs::undo,
       .run = [&] { work.document().undoStack().undo(); },
       .wording = [&] { return tr("&Undo %1").arg(work.document().undoStack().undoText()).trimmed(); }},
      {.id = "edit.redo",
       .words = tr("&Redo"),
       .keys = {Qt::CTRL | Qt::SHIFT | Qt::Key_Z, Qt::CTRL | Qt::Key_Y},
       .needs = needs::redo,
       .run = [&] { work.document().undoStack().redo(); },
       .wording = [&] { return tr("&Redo %1").arg(work.document().undoStack().redoText()).trimmed(); }},
      {"edit.select-all",
       tr("Select &all clips"),
       {Qt::CTRL | Qt::SHIFT | Qt::Key_A},
       needs::session,
       [&] { selectAllClips(work); }},
      {"edit.select-time",
       tr("Select clips in the &time"),
       {Qt::CTRL | Qt::ALT | Qt::Key_A},
       needs::regionsOrRange,
       [&] { selectInTime(work); }}});
}

void addShaping(Commands& commands, Work& work) {
  commands.add(std::vector<Command>{
      {"edit.split",
       tr("&Split at the playhead"),
       {Qt::CTRL | Qt::Key_Slash},
       needs::clipsOrRegions,
       [&] { splitHere(work); }},
      {"edit.duplicate",
       tr("&Duplicate"),
       {Qt::CTRL | Qt::Key_D},
       needs::clipsOrTracks,
       [&] { duplicateSelected(work); }},
      {.id = "edit.delete",
       .words = tr("De&lete"),
       .keys = {Qt::Key_Delete},
       .needs = needs::things,
       .run = [&] { remove(work); },
       .wording =
           [&] {
             const Thing thing = thingToDelete(work.selected());
             const std::size_t count = work.selected().of(thing).size();
             return count == 0 ? tr("De&lete") : tr("De&lete %1").arg(wordOf(thing, count));
           },
       .isLocal = true},
      {"edit.up",
       tr("Move &up: tracks, or clips to the track above"),
       {Qt::CTRL | Qt::Key_PageUp},
       needs::clipsOrTracks,
       [&] { moveAcross(work, -1); }},
      {"edit.down",
       tr("Move dow&n: tracks, or clips to the track below"),
       {Qt::CTRL | Qt::Key_PageDown},
       needs::clipsOrTracks,
       [&] { moveAcross(work, 1); }},
      {"edit.mute", tr("&Mute, or let sound"), {Qt::CTRL | Qt::Key_M}, needs::canMute, [&] { mute(work); }},
      {"edit.lock", tr("Loc&k, or unlock"), {Qt::CTRL | Qt::Key_L}, needs::things, [&] { lock(work); }},
      {"edit.trim-start",
       tr("Trim the start to the playhead"),
       {Qt::CTRL | Qt::Key_BracketLeft},
       needs::clipsOrRegions,
       [&] { trim(work, true); }},
      {"edit.trim-end",
       tr("Trim the end to the playhead"),
       {Qt::CTRL | Qt::Key_BracketRight},
       needs::clipsOrRegions,
       [&] { trim(work, false); }},
      {"edit.fade-in",
       tr("Fade in up to the playhead"),
       {Qt::CTRL | Qt::ALT | Qt::Key_BracketLeft},
       needs::clips,
       [&] { fade(work, true); }},
      {"edit.fade-out",
       tr("Fade out from the playhead"),
       {Qt::CTRL | Qt::ALT | Qt::Key_BracketRight},
       needs::clips,
       [&] { fade(work, false); }}});
}

}  // namespace

void addEditCommands(Commands& commands, Work& work) {
  addHistory(commands, work);
  addShaping(commands, work);
}

}  // namespace octaphon::app
