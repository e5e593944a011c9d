#include "app/timeline/timeline_keys.h"

#include <algorithm>
#include <cmath>

#include "app/look/painted_parts.h"

namespace octaphon::app {
namespace {

using What = TimelineHit::What;

constexpr int kStep = 10;          // px that the play line goes, where there is no beat near
constexpr int kFarthestBeat = 20;  // such steps

}  // namespace

bool TimelineKeys::press(const QKeyEvent& event) {
  const auto modifiers = event.modifiers() & ~(Qt::ShiftModifier | Qt::KeypadModifier);
  const bool shift = event.modifiers() & Qt::ShiftModifier;
  const int code = event.key();
  const int along = code == Qt::Key_Left ? -1 : code == Qt::Key_Right ? 1 : 0;
  const int across = code == Qt::Key_Up ? -1 : code == Qt::Key_Down ? 1 : 0;
  if (modifiers == Qt::ControlModifier && !shift && along != 0 && kind_ != Kind::Track) {
    if (kind_ == Kind::Regions)
      work_.places().stepRegion(along);
    else
      stepMarker(along);
    return true;
  }
  if (modifiers != Qt::NoModifier) return false;
  if (along != 0) return moveLine(stepFrom(view_.playhead(), along), shift), true;
  if (across != 0 && !shift) return step(across), true;
  switch (code) {
    case Qt::Key_Home: return moveLine(0, shift), true;
    case Qt::Key_End: return moveLine(view_.model().session().end(), shift), true;
    case Qt::Key_Return:
    case Qt::Key_Enter: return choose(shift), true;
    default: return false;
  }
}

std::string TimelineKeys::idOf(Strip track) const {
  return track.isMain() ? std::string() : view_.model().session().tracks[track.track()].id;
}

Strip TimelineKeys::current() const {
  return track_.empty() ? Strip::main() : view_.model().tree().find(track_).value_or(Strip::main());
}

std::vector<TimelineKeys::Row> TimelineKeys::rows() const {
  std::vector<Row> all{{Kind::Regions, {}}};
  if (view_.model().hasMarkers()) all.push_back({Kind::Markers, {}});
  for (const auto* lanes : {&view_.model().pinned(), &view_.model().lanes()})
    for (const Lane& lane : *lanes) all.push_back({Kind::Track, idOf(lane.track)});
  return all;
}

/// Where the current row has gone, from the first one.
void TimelineKeys::step(int by) {
  const std::vector<Row> all = rows();
  const auto now = std::find_if(all.begin(), all.end(), [&](const Row& row) {
    return row.kind == kind_ && (kind_ != Kind::Track || row.track == track_);
  });
  const auto at = now == all.end() ? 0 : now - all.begin();
  const Row& next = all[static_cast<std::size_t>(
      std::clamp<std::ptrdiff_t>(at + by, 0, static_cast<std::ptrdiff_t>(all.size()) - 1))];
  kind_ = next.kind;
  track_ = next.track;
  if (kind_ == Kind::Track) view_.revealTrack(current());
  tell();
}

void TimelineKeys::begin() {
  kind_ = Kind::Track;
  track_ = idOf(view_.model().lanes().front().track);
  anchor_.reset();
}

void TimelineKeys::follow(const TimelineHit& hit) {
  switch (hit.what) {
    case What::Ruler:
    case What::RibbonRow:
    case What::Region: kind_ = Kind::Regions; break;
    case What::MarkerRow:
    case What::Marker: kind_ = Kind::Markers; break;
    case What::Clip:
    case What::ClipSet:
    case What::Lane:
    case What::Head:
      kind_ = Kind::Track;
      track_ = idOf(hit.track);
      break;
    case What::Nothing: return;
  }
  view_.redrawMarks();
}

void TimelineKeys::tell() const {
  view_.redrawMarks();
  tellCurrentPart(&view_);
}

/// The shortest one around the play line, else the next one.
std::optional<std::size_t> TimelineKeys::regionHere() const {
  const auto& regions = view_.model().session().regions;
  const Frame at = view_.playhead();
  std::optional<std::size_t> best;
  const auto rank = [&](const Region& region) {
    const bool isAround = region.start <= at && region.end() > at;
    return std::pair(!isAround, isAround ? region.length : region.start);
  };
  for (std::size_t i = 0; i < regions.size(); ++i) {
    if (regions[i].end() <= at) continue;
    if (!best || rank(regions[i]) < rank(regions[*best])) best = i;
  }
  return best;
}

/// The nearest one.
std::optional<std::size_t> TimelineKeys::markerHere() const {
  std::optional<std::size_t> best;
  const auto away = [&](std::size_t marker) {
    return std::abs(view_.model().marker(marker).at - view_.playhead());
  };
  view_.model().markersIn(0, kMaxFrame, [&](const IntervalIndex::Interval& found) {
    if (!best || away(found.item) < away(*best)) best = found.item;
  });
  return best;
}

void TimelineKeys::choose(bool more) {
  const auto select = [&](Thing thing, const std::string& id) {
    if (more)
      work_.selected().toggle(thing, id);
    else
      work_.selected().set(thing, {id});
  };
  const TimelineModel& model = view_.model();
  if (kind_ == Kind::Regions) {
    if (const auto region = regionHere()) select(Thing::Region, model.session().regions[*region].id);
  } else if (kind_ == Kind::Markers) {
    if (const auto marker = markerHere()) select(Thing::Marker, model.marker(*marker).id);
  } else if (!current().isMain()) {
    select(Thing::Track, track_);
  }
}

void TimelineKeys::stepMarker(int by) {
  const TimelineModel& model = view_.model();
  const Frame at = view_.playhead();
  const Marker* next = nullptr;
  model.markersIn(0, kMaxFrame, [&](const IntervalIndex::Interval& found) {
    const Marker& marker = model.marker(found.item);
    if (by > 0 ? marker.at <= at : marker.at >= at) return;
    if (next == nullptr || (by > 0 ? marker.at < next->at : marker.at > next->at)) next = &marker;
  });
  if (next != nullptr) work_.places().go(Thing::Marker, std::string(next->id));
}

/// A range goes from where stretching began to the line.
void TimelineKeys::moveLine(Frame to, bool stretches) {
  to = std::clamp<Frame>(to, 0, kMaxFrame);
  const Frame from = view_.playhead();
  const auto& range = work_.selected().range();
  const bool goesOn = anchor_ && range && (range->start == from || range->end() == from);
  work_.listener().moveTo(to);
  view_.reveal(to, to);
  if (!stretches) return anchor_.reset();
  if (!goesOn) anchor_ = from;
  work_.selected().setRange(TimeSpan{std::min(*anchor_, to), std::abs(to - *anchor_)});
}

/// To the next beat where it snaps to beats and one is near, else some pixels on.
Frame TimelineKeys::stepFrom(Frame at, int direction) const {
  const auto step = std::max<Frame>(1, std::llround(kStep * view_.framesPerPixel()));
  const TempoMap& tempo = view_.model().tempo();
  if ((view_.snapping() & kSnapBeats) != 0 && !tempo.empty())
    for (int i = 1; i <= kFarthestBeat; ++i) {
      const Frame beat = tempo.nearestBeat(std::max<Frame>(0, at + direction * i * step));
      if (direction * (beat - at) >= std::max<Frame>(1, step / 2)) return beat;
    }
  return at + direction * step;
}

QRect TimelineKeys::rowBox() const {
  const int width = view_.viewport()->width();
  if (kind_ == Kind::Regions)
    return {0, view_.rulerHeight(), width, view_.markersTop() - view_.rulerHeight()};
  if (kind_ == Kind::Markers) return {0, view_.markersTop(), width, view_.pinnedTop() - view_.markersTop()};
  const QRect head = view_.headOf(current());
  const Lane* lane = view_.laneOf(current());
  if (lane == nullptr || (!lane->pinned && head.bottom() < view_.lanesTop())) return {};
  return {0, head.top(), width, head.height() - 1};
}

TimelineHit TimelineKeys::menuHit() const {
  const Selected& selected = work_.selected();
  TimelineHit hit;
  hit.what = kind_ == Kind::Regions ? What::RibbonRow : kind_ == Kind::Markers ? What::MarkerRow : What::Lane;
  for (const auto& [thing, what] :
       {std::pair(Thing::Clip, What::Clip), std::pair(Thing::Region, What::Region),
        std::pair(Thing::ClipSet, What::ClipSet), std::pair(Thing::Marker, What::Marker),
        std::pair(Thing::Track, What::Head)})
    if (!selected.of(thing).empty()) {
      hit.what = what;
      break;
    }
  return hit;
}

QPoint TimelineKeys::menuPlace() const {
  const QRect row = rowBox();
  const double x = std::clamp(view_.xOf(view_.playhead()), 12.0, view_.viewport()->width() - 12.0);
  return {static_cast<int>(x), row.isNull() ? view_.lanesTop() : row.bottom() - 4};
}

}  // namespace octaphon::app
