// The window's finding and listening: choosing, going to places, playing.
#include <QFileDialog>
#include <QRandomGenerator>

#include "base/unicode.h"
#include "edit/clip_sets.h"
#include "main_window.h"
#include "naming/file_name.h"
#include "text.h"

namespace octaphon::app {
namespace {

template <class List>
int indexOf(const List& list, const std::string& id) {
  for (std::size_t i = 0; i < list.size(); ++i)
    if (list[i].id == id) return static_cast<int>(i);
  return -1;
}

constexpr std::size_t kNotAgain = 3;  // variations that are not played again at once

}  // namespace

int MainWindow::currentRegion() const {
  return selected_.regions().empty() ? -1
                                     : indexOf(document_.session()->regions, *selected_.regions().begin());
}

void MainWindow::chooseRegion(int region) {
  const Region& chosen = document_.session()->regions[static_cast<std::size_t>(region)];
  selected_.set(Thing::Region, {chosen.id});
  outline_->select(region);
  timeline_->reveal(chosen.start, chosen.end());
  transport_.setPosition(chosen.start);
}

void MainWindow::stepRegion(int step) {
  const int region = outline_->neighbour(step);
  if (region >= 0) chooseRegion(region);
}

void MainWindow::goToRow(int row) {
  const Sheet& sheet = *keeper_.sheet();
  const Row& chosen = sheet.rows[static_cast<std::size_t>(row)];
  const PlannedSpan& span = sheet.spanOf(chosen);
  reveal(span.kind == PlannedSpan::Kind::Region ? Thing::Region : Thing::ClipSet, span.id);
  timeline_->revealTrack(sheet.sourceOf(chosen).track);
}

/// Selects a thing and brings it into view, with the playhead at its beginning.
void MainWindow::reveal(Thing thing, const std::string& id) {
  const auto session = document_.session();
  std::optional<TimeSpan> span;
  if (thing == Thing::Region) {
    const int region = indexOf(session->regions, id);
    if (region >= 0) return chooseRegion(region);
  } else if (thing == Thing::ClipSet) {
    const int set = indexOf(session->clipSets, id);
    if (set >= 0) span = extentOf(*session, session->clipSets[static_cast<std::size_t>(set)]);
    if (set >= 0) outline_->selectClipSet(set);
  } else if (thing == Thing::Track) {
    if (const auto track = timeline_->model().tree().find(id)) timeline_->revealTrack(*track);
  } else if (thing == Thing::Clip) {
    for (const ClipPlace place : placesOf(*session, {id})) {
      span = TimeSpan{clipAt(*session, place).start, clipAt(*session, place).length};
      timeline_->revealTrack(Strip(place.track));
    }
  } else {
    for (const MarkerSet& set : session->markerSets)
      for (const Marker& marker : set.markers)
        if (marker.id == id) span = TimeSpan{marker.at, 1};
  }
  selected_.set(thing, {id});
  if (!span) return;
  timeline_->reveal(span->start, span->end());
  transport_.setPosition(span->start);
}

void MainWindow::goToHit(const SearchHit& hit, bool playIt) {
  const auto session = document_.session();
  using What = SearchHit::What;
  switch (hit.what) {
    case What::Region: reveal(Thing::Region, session->regions[hit.index].id); break;
    case What::ClipSet: reveal(Thing::ClipSet, session->clipSets[hit.index].id); break;
    case What::Track: reveal(Thing::Track, session->tracks[hit.index].id); break;
    case What::Marker: {
      std::size_t index = hit.index;
      for (const MarkerSet& set : session->markerSets) {
        if (index < set.markers.size()) {
          reveal(Thing::Marker, set.markers[index].id);
          break;
        }
        index -= set.markers.size();
      }
      break;
    }
    case What::Medium:
      for (const Track& track : session->tracks)
        for (const Clip& clip : track.clips)
          if (clip.medium == session->media[hit.index].id) {
            reveal(Thing::Clip, clip.id);
            timeline_->setFocus();
            return;
          }
      break;
    case What::Row:
      showLower(sheetView_);
      sheetView_->select(hit.index);
      goToRow(static_cast<int>(hit.index));
      break;
    case What::Command: break;
  }
  timeline_->setFocus();
  if (hit.what == What::Region) zoomToRegion();
  if (playIt && hit.what == What::Region)
    playRegion();
  else if (playIt)
    togglePlay();
}

void MainWindow::goToFinding(const Finding& finding) {
  const auto session = document_.session();
  switch (finding.placeKind) {
    case PlaceKind::Region: return reveal(Thing::Region, finding.place);
    case PlaceKind::ClipSet: return reveal(Thing::ClipSet, finding.place);
    case PlaceKind::Track: return reveal(Thing::Track, finding.place);
    case PlaceKind::Clip: return reveal(Thing::Clip, finding.place);
    case PlaceKind::Medium:
      for (const Track& track : session->tracks)
        for (const Clip& clip : track.clips)
          if (clip.medium == finding.place) return reveal(Thing::Clip, clip.id);
  }
}

void MainWindow::showLower(QWidget* panel) {
  lower_->setCurrentWidget(panel);
  if (auto* table = panel == names_ ? &names_->table() : nullptr)
    table->setFocus();
  else
    panel->setFocus();
}

/// The table of names, at the thing that is selected.
void MainWindow::startNaming(Thing thing) {
  static const std::map<Thing, NamedKind> kinds{{Thing::Region, NamedKind::Region},
                                                {Thing::ClipSet, NamedKind::ClipSet},
                                                {Thing::Track, NamedKind::Track},
                                                {Thing::Clip, NamedKind::Clip}};
  const auto kind = kinds.find(thing);
  if (kind == kinds.end()) return;
  const Ids ids = selected_.of(thing);
  lower_->setCurrentWidget(names_);
  names_->setKind(kind->second);
  const auto& things = names_->model().things();
  for (std::size_t i = 0; i < things.size(); ++i) {
    if (!ids.contains(things[i].id)) continue;
    const QModelIndex index = names_->model().index(static_cast<int>(i), NamesModel::Name);
    names_->table().setCurrentIndex(index);
    names_->table().setFocus();
    names_->table().edit(index);
    return;
  }
}

void MainWindow::findMissing() {
  if (!keeper_.facts()) return;
  const QString folder = QFileDialog::getExistingDirectory(this, tr("Where to look for missing media"));
  if (!folder.isEmpty()) bringIn_->findMissing(folder, *keeper_.facts());
}

/// Every clip that plays the medium of the selected one plays the new file.
void MainWindow::replaceMedium() {
  const auto session = document_.session();
  const std::vector<ClipPlace> places = placesOf(*session, selected_.clips());
  if (places.empty()) return strip_->say(tr("Select a clip whose medium is to be replaced first"), false);
  const std::string medium = clipAt(*session, places.front()).medium;
  const QString file = QFileDialog::getOpenFileName(this, tr("The file to play instead"));
  if (!file.isEmpty()) bringIn_->replaceMedium(medium, file);
}

// --- listening

Listening MainWindow::sessionListening() const {
  Listening listening;
  listening.only = onlyTracks_;
  return listening;
}

void MainWindow::play(Frame to, Listening listening) {
  transport_.play(document_.session(), keeper_.facts(), to, std::move(listening), keeper_.plugins());
}

void MainWindow::togglePlay() {
  if (transport_.isPlaying()) return transport_.stop();
  if (!document_.isOpen()) return;
  const auto& range = selected_.range();
  if (range && loop_->isChecked()) {
    transport_.setPosition(range->start);
    return play(range->end(), sessionListening());
  }
  play(0, sessionListening());
}

void MainWindow::playRegion() {
  const int region = currentRegion();
  if (region < 0) return;
  const Region& chosen = document_.session()->regions[static_cast<std::size_t>(region)];
  transport_.setPosition(chosen.start);
  play(chosen.end(), sessionListening());
}

/// One of the regions of the same name but for the number, at random, none of the last three.
void MainWindow::playVariation() {
  const int region = currentRegion();
  if (region < 0) return;
  const auto& regions = document_.session()->regions;
  const std::string base = baseName(regions[static_cast<std::size_t>(region)].name);
  std::vector<int> variations, fresh;
  for (std::size_t i = 0; i < regions.size(); ++i) {
    if (baseName(regions[i].name) != base) continue;
    variations.push_back(static_cast<int>(i));
    const bool recent = std::find(recentVariations_.begin(), recentVariations_.end(), regions[i].id) !=
                        recentVariations_.end();
    if (!recent) fresh.push_back(static_cast<int>(i));
  }
  const auto& from = fresh.empty() ? variations : fresh;
  const int chosen = from[QRandomGenerator::global()->bounded(static_cast<quint32>(from.size()))];
  recentVariations_.push_back(regions[static_cast<std::size_t>(chosen)].id);
  if (recentVariations_.size() > kNotAgain) recentVariations_.erase(recentVariations_.begin());
  chooseRegion(chosen);
  playRegion();
}

/// A row as it will be written, its file, or their difference: at the same place where one of them plays
/// already.
void MainWindow::playRow(Listening::Of of) {
  const std::vector<std::size_t> rows = sheetView_->selectedRows();
  if (rows.empty() || keeper_.isPlanning()) return strip_->say(tr("Select a row of the sheet first"), false);
  const Sheet& sheet = *keeper_.sheet();
  const Row& row = sheet.rows[rows.front()];
  const Frame at = transport_.position();
  const bool inside = transport_.isPlaying() && at >= row.start && at < row.start + row.frames;
  transport_.setPosition(inside ? at : row.start);
  play(row.start + row.frames, listeningTo(sheet, row, of));
}

void MainWindow::hearSelectedOnly(bool on) {
  const Ids& tracks = selected_.tracks();
  if (!on)
    onlyTracks_.clear();
  else if (!tracks.empty())
    onlyTracks_ = {tracks.begin(), tracks.end()};
  header_->setListening(onlyTracks_.empty()
                            ? QString()
                            : tr("hearing %1 only").arg(text(counted(onlyTracks_.size(), "track"))));
  if (!transport_.isPlaying()) return;
  play(0, sessionListening());
}

void MainWindow::zoomToRegion() {
  const int region = currentRegion();
  if (region < 0) return;
  const Region& chosen = document_.session()->regions[static_cast<std::size_t>(region)];
  timeline_->showSpan(chosen.start, chosen.end());
}

}  // namespace octaphon::app
