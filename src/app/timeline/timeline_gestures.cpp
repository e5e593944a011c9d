#include "app/timeline/timeline_gestures.h"

#include <QApplication>
#include <QKeyEvent>
#include <QScrollBar>

#include "base/timecode.h"
#include "edit/clips.h"
#include "edit/near_zero.h"
#include "edit/regions.h"
#include "edit/tracks.h"

namespace octaphon::app {
namespace {

using What = TimelineHit::What;
using Part = TimelineHit::Part;

constexpr double kReach = 8;  // px within which things snap
constexpr int kNudgeMs = 10;
constexpr double kZeroReach = 0.01;  // seconds looked through for a zero

Thing thingOf(What what) {
  switch (what) {
    case What::Region: return Thing::Region;
    case What::Marker: return Thing::Marker;
    case What::ClipSet: return Thing::ClipSet;
    case What::Head: return Thing::Track;
    default: return Thing::Clip;
  }
}

bool hasId(What what) {
  return what == What::Region || what == What::Marker || what == What::Clip || what == What::ClipSet ||
         what == What::Head;
}

QString countedWords(const QString& one, const QString& many, std::size_t count) {
  return count == 1 ? one : many.arg(count);
}

}  // namespace

// --- snapping

Frame TimelineGestures::snapped(Frame frame, bool withoutSnapping) const {
  if (withoutSnapping || view_.snapsTo_ == 0) return frame;
  const auto reach = static_cast<Frame>(kReach * view_.framesPerPixel_);
  Frame best = frame;
  Frame distance = reach + 1;
  const auto offer = [&](Frame candidate) {
    const Frame far = std::abs(candidate - frame);
    if (far < distance) best = candidate, distance = far;
  };
  if ((view_.snapsTo_ & kSnapThings) != 0) offerThings(frame, reach, offer);
  if (distance <= reach) return best;
  const Session& session = view_.model_->session();
  if ((view_.snapsTo_ & kSnapBeats) != 0 && !view_.model_->tempo().empty())
    offer(view_.model_->tempo().nearestBeat(frame));
  if ((view_.snapsTo_ & kSnapPictures) != 0) {
    const Frame picture = pictureFrameAt(frame, session.pictureRate, session.rate);
    offer(audioFrameOf(picture, session.pictureRate, session.rate));
    offer(audioFrameOf(picture + 1, session.pictureRate, session.rate));
  }
  if (distance <= reach || (view_.snapsTo_ & kSnapZero) == 0 || !view_.facts_) return best;
  const std::optional<Strip> track =
      ghost_.hit.what == What::Clip ? std::optional(ghost_.hit.track) : std::nullopt;
  return nearestZero(session, *view_.facts_, frame, track, framesOf(kZeroReach, session.rate))
      .value_or(frame);
}

/// Edges and markers that do not move along.
void TimelineGestures::offerThings(Frame frame, Frame reach, const std::function<void(Frame)>& offer) const {
  const TimelineModel& model = *view_.model_;
  const Frame from = std::max<Frame>(0, frame - reach);
  const Frame to = frame + reach + 1;
  offer(0);
  offer(view_.playhead_);
  model.regionsIn(from - 1, to, [&](const IntervalIndex::Interval& found) {
    const Region& region = model.session().regions[found.item];
    if (ghost_.active && selected_.regions().contains(region.id)) return;
    offer(region.start);
    offer(region.end());
  });
  model.markersIn(from, to, [&](const IntervalIndex::Interval& found) {
    if (!ghost_.active || !selected_.markers().contains(model.marker(found.item).id)) offer(found.start);
  });
  for (const Lane& lane : model.lanes())
    model.clipsIn(lane.track, from - 1, to, [&](const IntervalIndex::Interval& found) {
      const Clip& clip = model.session().tracks[lane.track.track()].clips[found.item];
      if (ghost_.active && ghost_.hit.what == What::Clip && selected_.clips().contains(clip.id)) return;
      offer(clip.start);
      offer(clip.end());
    });
}

// --- mouse

void TimelineGestures::select(const TimelineHit& hit, Qt::KeyboardModifiers modifiers) {
  const Thing thing = thingOf(hit.what);
  if (modifiers & (Qt::ControlModifier | Qt::ShiftModifier)) return selected_.toggle(thing, hit.id);
  if (!selected_.of(thing).contains(hit.id)) selected_.set(thing, {hit.id});
}

void TimelineGestures::selectFor(const TimelineHit& hit) {
  if (hasId(hit.what)) select(hit, Qt::NoModifier);
}

void TimelineGestures::press(const QMouseEvent& event) {
  pressed_ = true;
  from_ = event.pos();
  fromFrame_ = view_.frameAt(event.pos().x());
  ghost_ = {};
  ghost_.hit = view_.hitAt(event.pos());
  if (hasId(ghost_.hit.what)) select(ghost_.hit, event.modifiers());
  if (ghost_.hit.what == What::Clip || ghost_.hit.what == What::Lane)
    if (const auto row = view_.rowAt(event.pos())) {
      const Sheet& sheet = *view_.tiles_.sheet();
      view_.work_.rows().show(sheet.keyOf(sheet.rows[*row]));
    }
  view_.redrawMarks();
}

Frame TimelineGestures::grabbed() const {
  const Session& session = view_.model_->session();
  const TimelineHit& hit = ghost_.hit;
  if (hit.what == What::Marker) return view_.model_->marker(hit.index).at;
  const bool isClip = hit.what == What::Clip;
  const Clip* clip = isClip ? &view_.model_->clipAt({hit.track, hit.index}) : nullptr;
  const Frame start = isClip ? clip->start : session.regions[hit.index].start;
  const Frame end = grabbedEnd();
  if (hit.part == Part::End) return end;
  if (isClip && hit.part == Part::FadeIn) return start + clip->fadeIn.length;
  if (isClip && hit.part == Part::FadeOut) return end - clip->fadeOut.length;
  return start;
}

Frame TimelineGestures::grabbedEnd() const {
  const TimelineHit& hit = ghost_.hit;
  if (hit.what == What::Clip) return view_.model_->clipAt({hit.track, hit.index}).end();
  if (hit.what == What::Region) return view_.model_->session().regions[hit.index].end();
  return grabbed();
}

void TimelineGestures::move(const QMouseEvent& event) {
  if (!pressed_) return;
  const QPoint moved = event.pos() - from_;
  if (!ghost_.active && moved.manhattanLength() < QApplication::startDragDistance()) return;
  ghost_.active = true;
  const bool withoutSnapping = event.modifiers() & Qt::AltModifier;
  const Frame here = view_.frameAt(event.pos().x());
  switch (ghost_.hit.what) {
    case What::Clip:
    case What::Region:
    case What::Marker: {
      const Frame wanted = grabbed() + here - fromFrame_;
      Frame by = snapped(std::max<Frame>(0, wanted), withoutSnapping) - grabbed();
      if (ghost_.hit.part == Part::Body && by == here - fromFrame_) {
        // The start found nothing: the end may.
        const Frame end = grabbedEnd() + by;
        by += snapped(end, withoutSnapping) - end;
      }
      ghost_.by = by;
      if (ghost_.hit.what == What::Clip && ghost_.hit.part == Part::Body)
        ghost_.down = qRound(static_cast<double>(moved.y()) / TimelineModel::kTrackHeight);
      break;
    }
    case What::Ruler:
    case What::RibbonRow: {
      const Frame a = snapped(fromFrame_, withoutSnapping);
      const Frame b = snapped(here, withoutSnapping);
      ghost_.span = {std::min(a, b), std::abs(b - a)};
      break;
    }
    case What::Lane:
    case What::Nothing: ghost_.band = QRect(from_, event.pos()).normalized(); break;
    case What::Head: ghost_.down = event.pos().y(); break;
    default: break;
  }
  view_.redrawMarks();
}

void TimelineGestures::release() {
  if (!std::exchange(pressed_, false)) return;
  const TimelineGhost ghost = ghost_;
  if (!ghost.active) {
    if (ghost.hit.what == What::Ruler) {
      selected_.setRange({});
      view_.work_.listener().moveTo(fromFrame_);
    } else if (ghost.hit.what == What::Lane || ghost.hit.what == What::Nothing ||
               ghost.hit.what == What::RibbonRow || ghost.hit.what == What::MarkerRow) {
      selected_.clear();
      view_.work_.listener().moveTo(snapped(fromFrame_, false));
    }
  } else {
    switch (ghost.hit.what) {
      case What::Clip: dropClips(); break;
      case What::Region:
      case What::RibbonRow: dropRegion(); break;
      case What::Marker:
        document_.edit(QObject::tr("Move a marker"),
                       [&](Session& session) { moveMarkers(session, selected_.markers(), ghost.by); });
        break;
      case What::Ruler: selected_.setRange(ghost.span); break;
      case What::Head: dropHead(); break;
      case What::Lane:
      case What::Nothing: takeBand(); break;
      default: break;
    }
  }
  ghost_ = {};
  view_.endGesture();
}

void TimelineGestures::cancel() {
  pressed_ = false;
  ghost_ = {};
}

void TimelineGestures::dropClips() {
  const ClipIds ids = withLinked(view_.model_->session(), selected_.clips());
  const Frame by = ghost_.by;
  const std::size_t count = ids.size();
  switch (ghost_.hit.part) {
    case Part::Body:
      document_.edit(countedWords(QObject::tr("Move a clip"), QObject::tr("Move %1 clips"), count),
                     [&](Session& session) { moveClips(session, ids, by, ghost_.down); });
      break;
    case Part::Start:
      document_.edit(QObject::tr("Trim the start"), [&](Session& session) { trimStarts(session, ids, by); });
      break;
    case Part::End:
      document_.edit(QObject::tr("Trim the end"), [&](Session& session) { trimEnds(session, ids, by); });
      break;
    case Part::FadeIn:
    case Part::FadeOut: {
      const Clip clip = view_.model_->clipAt({ghost_.hit.track, ghost_.hit.index});
      const bool in = ghost_.hit.part == Part::FadeIn;
      const Frame length = std::max<Frame>(0, in ? clip.fadeIn.length + by : clip.fadeOut.length - by);
      document_.edit(in ? QObject::tr("Fade in") : QObject::tr("Fade out"),
                     [&](Session& session) { fadeClips(session, ids, in ? length : -1, in ? -1 : length); });
      break;
    }
  }
}

void TimelineGestures::dropRegion() {
  const Frame by = ghost_.by;
  if (ghost_.hit.what == What::RibbonRow) {
    if (ghost_.span.length == 0) return;
    SpanRequest request;
    request.range = ghost_.span;
    std::vector<std::string> made;
    document_.edit(QObject::tr("Draw a region"),
                   [&](Session& session) { made = addRegions(session, proposeSpans(session, request)); });
    if (!made.empty()) selected_.set(Thing::Region, {made.begin(), made.end()});
    return;
  }
  const Region region = view_.model_->session().regions[ghost_.hit.index];
  if (ghost_.hit.part == Part::Start)
    document_.edit(QObject::tr("Move a region's start"),
                   [&](Session& session) { startRegion(session, region.id, region.start + by); });
  else if (ghost_.hit.part == Part::End)
    document_.edit(QObject::tr("Move a region's end"),
                   [&](Session& session) { endRegion(session, region.id, region.end() + by); });
  else
    document_.edit(countedWords(QObject::tr("Move a region"), QObject::tr("Move %1 regions"),
                                selected_.regions().size()),
                   [&](Session& session) { moveRegions(session, selected_.regions(), by); });
}

/// Tracks land in front of the lane they are dropped on; on the lower half of a group, in it.
void TimelineGestures::dropHead() {
  const Lane* lane = view_.laneAtY(ghost_.down);
  const Session& session = view_.model_->session();
  const std::vector<std::string> moving(selected_.tracks().begin(), selected_.tracks().end());
  std::string group, before;
  if (lane != nullptr && lane->track != Strip::main()) {
    const Track& track = session.tracks[lane->track.track()];
    const bool lower = ghost_.down > view_.laneY(*lane) + lane->height / 2;
    group = track.isGroup() && lower ? track.id : track.group;
    before = track.isGroup() && lower ? std::string() : track.id;
  }
  document_.edit(QObject::tr("Order tracks"),
                 [&](Session& changed) { (void)placeTracks(changed, moving, group, before); });
}

void TimelineGestures::takeBand() {
  const TimelineModel& model = *view_.model_;
  const Frame from = view_.frameAt(ghost_.band.left());
  const Frame to = view_.frameAt(ghost_.band.right() + 1);
  Ids ids;
  for (const Lane& lane : model.lanes()) {
    const int top = view_.laneY(lane);
    if (top > ghost_.band.bottom() || top + lane.height < ghost_.band.top()) continue;
    model.clipsIn(lane.track, from, to, [&](const IntervalIndex::Interval& found) {
      ids.insert(model.session().tracks[lane.track.track()].clips[found.item].id);
    });
  }
  selected_.set(Thing::Clip, std::move(ids));
}

// --- keys

bool TimelineGestures::key(const QKeyEvent& event) {
  const bool shift = event.modifiers() & Qt::ShiftModifier;
  const auto modifiers = event.modifiers() & ~(Qt::ShiftModifier | Qt::KeypadModifier);
  const int code = event.key();
  const int along = code == Qt::Key_Left ? -1 : code == Qt::Key_Right ? 1 : 0;
  const int across = code == Qt::Key_Up ? -1 : code == Qt::Key_Down ? 1 : 0;
  if (code == Qt::Key_Escape && pressed_) return cancel(), view_.endGesture(), true;
  if (code == Qt::Key_Escape) return selected_.clear(), true;
  const bool isStep =
      modifiers == Qt::ControlModifier || modifiers == (Qt::ControlModifier | Qt::AltModifier);
  if (isStep && !shift && (along != 0 || across != 0))
    return stepClip(along, across, modifiers.testFlag(Qt::AltModifier)), true;
  if (modifiers != Qt::AltModifier || along == 0) return false;
  const Frame by = along * framesOf((shift ? 1 : kNudgeMs) / 1000.0, document_.session()->rate);
  if (!selected_.clips().empty()) {
    const ClipIds ids = withLinked(*document_.session(), selected_.clips());
    document_.edit(
        countedWords(QObject::tr("Nudge a clip"), QObject::tr("Nudge %1 clips"), ids.size()),
        [&](Session& session) { moveClips(session, ids, by); }, mergeKey("nudge", ids));
  } else if (!selected_.regions().empty()) {
    document_.edit(
        countedWords(QObject::tr("Nudge a region"), QObject::tr("Nudge %1 regions"),
                     selected_.regions().size()),
        [&](Session& session) { moveRegions(session, selected_.regions(), by); },
        mergeKey("nudge", selected_.regions()));
  } else if (!selected_.markers().empty()) {
    document_.edit(
        QObject::tr("Nudge a marker"),
        [&](Session& session) { moveMarkers(session, selected_.markers(), by); },
        mergeKey("nudge", selected_.markers()));
  }
  return true;
}

/// The clip before or behind on the track, or the one nearest in time on the track above or below.
void TimelineGestures::stepClip(int along, int across, bool extend) {
  const Session& session = *document_.session();
  std::vector<Strip> tracks;
  for (const Lane& lane : view_.model_->lanes())
    if (lane.track != Strip::main() && !session.tracks[lane.track.track()].clips.empty())
      tracks.push_back(lane.track);
  if (tracks.empty()) return;
  std::size_t row = 0;
  Frame at = view_.playhead_;
  const Clip* current = nullptr;
  for (std::size_t i = 0; i < tracks.size(); ++i)
    for (const Clip& clip : session.tracks[tracks[i].track()].clips) {
      if (!selected_.clips().contains(clip.id)) continue;
      const bool further =
          current == nullptr || (along < 0 ? clip.start < current->start : clip.start >= current->start);
      if (further) current = &clip, row = i, at = clip.start;
    }
  if (current != nullptr && across != 0)
    row = static_cast<std::size_t>(
        std::clamp(static_cast<int>(row) + across, 0, static_cast<int>(tracks.size()) - 1));
  const Clip* best = nullptr;
  for (const Clip& clip : session.tracks[tracks[row].track()].clips) {
    const bool onSide = along == 0 || current == nullptr || (along > 0 ? clip.start > at : clip.start < at);
    if (onSide && (best == nullptr || std::abs(clip.start - at) < std::abs(best->start - at))) best = &clip;
  }
  if (best == nullptr) return;
  Ids ids = extend ? selected_.clips() : Ids();
  ids.insert(best->id);
  selected_.set(Thing::Clip, std::move(ids));
  view_.revealTrack(tracks[row]);
  view_.reveal(best->start, best->end());
}

}  // namespace octaphon::app
