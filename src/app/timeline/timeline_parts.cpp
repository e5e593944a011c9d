// The timeline for who cannot see it: regions, markers, tracks, clips and files that are to be seen.
#include "app/timeline/timeline_keys.h"
#include "app/timeline/timeline_view.h"
#include "app/work/text.h"
#include "base/decibels.h"
#include "base/unicode.h"

namespace octaphon::app {
namespace {

constexpr double kNarrowest = 3;          // px: what is narrower is painted with others as one
constexpr std::size_t kMostParts = 2000;  // more than anyone steps through

}  // namespace

QString TimelineView::spanText(Frame start, Frame length) const {
  const int rate = model_->session().rate;
  return tr("%1, %2 long").arg(text(timeText(start, rate)), text(timeText(length, rate)));
}

std::vector<PaintedPart> TimelineView::paintedParts() {
  std::vector<PaintedPart> parts;
  const Frame from = frameAt(kHeadWidth);
  const Frame to = frameAt(viewport()->width());
  addMarkParts(parts, from, to);
  for (const auto* lanes : {&model_->pinned(), &model_->lanes()})
    for (const Lane& lane : *lanes) {
      const int top = laneY(lane);
      const int least = lane.pinned ? pinnedTop() : lanesTop();
      if (top + lane.height <= least || top >= viewport()->height()) continue;
      addLaneParts(parts, lane, from, to);
      if (parts.size() > kMostParts) return parts;
    }
  return parts;
}

void TimelineView::addMarkParts(std::vector<PaintedPart>& parts, Frame from, Frame to) {
  const auto select = [this](Thing thing, const std::string& id) {
    return [this, thing, id] { work_.places().go(thing, id); };
  };
  PaintedPart line;
  line.key = "line";
  line.name = tr("Playhead");
  line.value = text(timeText(playhead_, model_->session().rate));
  line.place = QRect(static_cast<int>(xOf(playhead_)) - 2, 0, 5, viewport()->height());
  line.role = QAccessible::Indicator;
  parts.push_back(line);
  PaintedPart row;
  row.key = "regions";
  row.name = tr("Regions");
  row.value = text(counted(model_->session().regions.size(), "region"));
  row.place = QRect(0, rulerHeight(), kHeadWidth, markersTop() - rulerHeight());
  row.isCurrent = keys_->isOnRegions();
  parts.push_back(row);
  model_->regionsIn(from, to, [&](const IntervalIndex::Interval& found) {
    const QRectF box = ribbonOf(found.item);
    if (box.width() < kNarrowest || parts.size() > kMostParts) return;
    const Region& region = model_->session().regions[found.item];
    PaintedPart part;
    part.key = "region " + text(region.id);
    part.name = tr("Region %1").arg(text(region.name));
    part.value = spanText(region.start, region.length) + (region.lock ? tr(", locked") : QString());
    part.place = box.toRect();
    part.isSelected = selected_.regions().contains(region.id);
    part.choose = select(Thing::Region, region.id);
    parts.push_back(std::move(part));
  });
  if (!model_->hasMarkers()) return;
  row.key = "markers";
  row.name = tr("Markers");
  row.value = text(counted(model_->session().markerCount(), "marker"));
  row.place = QRect(0, markersTop(), kHeadWidth, kMarkerRow);
  row.isCurrent = keys_->isOnMarkers();
  parts.push_back(row);
  model_->markersIn(from, to, [&](const IntervalIndex::Interval& found) {
    const Marker& marker = model_->marker(found.item);
    PaintedPart part;
    part.key = "marker " + text(marker.id);
    part.name = tr("Marker %1").arg(text(marker.name));
    part.value =
        text(timeText(marker.at, model_->session().rate)) + ", " + text(model_->setOfMarker(found.item).name);
    part.place = markerBox(found.item).toRect();
    part.isSelected = selected_.markers().contains(marker.id);
    part.choose = select(Thing::Marker, marker.id);
    parts.push_back(std::move(part));
  });
}

void TimelineView::addLaneParts(std::vector<PaintedPart>& parts, const Lane& lane, Frame from, Frame to) {
  const Session& session = model_->session();
  const bool isMain = lane.track.isMain();
  const Track* track = isMain ? nullptr : &session.tracks[lane.track.track()];
  PaintedPart head;
  head.key = "track " + (isMain ? QString("main") : text(track->id));
  head.name = isMain              ? tr("Main")
              : track->isGroup()  ? tr("Group %1").arg(text(track->name))
              : track->isReturn() ? tr("Return %1").arg(text(track->name))
                                  : tr("Track %1").arg(text(track->name));
  head.value = tr("%1 dB").arg(text(decibelText(isMain ? session.main.gainDb : track->gainDb)));
  if (!isMain && model_->tree().isMuted(lane.track)) head.value += tr(", muted");
  if (!isMain && track->lock) head.value += tr(", locked");
  head.place = headOf(lane.track);
  head.isCurrent = keys_->isCurrent(lane.track);
  head.isSelected = !isMain && selected_.tracks().contains(track->id);
  if (!isMain) head.choose = [this, id = track->id] { work_.places().go(Thing::Track, id); };
  parts.push_back(std::move(head));
  model_->clipsIn(lane.track, from, to, [&](const IntervalIndex::Interval& found) {
    const ClipSpot spot{lane.track, found.item};
    const QRectF box = clipBox(spot);
    if (box.width() < kNarrowest || parts.size() > kMostParts) return;
    const Clip& clip = model_->clipAt(spot);
    PaintedPart part;
    part.key = "clip " + text(clip.id);
    part.name =
        clip.name.empty() ? tr("Clip on %1").arg(text(track->name)) : tr("Clip %1").arg(text(clip.name));
    part.value = spanText(clip.start, clip.length) + (clip.mute ? tr(", muted") : QString()) +
                 (clip.lock ? tr(", locked") : QString());
    part.place = box.toRect();
    part.isSelected = selected_.clips().contains(clip.id);
    part.choose = [this, id = clip.id] { work_.places().go(Thing::Clip, id); };
    parts.push_back(std::move(part));
  });
  if (tiles_.sheet() == nullptr) return;
  tiles_.tilesIn(lane.track, from, to, [&](const IntervalIndex::Interval& found) {
    const Row& row = tiles_.sheet()->rows[found.item];
    const QRectF box = tileOf(lane, row);
    if (box.width() < kNarrowest || parts.size() > kMostParts) return;
    const std::string key = tiles_.sheet()->keyOf(row);
    const RowStage stage = work_.making().stageOf(*tiles_.sheet(), found.item);
    PaintedPart part;
    part.key = "file " + text(key);
    part.name = tr("File %1").arg(text(row.file));
    part.value = stage == RowStage::None ? text(rowStateText(row.state)) : text(rowStageText(stage));
    part.place = box.toRect();
    part.isSelected = isSelectedRow_[found.item] != 0;
    part.choose = [this, key] { work_.rows().show(key); };
    parts.push_back(std::move(part));
  });
}

}  // namespace octaphon::app
