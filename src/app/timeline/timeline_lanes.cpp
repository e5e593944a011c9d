// Lanes of the timeline: clips with their sound, and the tiles of rows. What is too narrow to be told apart
// is drawn together with what is beside it.
#include <cmath>
#include <QPainter>

#include "app/look/stage_mark.h"
#include "app/look/state_mark.h"
#include "app/look/theme.h"
#include "app/timeline/timeline_drawing.h"
#include "app/timeline/timeline_view.h"
#include "app/work/sheet_summary.h"
#include "signal/fades.h"

namespace octaphon::app {
namespace {

constexpr double kNarrow = 3;  // px

/// Bars of narrow things that touch: in whole px, each as join(look, look) of what it is made of says.
template <class Look, class Join, class Draw>
class Bars {
 public:
  Bars(const Join& join, const Draw& draw) : join_(join), draw_(draw) {}

  /// Up to where nothing more would make the bar longer; −1 without one.
  double covered() const { return isOpen_ ? to_ : -1; }
  void add(double left, double right, const Look& look) {
    if (isOpen_ && right <= to_ && look == look_) return;
    if (isOpen_ && std::floor(left) > to_) finish();
    if (!isOpen_) from_ = std::floor(left), to_ = from_ + 1, look_ = look;
    isOpen_ = true;
    to_ = std::max(to_, std::ceil(right));
    look_ = join_(look_, look);
  }
  void finish() {
    if (std::exchange(isOpen_, false)) draw_(from_, to_, look_);
  }

 private:
  const Join& join_;
  const Draw& draw_;
  bool isOpen_ = false;
  double from_ = 0, to_ = 0;
  Look look_{};
};

}  // namespace

void TimelineView::paintLanes(QPainter& painter) {
  areTilesWide_ = false;
  painter.save();
  painter.setClipRect(QRect(0, lanesTop(), viewport()->width(), viewport()->height() - lanesTop()));
  const int scrolled = verticalScrollBar()->value();
  const int bottom = scrolled + viewport()->height();
  for (std::size_t i = model_->laneAt(scrolled);
       i < model_->lanes().size() && model_->lanes()[i].top < bottom; ++i)
    paintLane(painter, model_->lanes()[i]);
  painter.setClipRect(QRect(0, pinnedTop(), viewport()->width(), model_->pinnedHeight()));
  for (const Lane& lane : model_->pinned()) paintLane(painter, lane);
  painter.restore();
}

void TimelineView::paintLane(QPainter& painter, const Lane& lane) {
  const int top = laneY(lane);
  const bool band = lane.track == Strip::main() || model_->session().tracks[lane.track.track()].isGroup();
  if (band) painter.fillRect(0, top, viewport()->width(), lane.height, colour(Role::GroupBand));
  painter.setPen(colour(Role::Hairline));
  painter.drawLine(0, top + lane.height - 1, viewport()->width(), top + lane.height - 1);
  painter.save();
  painter.setClipRect(
      QRect(kHeadWidth, std::max(top, lane.pinned ? pinnedTop() : lanesTop()), bodyWidth(), lane.height),
      Qt::IntersectClip);
  paintClips(painter, lane);
  paintTiles(painter, lane);
  painter.restore();
}

void TimelineView::paintClips(QPainter& painter, const Lane& lane) {
  if (lane.track.isMain()) return;
  const SharedList<Clip>& clips = model_->session().tracks[lane.track.track()].clips;
  struct ClipLook {
    ClipInk ink;
    bool isSelected = false, isLost = false;
    bool operator==(const ClipLook& other) const {  // its neighbours have the ink of the first
      return isSelected == other.isSelected && isLost == other.isLost;
    }
  };
  const auto join = [](ClipLook a, const ClipLook& b) {
    return ClipLook{a.ink, a.isSelected || b.isSelected, a.isLost || b.isLost};
  };
  const auto draw = [&](double from, double to, const ClipLook& look) {
    const double middle = laneY(lane) + lane.height / 2.0 - 0.5;
    if (look.isSelected)
      painter.fillRect(QRectF(from, laneY(lane) + 2, to - from, lane.height - 5.0),
                       faded(colour(Role::Accent), 40));
    painter.fillRect(QRectF(from, middle - 2, to - from, 4),
                     look.isLost ? colour(Role::Fault) : look.ink.line);
  };
  Bars<ClipLook, decltype(join), decltype(draw)> bars(join, draw);
  const bool looksAtEach = !selected_.clips().empty();
  model_->clipsIn(
      lane.track, frameAt(kHeadWidth), frameAt(viewport()->width()) + 1,
      [&](const IntervalIndex::Interval& found) {
        const double left = xOf(found.start), right = xOf(found.end);
        const Clip& clip = clips[found.item];
        if (right - left >= kNarrow) {
          bars.finish();
          paintClip(painter, lane, clip);
          return Frame{0};
        }
        bars.add(left, right, {inkOf(lane, clip), selected_.clips().contains(clip.id), isLost(clip)});
        return looksAtEach ? Frame{0} : frameAt(bars.covered());
      });
  bars.finish();
}

TimelineView::ClipInk TimelineView::inkOf(const Lane& lane, const Clip& clip) const {
  const bool silent = clip.mute || model_->tree().isMuted(lane.track) || model_->tree().isHelper(lane.track);
  const int number = clip.ink > 0 ? clip.ink : model_->inkOf(lane.track);
  const QColor plain = Theme::instance().trackInk(silent ? 0 : number);
  return {plain, faded(plain, silent ? 70 : 150)};
}

bool TimelineView::isLost(const Clip& clip) const {
  const MediumFact* fact = facts_ ? facts_->find(clip.medium) : nullptr;
  return fact != nullptr && fact->state != MediumFact::State::Ready;
}

void TimelineView::paintClip(QPainter& painter, const Lane& lane, const Clip& clip) {
  const double middle = laneY(lane) + lane.height / 2.0 - 0.5;
  const int first = std::max(kHeadWidth, static_cast<int>(std::floor(xOf(clip.start))));
  const int last = std::min(viewport()->width(), static_cast<int>(std::ceil(xOf(clip.end()))));
  const auto [plain, ink] = inkOf(lane, clip);
  const QRectF box(first, laneY(lane) + 2, last - first, lane.height - 5.0);
  const bool selected = selected_.clips().contains(clip.id);
  if (selected)
    painter.fillRect(box, faded(colour(Role::Accent), 40));
  else
    painter.fillRect(box, faded(plain, 16));
  const MediumFact* fact = facts_ ? facts_->find(clip.medium) : nullptr;
  if (isLost(clip)) {
    painter.fillRect(QRectF(first, box.top() + 1, std::min(4, last - first), box.height() - 2),
                     colour(Role::Fault));
    painter.fillRect(QRectF(first, middle - 0.5, last - first, 1), colour(Role::Fault));
  } else if (work_.overviews().find(clip.medium) == nullptr || fact == nullptr || last - first < 2) {
    painter.fillRect(QRectF(first, middle - 2, std::max(1, last - first), 4), ink);
  } else {
    painter.setPen(Qt::NoPen);
    painter.setBrush(ink);
    paintWave(painter, lane, clip, first, last);
  }
  if (!clip.notes.empty()) drawNoteCorner(painter, box);
  if (box.width() < 6) return;
  painter.setBrush(Qt::NoBrush);
  painter.setPen(selected ? QPen(colour(Role::Accent), 1) : QPen(faded(plain, 90), 1));
  if (selected)
    painter.drawRect(box.adjusted(0.5, 0.5, -0.5, -0.5));
  else
    painter.drawLine(QPointF(first + 0.5, box.top()), QPointF(first + 0.5, box.bottom()));
  if (selected || clip.fadeIn.length > 0)
    painter.drawLine(QPointF(xOf(clip.start), box.bottom()),
                     QPointF(xOf(clip.start + clip.fadeIn.length), box.top()));
  if (selected || clip.fadeOut.length > 0)
    painter.drawLine(QPointF(xOf(clip.end() - clip.fadeOut.length), box.top()),
                     QPointF(xOf(clip.end()), box.bottom()));
}

void TimelineView::paintWave(QPainter& painter, const Lane& lane, const Clip& clip, int first, int last) {
  const double middle = laneY(lane) + lane.height / 2.0 - 0.5;
  const MediumFact* fact = facts_->find(clip.medium);
  const Overview* overview = work_.overviews().find(clip.medium);
  const HeardClip whole{lane.track, 0, clip.start, clip.end(), 0};
  const ClipEnvelope envelope(clip, whole);
  const double ratio = static_cast<double>(fact->info.rate) / model_->session().rate;
  const double scale = (lane.height - 8) / 2.0 / 32767;
  const auto inMedium = [&](Frame frame) {
    return static_cast<Frame>(static_cast<double>(frame - clip.start + clip.offset) * ratio);
  };
  std::vector<QRectF> columns;
  columns.reserve(static_cast<std::size_t>(std::max(0, last - first)));
  for (int x = first; x < last; ++x) {
    const Frame from = std::max(clip.start, frameAt(x));
    const Frame to = std::min(clip.end(), std::max(from + 1, frameAt(x + 1)));
    const Peak peak = overview->range(inMedium(from), std::max(inMedium(from) + 1, inMedium(to)));
    const double gain = from < clip.end() ? std::min(2.0, envelope.at(from)) : 0;
    const double high = std::min(peak.high * gain * scale, lane.height / 2.0 - 4);
    const double low = std::max(peak.low * gain * scale, -lane.height / 2.0 + 4);
    columns.emplace_back(x, middle - high, 1, std::max(1.0, high - low));
  }
  painter.drawRects(columns.data(), static_cast<int>(columns.size()));
}

void TimelineView::paintTiles(QPainter& painter, const Lane& lane) {
  const Sheet* sheet = tiles_.sheet();
  if (sheet == nullptr) return;
  struct TileLook {
    RowState state = RowState::UpToDate;
    RowStage stage = RowStage::None;
    bool operator==(const TileLook&) const = default;
  };
  const auto join = [](const TileLook& a, const TileLook& b) {
    return TileLook{weightier(a.state, b.state), moreTelling(a.stage, b.stage)};
  };
  const auto draw = [&](double from, double to, const TileLook& look) {
    const bool isMade = look.stage != RowStage::None;
    painter.fillRect(QRectF(from, laneY(lane) + lane.height - 8, to - from, 4),
                     isMade ? stageColour(look.stage) : stateColour(look.state));
  };
  Bars<TileLook, decltype(join), decltype(draw)> bars(join, draw);
  const Making& making = work_.making();
  tiles_.tilesIn(lane.track, frameAt(kHeadWidth), frameAt(viewport()->width()) + 1,
                 [&](const IntervalIndex::Interval& found) {
                   const RowStage stage =
                       making.hasStages() ? making.stageOf(*sheet, found.item) : RowStage::None;
                   const double left = xOf(found.start), right = xOf(found.end);
                   if (right - left < kNarrow)
                     return bars.add(left, right, {tiles_.stateOf(found.item), stage});
                   bars.finish();
                   areTilesWide_ = true;
                   paintTile(painter, lane, found.item, stage);
                 });
  bars.finish();
}

void TimelineView::paintTile(QPainter& painter, const Lane& lane, std::size_t index, RowStage stage) {
  const Sheet& sheet = *tiles_.sheet();
  const Row& row = sheet.rows[index];
  const QRectF box = tileOf(lane, row);
  const QRectF snapped(std::round(box.left()) + 0.5, box.top() + 0.5,
                       std::max(2.0, std::round(box.width()) - 1), box.height() - 1);
  if (isSelectedRow_[index] != 0) painter.fillRect(snapped, faded(colour(Role::Accent), 45));
  const QRectF body = bodyOf(snapped, row);
  if (stage != RowStage::None)
    drawStageTile(painter, body, stage);
  else
    drawTile(painter, body, row.state);
  drawTileEnds(painter, snapped, body, row.isMeasured && sheet.spanOf(row).ringsOut, row.state);
  if (row.exception) drawOwnMark(painter, snapped);
}

}  // namespace octaphon::app
