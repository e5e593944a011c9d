#include "edit_actions.h"

#include <QInputDialog>

#include "base/unicode.h"
#include "edit/clip_sets.h"
#include "edit/clips.h"
#include "edit/tracks.h"
#include "text.h"

namespace octaphon::app {
namespace {

std::vector<std::string> listOf(const Ids& ids) { return {ids.begin(), ids.end()}; }

}  // namespace

EditActions::EditActions(Document& document, Selected& selected, TimelineView& timeline, QWidget* window)
    : QObject(window), document_(document), selected_(selected), timeline_(timeline), window_(window) {
  makeEdit();
  makeMark();
  makeTrack();
}

QAction* EditActions::add(QList<QAction*>& menu, const QString& words, const QKeySequence& keys,
                          std::function<void()> work) {
  auto* action = new QAction(words, window_);
  action->setShortcut(keys);
  connect(action, &QAction::triggered, this, std::move(work));
  window_->addAction(action);
  menu << action;
  return action;
}

void EditActions::makeEdit() {
  add(edit_, tr("Select &all clips"), Qt::CTRL | Qt::SHIFT | Qt::Key_A, [this] { selectAll(); });
  add(edit_, tr("Select clips in the &time"), Qt::CTRL | Qt::ALT | Qt::Key_A, [this] {
    Ids ids;
    const auto take = [&](const TimeSpan& span) {
      for (const std::string& id : clipsIn(session(), span)) ids.insert(id);
    };
    if (selected_.range()) take(*selected_.range());
    for (const Region& region : session().regions)
      if (selected_.regions().contains(region.id)) take({region.start, region.length});
    if (!ids.empty()) selected_.set(Thing::Clip, std::move(ids));
  });
  split_ = add(edit_, tr("&Split at the playhead"), Qt::CTRL | Qt::Key_Slash, [this] { splitHere(); });
  duplicate_ = add(edit_, tr("&Duplicate"), Qt::CTRL | Qt::Key_D, [this] { duplicate(); });
  delete_ = add(edit_, tr("De&lete"), Qt::Key_Delete, [this] { remove(); });
  mute_ = add(edit_, tr("&Mute, or let sound"), Qt::CTRL | Qt::Key_M, [this] { mute(); });
  lock_ = add(edit_, tr("Loc&k, or unlock"), Qt::CTRL | Qt::Key_L, [this] { lock(); });
  add(edit_, tr("Trim the start to the playhead"), Qt::CTRL | Qt::Key_BracketLeft, [this] { trim(true); });
  add(edit_, tr("Trim the end to the playhead"), Qt::CTRL | Qt::Key_BracketRight, [this] { trim(false); });
  add(edit_, tr("Fade in up to the playhead"), Qt::CTRL | Qt::ALT | Qt::Key_BracketLeft,
      [this] { fade(true); });
  add(edit_, tr("Fade out from the playhead"), Qt::CTRL | Qt::ALT | Qt::Key_BracketRight,
      [this] { fade(false); });
}

void EditActions::makeMark() {
  region_ = add(mark_, tr("&Region around the selection"), Qt::CTRL | Qt::Key_R, [this] { regionAround(); });
  set_ = add(mark_, tr("&Clip set of the clips"), Qt::CTRL | Qt::ALT | Qt::Key_R,
             [this] { clipSetFromClips(); });
  marker_ = add(mark_, tr("&Marker at the playhead"), Qt::CTRL | Qt::Key_K, [this] { addMarkerHere(); });
  join_ = add(mark_, tr("&Join regions"), Qt::CTRL | Qt::Key_J, [this] {
    EditCount count;
    document_.edit(tr("Join %1").arg(text(counted(selected_.regions().size(), "region"))),
                   [&](Session& session) { count = joinRegions(session, selected_.regions()); });
    report(count);
  });
  add(mark_, tr("Put markers into a set …"), {}, [this] { sortMarkers(); });
  intoSet_ = add(mark_, tr("Add clips to the clip set they lie in"), {}, [this] { changeMembers(true); });
  outOfSet_ = add(mark_, tr("Take clips out of their clip sets"), {}, [this] { changeMembers(false); });
  add(mark_, tr("Split clip sets up into islands"), {}, [this] {
    const Ids sets = selected_.clipSets();
    document_.edit(tr("Split up %1").arg(text(counted(sets.size(), "clip set"))), [&](Session& session) {
      for (const std::string& id : sets) splitUpClipSet(session, id, 0);
    });
  });
  add(mark_, tr("Clip set takes the time range as its span"), {}, [this] {
    const auto range = selected_.range();
    document_.edit(tr("Set the span by hand"), [&](Session& session) {
      for (const std::string& id : selected_.clipSets()) setSpanOfClipSet(session, id, range);
    });
  });
  fixed_ = add(mark_, tr("&Fix the length, or free it"), {}, [this] { toggleFixed(); });
}

void EditActions::makeTrack() {
  newTrack_ = add(track_, tr("New &track"), Qt::CTRL | Qt::Key_T, [this] { newTrack(TrackKind::Track); });
  newGroup_ = add(track_, tr("New &group"), {}, [this] { newTrack(TrackKind::Group); });
  newReturn_ = add(track_, tr("New &return"), {}, [this] { newTrack(TrackKind::Return); });
  nest_ = add(track_, tr("&Put into a new group"), Qt::CTRL | Qt::Key_G, [this] { nest(); });
  takeOut_ = add(track_, tr("Take &out of the group"), Qt::CTRL | Qt::ALT | Qt::Key_G, [this] { takeOut(); });
  const auto split = [this](int width) {
    document_.edit(tr("Split channels"),
                   [&](Session& session) { splitChannels(session, selected_.tracks(), width); });
  };
  add(track_, tr("Split into a track for each &channel"), {}, [split] { split(1); });
  add(track_, tr("Split into a track for each &pair of channels"), {}, [split] { split(2); });
  link_ = add(track_, tr("&Link: edit their clips together"), {}, [this] {
    document_.edit(tr("Link tracks"),
                   [&](Session& session) { linkTracks(session, selected_.tracks(), true); });
  });
  unlink_ = add(track_, tr("&Unlink"), {}, [this] {
    document_.edit(tr("Unlink tracks"),
                   [&](Session& session) { linkTracks(session, selected_.tracks(), false); });
  });
}

void EditActions::setEnabled(bool on) {
  for (QAction* action : all()) action->setEnabled(on);
}

void EditActions::fillMenu(QMenu& menu, const TimelineHit& hit) const {
  using What = TimelineHit::What;
  const auto named = [&](Thing thing) {
    menu.addAction(tr("Rename …"), this,
                   [this, thing] { emit const_cast<EditActions*>(this)->nameWanted(thing); });
  };
  switch (hit.what) {
    case What::Region:
      named(Thing::Region);
      menu.addActions({split_, join_, fixed_, lock_, delete_});
      break;
    case What::Clip:
      named(Thing::Clip);
      menu.addActions({split_, duplicate_, mute_, lock_, delete_});
      menu.addSeparator();
      menu.addActions({region_, set_, intoSet_, outOfSet_});
      break;
    case What::ClipSet:
      named(Thing::ClipSet);
      menu.addActions({mute_, lock_, delete_});
      break;
    case What::Marker: menu.addActions({lock_, delete_}); break;
    case What::Head:
      named(Thing::Track);
      menu.addActions({newTrack_, nest_, takeOut_, duplicate_, link_, unlink_, mute_, lock_, delete_});
      break;
    default: menu.addActions({region_, marker_, newTrack_, newGroup_, newReturn_}); break;
  }
}

ClipIds EditActions::clips() const { return withLinked(session(), selected_.clips()); }

void EditActions::report(const EditCount& count) {
  if (count.locked > 0)
    emit said(tr("%1 left as they are: they are locked").arg(text(counted(count.locked, "thing"))));
}

void EditActions::selectAll() {
  Ids ids;
  for (const Track& track : session().tracks)
    for (const Clip& clip : track.clips) ids.insert(clip.id);
  selected_.set(Thing::Clip, std::move(ids));
}

void EditActions::splitHere() {
  const Frame at = timeline_.playhead();
  EditCount count;
  if (!selected_.regions().empty()) {
    document_.edit(tr("Split a region"),
                   [&](Session& session) { splitRegions(session, selected_.regions(), at); });
    return;
  }
  document_.edit(tr("Split clips"), [&](Session& session) { count = splitClips(session, clips(), at); });
  report(count);
}

void EditActions::remove() {
  EditCount count;
  const auto gone = [&](const char* what, std::size_t number, const Document::Change& change) {
    document_.edit(tr("Delete %1").arg(text(counted(number, what))), change);
  };
  if (const Ids& ids = selected_.clips(); !ids.empty())
    gone("clip", ids.size(), [&](Session& s) { count = deleteClips(s, clips()); });
  else if (const Ids regions = selected_.regions(); !regions.empty())
    gone("region", regions.size(), [&](Session& s) { count = deleteRegions(s, regions); });
  else if (const Ids sets = selected_.clipSets(); !sets.empty())
    gone("clip set", sets.size(), [&](Session& s) { count = deleteClipSets(s, sets); });
  else if (const Ids markers = selected_.markers(); !markers.empty())
    gone("marker", markers.size(), [&](Session& s) { count = deleteMarkers(s, markers); });
  else if (const Ids tracks = selected_.tracks(); !tracks.empty())
    gone("track", tracks.size(), [&](Session& s) { count = deleteTracks(s, tracks); });
  report(count);
}

void EditActions::duplicate() {
  if (!selected_.tracks().empty()) {
    std::vector<std::string> made;
    document_.edit(tr("Duplicate %1").arg(text(counted(selected_.tracks().size(), "track"))),
                   [&](Session& session) { made = duplicateTracks(session, listOf(selected_.tracks())); });
    return selected_.set(Thing::Track, {made.begin(), made.end()});
  }
  ClipIds made;
  document_.edit(tr("Duplicate %1").arg(text(counted(selected_.clips().size(), "clip"))),
                 [&](Session& session) { made = duplicateClips(session, clips()); });
  if (!made.empty()) selected_.set(Thing::Clip, {made.begin(), made.end()});
}

/// Mutes all where one of them sounds; else lets all sound.
void EditActions::mute() {
  const auto toggle = [&](Session& session, auto& list, const Ids& ids) {
    (void)session;
    const bool mute = std::any_of(list.begin(), list.end(),
                                  [&](const auto& item) { return ids.contains(item.id) && !item.mute; });
    for (auto& item : list)
      if (ids.contains(item.id) && !item.lock) item.mute = mute;
  };
  document_.edit(tr("Mute"), [&](Session& session) {
    if (!selected_.tracks().empty()) return toggle(session, session.tracks, selected_.tracks());
    if (!selected_.clipSets().empty()) return toggle(session, session.clipSets, selected_.clipSets());
    bool any = false;
    for (const ClipPlace place : placesOf(session, clips())) any |= !clipAt(session, place).mute;
    muteClips(session, clips(), any);
  });
}

void EditActions::lock() {
  const auto toggle = [](auto& list, const Ids& ids) {
    const bool lock = std::any_of(list.begin(), list.end(),
                                  [&](const auto& item) { return ids.contains(item.id) && !item.lock; });
    for (auto& item : list)
      if (ids.contains(item.id)) item.lock = lock;
  };
  document_.edit(tr("Lock"), [&](Session& session) {
    toggle(session.tracks, selected_.tracks());
    toggle(session.regions, selected_.regions());
    toggle(session.clipSets, selected_.clipSets());
    for (MarkerSet& set : session.markerSets) toggle(set.markers, selected_.markers());
    bool any = false;
    for (const ClipPlace place : placesOf(session, selected_.clips())) any |= !clipAt(session, place).lock;
    lockClips(session, selected_.clips(), any);
  });
}

void EditActions::trim(bool start) {
  const Frame at = timeline_.playhead();
  EditCount count;
  const auto add = [&](const EditCount& more) { count.locked += more.locked; };
  document_.edit(start ? tr("Trim the start") : tr("Trim the end"), [&](Session& session) {
    for (const std::string& id : selected_.regions())
      add(start ? startRegion(session, id, at) : endRegion(session, id, at));
    for (const ClipPlace place : placesOf(session, clips())) {
      const Clip clip = clipAt(session, place);
      if (at <= clip.start && !start) continue;
      if (at >= clip.end() && start) continue;
      add(start ? trimStarts(session, {clip.id}, at - clip.start)
                : trimEnds(session, {clip.id}, at - clip.end()));
    }
  });
  report(count);
}

void EditActions::fade(bool in) {
  const Frame at = timeline_.playhead();
  EditCount count;
  document_.edit(in ? tr("Fade in") : tr("Fade out"), [&](Session& session) {
    for (const ClipPlace place : placesOf(session, clips())) {
      const Clip clip = clipAt(session, place);
      if (at < clip.start || at > clip.end()) continue;
      count.locked +=
          fadeClips(session, {clip.id}, in ? at - clip.start : -1, in ? -1 : clip.end() - at).locked;
    }
  });
  report(count);
}

void EditActions::regionAround() {
  SpanRequest request;
  request.clips = selected_.clips();
  request.range = selected_.range();
  if (request.clips.empty() && !request.range)
    return emit said(tr("Select clips or a time range first: a region is made around them"));
  std::vector<std::string> made;
  document_.edit(tr("Make a region"),
                 [&](Session& session) { made = addRegions(session, proposeSpans(session, request)); });
  selected_.set(Thing::Region, {made.begin(), made.end()});
}

void EditActions::clipSetFromClips() {
  SpanRequest request;
  request.clips = selected_.clips();
  request.range = selected_.range();
  if (request.clips.empty()) return emit said(tr("Select the clips that make one sound first"));
  std::vector<std::string> made;
  document_.edit(tr("Make a clip set"),
                 [&](Session& session) { made = addClipSets(session, proposeSpans(session, request)); });
  selected_.set(Thing::ClipSet, {made.begin(), made.end()});
}

void EditActions::changeMembers(bool add) {
  const ClipIds ids = selected_.clips();
  document_.edit(add ? tr("Add to the clip set") : tr("Take out of clip sets"), [&](Session& session) {
    for (ClipSet& set : session.clipSets) {
      if (!add) {
        removeFromClipSet(session, set.id, ids);
        continue;
      }
      const auto extent = extentOf(session, set);
      ClipIds inside;
      for (const ClipPlace place : placesOf(session, ids)) {
        const Clip& clip = clipAt(session, place);
        if (extent && clip.start < extent->end() && clip.end() > extent->start) inside.insert(clip.id);
      }
      if (!inside.empty()) return (void)addToClipSet(session, set.id, inside);
    }
  });
}

void EditActions::addMarkerHere() {
  // Into the set of the marker that is selected, else the last one.
  std::string set;
  for (const MarkerSet& each : session().markerSets) {
    const bool chosen = std::any_of(each.markers.begin(), each.markers.end(), [&](const Marker& marker) {
      return selected_.markers().contains(marker.id);
    });
    set = each.id;
    if (chosen) break;
  }
  std::string made;
  const std::string name = "Marker " + std::to_string(session().markerCount() + 1);
  document_.edit(tr("Set a marker"),
                 [&](Session& session) { made = addMarker(session, set, name, timeline_.playhead()); });
  selected_.set(Thing::Marker, {made});
}

void EditActions::sortMarkers() {
  if (selected_.markers().empty()) return emit said(tr("Select markers first"));
  QStringList names;
  for (const MarkerSet& set : session().markerSets) names << text(set.name);
  bool taken = false;
  const QString name = QInputDialog::getItem(window_, tr("Put markers into a set"),
                                             tr("Set, or the name of a new one"), names, 0, true, &taken);
  if (!taken || name.trimmed().isEmpty()) return;
  EditCount count;
  document_.edit(tr("Put markers into %1").arg(name), [&](Session& session) {
    count = putMarkersInto(session, selected_.markers(), name.trimmed().toStdString());
  });
  report(count);
}

void EditActions::toggleFixed() {
  document_.edit(tr("Fix the length"), [&](Session& session) {
    bool any = false;
    for (const Region& region : session.regions)
      any |= selected_.regions().contains(region.id) && !region.fixed;
    for (Region& region : session.regions)
      if (selected_.regions().contains(region.id)) region.fixed = any;
  });
}

void EditActions::newTrack(TrackKind kind) {
  std::string made;
  std::vector<std::string> taken;
  std::string around;
  for (const Track& track : session().tracks) {
    taken.push_back(track.name);
    if (selected_.tracks().contains(track.id)) around = track.isGroup() ? track.id : track.group;
  }
  const char* word = kind == TrackKind::Group ? "Group" : kind == TrackKind::Return ? "Return" : "Track";
  const QString step = kind == TrackKind::Group    ? tr("New group")
                       : kind == TrackKind::Return ? tr("New return")
                                                   : tr("New track");
  document_.edit(step, [&](Session& session) {
    made = addTrack(session, numberedNames({word}, taken).front(), kind, around);
  });
  selected_.set(Thing::Track, {made});
  emit nameWanted(Thing::Track);
}

void EditActions::nest() {
  if (selected_.tracks().empty()) return emit said(tr("Select the tracks to group first"));
  Result<std::string> made;
  document_.edit(tr("Put tracks into a group"),
                 [&](Session& session) { made = nestTracks(session, listOf(selected_.tracks()), "Group"); });
  if (!made) return emit said(text(made.error().describe()));
  selected_.set(Thing::Track, {*made});
  emit nameWanted(Thing::Track);
}

void EditActions::takeOut() {
  document_.edit(tr("Take tracks out of their group"),
                 [&](Session& session) { (void)takeOutTracks(session, listOf(selected_.tracks())); });
}

}  // namespace octaphon::app
