// Regions, markers and clip sets.
#include <QInputDialog>

#include "app/commands/edit_commands.h"
#include "app/commands/edit_work.h"
#include "app/work/text.h"
#include "base/unicode.h"
#include "edit/clip_sets.h"
#include "edit/tracks.h"

namespace octaphon::app {
namespace {

SpanRequest requestOf(Work& work, SpanRule rule) {
  SpanRequest request;
  request.rule = rule;
  request.clips = work.selected().clips();
  request.range = work.selected().range();
  return request;
}

void makeRegions(Work& work, SpanRule rule) {
  std::vector<std::string> made;
  const SpanRequest request = requestOf(work, rule);
  work.document().edit(rule == SpanRule::Around ? tr("Make a region") : tr("Make regions"),
                       [&](Session& session) { made = addRegions(session, proposeSpans(session, request)); });
  if (!made.empty()) work.selected().set(Thing::Region, {made.begin(), made.end()});
}

void makeClipSet(Work& work) {
  std::vector<std::string> made;
  const SpanRequest request = requestOf(work, SpanRule::Around);
  work.document().edit(tr("Make a clip set"), [&](Session& session) {
    made = addClipSets(session, proposeSpans(session, request));
  });
  if (!made.empty()) work.selected().set(Thing::ClipSet, {made.begin(), made.end()});
}

void putIntoSet(Work& work) {
  const ClipIds ids = work.selected().clips();
  work.document().edit(tr("Add to the clip set"), [&](Session& session) {
    for (const ClipSet& set : session.clipSets) {
      const auto extent = extentOf(session, set);
      ClipIds inside;
      for (const ClipPlace place : placesOf(session, ids)) {
        const Clip& clip = clipAt(session, place);
        if (extent && clip.start < extent->end() && clip.end() > extent->start) inside.insert(clip.id);
      }
      if (!inside.empty()) return (void)addToClipSet(session, std::string(set.id), inside);
    }
  });
}

void takeOutOfSets(Work& work) {
  const ClipIds ids = work.selected().clips();
  work.document().edit(tr("Take out of clip sets"), [&](Session& session) {
    std::vector<std::string> sets;
    for (const ClipSet& set : session.clipSets) sets.push_back(set.id);
    for (const std::string& set : sets) removeFromClipSet(session, set, ids);
  });
}

void splitUp(Work& work) {
  const std::vector<std::string> sets = listOf(work.selected().clipSets());
  work.document().edit(tr("Split up %1").arg(wordOf(Thing::ClipSet, sets.size())), [&](Session& session) {
    for (const std::string& id : sets) splitUpClipSet(session, id, 0);
  });
}

void giveRange(Work& work) {
  const auto range = work.selected().range();
  work.document().edit(tr("Set the span by hand"), [&](Session& session) {
    for (const std::string& id : work.selected().clipSets()) setSpanOfClipSet(session, id, range);
  });
}

/// Into the set of the marker that is selected, else the last one.
std::string setForMarker(Work& work) {
  std::string last;
  for (const MarkerSet& set : work.session()->markerSets) {
    last = set.id;
    for (const Marker& marker : set.markers)
      if (work.selected().markers().contains(marker.id)) return last;
  }
  return last;
}

void addMarkerHere(Work& work) {
  std::string made;
  const std::string set = setForMarker(work);
  const std::string name = "Marker " + std::to_string(work.session()->markerCount() + 1);
  const Frame at = work.transport().position();
  work.document().edit(tr("Set a marker"),
                       [&](Session& session) { made = addMarker(session, set, name, at); });
  if (!made.empty()) work.selected().set(Thing::Marker, {made});
}

void sortMarkers(Work& work, QWidget* window) {
  QStringList names;
  for (const MarkerSet& set : work.session()->markerSets) names << text(set.name);
  bool taken = false;
  const QString name = QInputDialog::getItem(window, tr("Put markers into a set"),
                                             tr("Set, or the name of a new one"), names, 0, true, &taken);
  if (!taken || name.trimmed().isEmpty()) return;
  editCounted(work, tr("Put markers into %1").arg(name), [&](Session& session) {
    return putMarkersInto(session, work.selected().markers(), name.trimmed().toStdString());
  });
}

void toggleFixed(Work& work) {
  work.document().edit(tr("Fix the length"), [&](Session& session) {
    const Ids& ids = work.selected().regions();
    bool any = false;
    for (const Region& region : session.regions) any |= ids.contains(region.id) && !region.fixed;
    changeWhere(
        session.regions, [&](const Region& region) { return ids.contains(region.id); },
        [&](Region& region) { region.fixed = any; });
  });
}

void join(Work& work) {
  const Ids regions = work.selected().regions();
  editCounted(work, tr("Join %1").arg(wordOf(Thing::Region, regions.size())),
              [&](Session& session) { return joinRegions(session, regions); });
}

}  // namespace

void addMarkCommands(Commands& commands, Work& work) {
  commands.add(std::vector<Command>{
      {"mark.region",
       tr("&Region around the selection"),
       {Qt::Key_Insert},
       needs::clipsOrRange,
       [&] { makeRegions(work, SpanRule::Around); }},
      {"mark.islands",
       tr("Region around each &island"),
       {Qt::SHIFT | Qt::Key_Insert},
       needs::clipsOrRange,
       [&] { makeRegions(work, SpanRule::Islands); }},
      {"mark.clip-set",
       tr("&Clip set of the clips"),
       {Qt::CTRL | Qt::Key_Insert},
       needs::clips,
       [&] { makeClipSet(work); }},
      {"mark.marker",
       tr("&Marker at the playhead"),
       {Qt::CTRL | Qt::Key_K},
       needs::session,
       [&] { addMarkerHere(work); }},
      {"mark.join", tr("&Join regions"), {Qt::CTRL | Qt::Key_J}, needs::regions, [&] { join(work); }},
      {"mark.sort-markers",
       tr("Put markers into a set …"),
       {},
       needs::markers,
       [&] { sortMarkers(work, commands.window()); }},
      {"mark.into-set",
       tr("Add clips to the clip set they lie in"),
       {},
       needs::clips,
       [&] { putIntoSet(work); }},
      {"mark.out-of-set",
       tr("Take clips out of their clip sets"),
       {},
       needs::clips,
       [&] { takeOutOfSets(work); }},
      {"mark.split-up", tr("Split clip sets up into islands"), {}, needs::clipSets, [&] { splitUp(work); }},
      {"mark.range-to-set",
       tr("Clip set takes the time range as its span"),
       {},
       needs::clipSetsAndRange,
       [&] { giveRange(work); }},
      {"mark.fix", tr("&Fix the length, or free it"), {}, needs::regions, [&] { toggleFixed(work); }},
      {"mark.name",
       tr("Re&name …"),
       {Qt::Key_F2},
       needs::things,
       [&] {
         for (const Thing thing : {Thing::Region, Thing::ClipSet, Thing::Track, Thing::Clip})
           if (!work.selected().of(thing).empty()) return work.askForName(thing);
       },
       {},
       {},
       {},
       true}});
}

}  // namespace octaphon::app
