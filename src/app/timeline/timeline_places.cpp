// Where things are on the timeline, what lies under the mouse, zooming and scrolling.
#include <algorithm>
#include <cmath>
#include <QScrollBar>

#include "app/look/theme.h"
#include "app/timeline/timeline_view.h"
#include "app/work/text.h"
#include "naming/file_name.h"

namespace octaphon::app {
namespace {

constexpr double kFinest = 0.25;  // frames a px
constexpr double kCoarsest = 4e6;

}  // namespace

int TimelineView::rulerHeight() const { return (model_->tempo().empty() ? 1 : 2) * kRulerRow + 4; }

Frame TimelineView::frameAt(double x) const {
  return std::max<Frame>(0, static_cast<Frame>(std::llround(left_ + (x - kHeadWidth) * framesPerPixel_)));
}

Frame TimelineView::lastFrame() const {
  const Frame end = model_->end();
  return end + std::max<Frame>(end / 20, model_->session().rate);
}

QRectF TimelineView::ribbonOf(std::size_t index) const {
  const Region& region = model_->session().regions[index];
  const double top = rulerHeight() + 3 + model_->regionLane(index) * kRibbonRow;
  const double x = xOf(region.start);
  return {x, top, std::max(2.0, xOf(region.end()) - x), kRibbonRow - 4.0};
}

QRectF TimelineView::tileOf(const Lane& lane, const Row& row) const {
  const double top = laneY(lane);
  const double x = xOf(row.start);
  return {x, top + 3, xOf(tiles_.sheet()->shownEndOf(row)) - x, lane.height - 7.0};
}

QRectF TimelineView::bodyOf(const QRectF& tile, const Row& row) const {
  const auto x = [&](Frame frames) {
    return xOf(row.start + atRate(frames, row.rate, tiles_.sheet()->rate));
  };
  const double left = std::round(x(row.extent.leadIn)) + 0.5;
  const double right = std::round(x(row.extent.leadIn + row.extent.body)) - 0.5;
  return {left, tile.top(), std::max(2.0, right - left), tile.height()};
}

QRectF TimelineView::clipBox(ClipSpot spot) const {
  const Lane* lane = laneOf(spot.track);
  if (lane == nullptr) return {};
  const Clip& clip = model_->clipAt(spot);
  return {xOf(clip.start), laneY(*lane) + 2.0, xOf(clip.end()) - xOf(clip.start), lane->height - 5.0};
}

QRectF TimelineView::markerBox(std::size_t marker) const {
  const double x = xOf(model_->marker(marker).at);
  const int name = QFontMetrics(Theme::caption()).horizontalAdvance(text(model_->marker(marker).name));
  return {x - 3, markersTop() + 1.0, std::min(name + 14.0, 140.0), kMarkerRow - 3.0};
}

QRectF TimelineView::tagOf(std::size_t clipSet) const {
  const auto& members = model_->membersOf(clipSet);
  if (members.empty()) return {};
  const QRectF first = clipBox(members.front());
  if (first.isNull()) return {};
  const QString name = text(lastPart(model_->session().clipSets[clipSet].name));
  const double room = static_cast<double>(model_->extentOf(clipSet).length) / framesPerPixel_;
  if (room < 30) return {};
  const double width = std::min({120.0, room, QFontMetrics(Theme::caption()).horizontalAdvance(name) + 10.0});
  return {std::max<double>(first.left(), kHeadWidth + 2), first.top() - 1, width, 14};
}

QRect TimelineView::headOf(Strip track) const {
  const Lane* lane = laneOf(track);
  return lane == nullptr ? QRect() : QRect(0, laneY(*lane), kHeadWidth, lane->height);
}

int TimelineView::laneY(const Lane& lane) const {
  return lane.pinned ? pinnedTop() + lane.top : lanesTop() + lane.top - verticalScrollBar()->value();
}

const Lane* TimelineView::laneAtY(int y) const {
  if (y < pinnedTop()) return nullptr;
  if (y < lanesTop()) {
    for (const Lane& lane : model_->pinned())
      if (y < laneY(lane) + lane.height) return &lane;
    return nullptr;
  }
  const std::size_t index = model_->laneAt(y - lanesTop() + verticalScrollBar()->value());
  return index < model_->lanes().size() ? &model_->lanes()[index] : nullptr;
}

const Lane* TimelineView::laneOf(Strip track) const {
  for (const auto* lanes : {&model_->pinned(), &model_->lanes()})
    for (const Lane& lane : *lanes)
      if (lane.track == track) return &lane;
  return nullptr;
}

TimelineHit TimelineView::hitAt(const QPoint& at) const {
  using What = TimelineHit::What;
  TimelineHit hit;
  const Lane* lane = laneAtY(at.y());
  if (lane != nullptr) hit.track = lane->track;
  if (at.x() < kHeadWidth) {
    if (lane == nullptr || lane->track == Strip::main()) return hit;
    hit.what = What::Head;
    hit.id = model_->session().tracks[lane->track.track()].id;
    return hit;
  }
  const auto slack = static_cast<Frame>(framesPerPixel_ * 4) + 1;
  const Frame frame = frameAt(at.x());
  if (at.y() < rulerHeight()) {
    hit.what = What::Ruler;
  } else if (at.y() < markersTop()) {
    hit.what = What::RibbonRow;
    model_->regionsIn(frame - slack, frame + slack, [&](const IntervalIndex::Interval& found) {
      const QRectF box = ribbonOf(found.item).adjusted(-3, 0, 3, 0);
      if (!box.contains(at)) return;
      hit.what = What::Region;
      hit.index = found.item;
      hit.id = model_->session().regions[found.item].id;
      const double edge = std::min(6.0, box.width() / 4);
      hit.part = at.x() < box.left() + 3 + edge    ? TimelineHit::Part::Start
                 : at.x() > box.right() - 3 - edge ? TimelineHit::Part::End
                                                   : TimelineHit::Part::Body;
    });
  } else if (at.y() < pinnedTop()) {
    hit.what = What::MarkerRow;
    model_->markersIn(frame - static_cast<Frame>(150 * framesPerPixel_), frame + slack,
                      [&](const IntervalIndex::Interval& found) {
                        if (!markerBox(found.item).contains(at)) return;
                        hit.what = What::Marker;
                        hit.index = found.item;
                        hit.id = model_->marker(found.item).id;
                      });
  } else if (lane != nullptr) {
    hit.what = What::Lane;
    for (std::size_t set = 0; set < model_->session().clipSets.size(); ++set)
      if (tagOf(set).contains(at)) {
        hit.what = What::ClipSet;
        hit.index = set;
        hit.id = model_->session().clipSets[set].id;
        return hit;
      }
    return clipHit(*lane, at);
  }
  return hit;
}

TimelineHit TimelineView::clipHit(const Lane& lane, const QPoint& at) const {
  using Part = TimelineHit::Part;
  TimelineHit hit;
  hit.what = TimelineHit::What::Lane;
  hit.track = lane.track;
  const auto slack = static_cast<Frame>(framesPerPixel_ * 2) + 1;
  const Frame frame = frameAt(at.x());
  model_->clipsIn(lane.track, frame - slack, frame + slack, [&](const IntervalIndex::Interval& found) {
    const ClipSpot spot{lane.track, found.item};
    const QRectF box = clipBox(spot).adjusted(-2, 0, 2, 0);
    if (at.x() < box.left() || at.x() > box.right()) return;
    const Clip& clip = model_->clipAt(spot);
    hit.what = TimelineHit::What::Clip;
    hit.index = found.item;
    hit.id = clip.id;
    hit.part = Part::Body;
    if (box.width() < 16) return;
    const double edge = 6;
    const bool upper = at.y() < box.top() + 10 && box.width() > 40;
    if (upper && std::abs(at.x() - xOf(clip.start + clip.fadeIn.length)) < edge)
      hit.part = Part::FadeIn;
    else if (upper && std::abs(at.x() - xOf(clip.end() - clip.fadeOut.length)) < edge)
      hit.part = Part::FadeOut;
    else if (at.x() < box.left() + 2 + edge)
      hit.part = Part::Start;
    else if (at.x() > box.right() - 2 - edge)
      hit.part = Part::End;
  });
  return hit;
}

std::optional<std::size_t> TimelineView::rowAt(const QPoint& at) const {
  const Lane* lane = laneAtY(at.y());
  if (at.x() < kHeadWidth || lane == nullptr || tiles_.sheet() == nullptr) return std::nullopt;
  std::optional<std::size_t> found;
  const Frame frame = frameAt(at.x());
  tiles_.tilesIn(lane->track, frame, frame + 1,
                 [&](const IntervalIndex::Interval& tile) { found = tile.item; });
  return found;
}

void TimelineView::updateScrollBars() {
  const int visible = viewport()->height() - lanesTop();
  verticalScrollBar()->setRange(0, std::max(0, model_->height() - visible));
  verticalScrollBar()->setPageStep(std::max(1, visible));
  verticalScrollBar()->setSingleStep(TimelineModel::kTrackHeight);
  const double pixels = static_cast<double>(lastFrame()) / framesPerPixel_ - bodyWidth();
  const QSignalBlocker blocker(horizontalScrollBar());
  horizontalScrollBar()->setRange(0, static_cast<int>(std::clamp(pixels, 0.0, 2e9)));
  horizontalScrollBar()->setPageStep(bodyWidth());
  horizontalScrollBar()->setSingleStep(40);
  horizontalScrollBar()->setValue(static_cast<int>(left_ / framesPerPixel_));
}

void TimelineView::setLeft(double left) {
  const double most = std::max(0.0, static_cast<double>(lastFrame()) - bodyWidth() * framesPerPixel_);
  left_ = std::clamp(left, 0.0, most);
  updateScrollBars();
  redraw();
}

void TimelineView::setZoom(double framesPerPixel, double keepX) {
  whole_ = false;
  const double kept = left_ + (keepX - kHeadWidth) * framesPerPixel_;
  framesPerPixel_ = std::clamp(framesPerPixel, kFinest, kCoarsest);
  setLeft(kept - (keepX - kHeadWidth) * framesPerPixel_);
}

void TimelineView::zoomBy(double factor) {
  const double playX = xOf(playhead_);
  const bool visible = playX >= kHeadWidth && playX < viewport()->width();
  setZoom(framesPerPixel_ * factor, visible ? playX : kHeadWidth + bodyWidth() / 2.0);
}

void TimelineView::showSpan(Frame from, Frame to) {
  whole_ = false;
  const double length = std::max<double>(1, static_cast<double>(to - from));
  framesPerPixel_ = std::clamp(length * 1.08 / bodyWidth(), kFinest, kCoarsest);
  setLeft(static_cast<double>(from) - length * 0.04);
}

void TimelineView::showAll() {
  whole_ = true;
  framesPerPixel_ =
      std::clamp(static_cast<double>(std::max<Frame>(lastFrame(), 1)) / bodyWidth(), kFinest, kCoarsest);
  setLeft(0);
}

void TimelineView::reveal(Frame from, Frame to) {
  const double first = xOf(from);
  const double last = xOf(to);
  if (first >= kHeadWidth && last <= viewport()->width()) return;
  const double room = bodyWidth() - (last - first);
  setLeft(static_cast<double>(from) - std::max(20.0, room * 0.25) * framesPerPixel_);
}

void TimelineView::revealTrack(Strip track) {
  for (const Lane& lane : model_->lanes()) {
    if (lane.track != track) continue;
    const int top = verticalScrollBar()->value();
    const int visible = viewport()->height() - lanesTop();
    if (lane.top < top)
      verticalScrollBar()->setValue(lane.top);
    else if (lane.top + lane.height > top + visible)
      verticalScrollBar()->setValue(lane.top + lane.height - visible);
  }
}

}  // namespace octaphon::app
