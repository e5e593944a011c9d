#include "timeline_view.h"

#include <algorithm>
#include <cmath>
#include <QHelpEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QScrollBar>
#include <QToolTip>

#include "base/decibels.h"
#include "naming/file_name.h"
#include "signal/fades.h"
#include "state_mark.h"
#include "text.h"
#include "theme.h"

namespace octaphon::app {
namespace {

constexpr double kFinest = 0.25;  // frames a px
constexpr double kCoarsest = 4e6;

/// A step of 1, 2 or 5 times a power of ten that is at least `least`.
double niceStep(double least) {
  const double power = std::pow(10, std::floor(std::log10(least)));
  for (const double factor : {1.0, 2.0, 5.0})
    if (factor * power >= least) return factor * power;
  return 10 * power;
}

/// The same for times: seconds up to a minute in clock steps.
double timeStep(double least) {
  for (const double step : {1.0, 2.0, 5.0, 10.0, 15.0, 30.0, 60.0, 120.0, 300.0, 600.0, 1800.0, 3600.0})
    if (step >= least) return step;
  return least < 1 ? niceStep(least) : 3600 * niceStep(least / 3600);
}

QString timeLabel(double seconds, double step) {
  const auto minutes = static_cast<long>(seconds / 60 + 1e-9);
  const double rest = seconds - 60.0 * static_cast<double>(minutes);
  if (step >= 1) return QString("%1:%2").arg(minutes).arg(std::lround(rest), 2, 10, QChar('0'));
  const int decimals = step >= 0.1 ? 1 : step >= 0.01 ? 2 : 3;
  return QString("%1:%2").arg(minutes).arg(rest, decimals + 3, 'f', decimals, QChar('0'));
}

QColor faded(QColor base, int alpha) {
  base.setAlpha(alpha);
  return base;
}

}  // namespace

TimelineView::TimelineView(OverviewStore& overviews, QWidget* parent)
    : QAbstractScrollArea(parent), overviews_(overviews) {
  setFrameShape(QFrame::NoFrame);
  setAccessibleName(tr("Timeline"));
  setAccessibleDescription(tr("Regions and tracks against time; tiles are the files of the selected brief"));
  setFocusPolicy(Qt::StrongFocus);
  setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOn);
  viewport()->setMouseTracking(true);
  connect(&overviews_, &OverviewStore::changed, viewport(), qOverload<>(&QWidget::update));
  connect(&Theme::instance(), &Theme::changed, viewport(), qOverload<>(&QWidget::update));
  setSession(std::make_shared<Session>());
}

void TimelineView::setSession(std::shared_ptr<const Session> session) {
  model_ = std::make_unique<TimelineModel>(std::move(session));
  tiles_ = {};
  selectedRegion_ = selectedRow_ = -1;
  playhead_ = 0;
  verticalScrollBar()->setValue(0);
  showAll();
}

void TimelineView::setFacts(std::shared_ptr<const MediaFacts> facts) {
  facts_ = std::move(facts);
  viewport()->update();
}

void TimelineView::setTiles(std::shared_ptr<const Sheet> sheet, std::size_t brief) {
  tiles_ = TileModel(std::move(sheet), brief);
  viewport()->update();
}

void TimelineView::setPlayhead(Frame frame, bool follow) {
  playhead_ = frame;
  const double x = xOf(frame);
  if (follow && (x > viewport()->width() - 20 || x < kHeadWidth))
    setLeft(static_cast<double>(frame) - 0.1 * bodyWidth() * framesPerPixel_);
  viewport()->update();
}

void TimelineView::setSelectedRegion(int region) {
  selectedRegion_ = region;
  viewport()->update();
}

void TimelineView::setSelectedRow(int row) {
  selectedRow_ = row;
  viewport()->update();
}

// --- geometry and zoom
// ---------------------------------------------------------------------------------------------

int TimelineView::rulerHeight() const { return (model_->tempo().empty() ? 1 : 2) * kRulerRow + 4; }
int TimelineView::lanesTop() const { return rulerHeight() + model_->regionLanes() * kRibbonRow + 6; }

Frame TimelineView::frameAt(double x) const {
  return std::max<Frame>(0, static_cast<Frame>(std::llround(left_ + (x - kHeadWidth) * framesPerPixel_)));
}

Frame TimelineView::lastFrame() const {
  const Frame end = model_->session().end();
  return end + std::max<Frame>(end / 20, model_->session().rate);
}

QRectF TimelineView::ribbonOf(std::size_t index) const {
  const Region& region = model_->session().regions[index];
  const double top = rulerHeight() + 3 + model_->regionLane(index) * kRibbonRow;
  const double x = xOf(region.start);
  return {x, top, std::max(2.0, xOf(region.end()) - x), kRibbonRow - 4.0};
}

QRectF TimelineView::tileOf(const Lane& lane, const Row& row) const {
  const double top = lanesTop() + lane.top - verticalScrollBar()->value();
  const double x = xOf(row.start);
  return {x, top + 3, xOf(row.start + row.frames) - x, lane.height - 7.0};
}

std::optional<std::size_t> TimelineView::regionAt(const QPoint& at) const {
  if (at.x() < kHeadWidth) return std::nullopt;
  std::optional<std::size_t> found;
  const auto slack = static_cast<Frame>(framesPerPixel_ * 2);
  model_->regionsIn(frameAt(at.x()) - slack, frameAt(at.x()) + slack + 1,
                    [&](const IntervalIndex::Interval& interval) {
                      if (ribbonOf(interval.item).contains(at)) found = interval.item;
                    });
  return found;
}

std::optional<std::size_t> TimelineView::rowAt(const QPoint& at) const {
  if (at.x() < kHeadWidth || at.y() < lanesTop() || tiles_.sheet() == nullptr) return std::nullopt;
  const std::size_t index = model_->laneAt(at.y() - lanesTop() + verticalScrollBar()->value());
  if (index >= model_->lanes().size()) return std::nullopt;
  std::optional<std::size_t> found;
  const Frame frame = frameAt(at.x());
  tiles_.tilesIn(model_->lanes()[index].track, frame, frame + 1,
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
  viewport()->update();
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

void TimelineView::revealTrack(int track) {
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

void TimelineView::resizeEvent(QResizeEvent*) {
  if (whole_)
    showAll();
  else
    setLeft(left_);
}

void TimelineView::scrollContentsBy(int, int) {
  left_ = horizontalScrollBar()->value() * framesPerPixel_;
  viewport()->update();
}

// --- painting
// ------------------------------------------------------------------------------------------------------

void TimelineView::paintEvent(QPaintEvent*) {
  QPainter painter(viewport());
  painter.fillRect(viewport()->rect(), colour(Role::Paper));
  paintLanes(painter);
  paintRulers(painter);
  paintRibbons(painter);
  paintHeads(painter);
  paintPlayhead(painter);
  if (model_->session().tracks.empty()) paintHint(painter);
}

void TimelineView::paintHint(QPainter& painter) {
  painter.setFont(Theme::body());
  painter.setPen(colour(Role::SecondInk));
  const QRect room =
      viewport()->rect().adjusted(kHeadWidth + 20, lanesTop() + model_->height() + 20, -20, -20);
  painter.drawText(
      room, Qt::AlignHCenter | Qt::AlignTop | Qt::TextWordWrap,
      tr("This session has no tracks yet.\nTracks, clips and regions come from the session file."));
}

void TimelineView::paintLanes(QPainter& painter) {
  painter.save();
  painter.setClipRect(QRect(0, lanesTop(), viewport()->width(), viewport()->height() - lanesTop()));
  const int scrolled = verticalScrollBar()->value();
  const int bottom = scrolled + viewport()->height();
  for (std::size_t i = model_->laneAt(scrolled);
       i < model_->lanes().size() && model_->lanes()[i].top < bottom; ++i)
    paintLane(painter, model_->lanes()[i]);
  painter.restore();
}

void TimelineView::paintLane(QPainter& painter, const Lane& lane) {
  const int top = lanesTop() + lane.top - verticalScrollBar()->value();
  const bool band = lane.track == TrackTree::kMain ||
                    model_->session().tracks[static_cast<std::size_t>(lane.track)].isGroup;
  if (band) painter.fillRect(0, top, viewport()->width(), lane.height, colour(Role::GroupBand));
  painter.setPen(colour(Role::Hairline));
  painter.drawLine(0, top + lane.height - 1, viewport()->width(), top + lane.height - 1);
  painter.save();
  painter.setClipRect(QRect(kHeadWidth, std::max(top, lanesTop()), bodyWidth(), lane.height),
                      Qt::IntersectClip);
  model_->clipsIn(lane.track, frameAt(kHeadWidth), frameAt(viewport()->width()) + 1,
                  [&](const IntervalIndex::Interval& found) {
                    paintClip(
                        painter, lane,
                        model_->session().tracks[static_cast<std::size_t>(lane.track)].clips[found.item]);
                  });
  paintTiles(painter, lane);
  painter.restore();
}

void TimelineView::paintClip(QPainter& painter, const Lane& lane, const Clip& clip) {
  const double middle = lanesTop() + lane.top - verticalScrollBar()->value() + lane.height / 2.0 - 0.5;
  const int first = std::max(kHeadWidth, static_cast<int>(std::floor(xOf(clip.start))));
  const int last = std::min(viewport()->width(), static_cast<int>(std::ceil(xOf(clip.end()))));
  const bool silent = clip.mute || model_->tree().isMuted(lane.track);
  const QColor ink =
      faded(Theme::instance().trackInk(silent ? 0 : model_->inkOf(lane.track)), silent ? 70 : 150);
  const MediumFact* fact = facts_ ? facts_->find(clip.medium) : nullptr;
  const Overview* overview = overviews_.find(clip.medium);
  if (fact != nullptr && fact->state != MediumFact::State::Ready) {
    painter.fillRect(
        QRectF(first, middle - lane.height / 2.0 + 3, std::min(4, last - first), lane.height - 7.0),
        colour(Role::Fault));
    painter.fillRect(QRectF(first, middle - 0.5, last - first, 1), colour(Role::Fault));
    return;
  }
  if (overview == nullptr || fact == nullptr || last - first < 2) {
    painter.fillRect(QRectF(first, middle - 2, std::max(1, last - first), 4), ink);
    return;
  }
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
  painter.setPen(Qt::NoPen);
  painter.setBrush(ink);
  painter.drawRects(columns.data(), static_cast<int>(columns.size()));
}

void TimelineView::paintTiles(QPainter& painter, const Lane& lane) {
  const Sheet* sheet = tiles_.sheet();
  if (sheet == nullptr) return;
  // What is narrower than 3 px is merged with its neighbours into one bar.
  double barFrom = 0;
  double barTo = -1;
  RowState barState = RowState::UpToDate;
  const double top = lanesTop() + lane.top - verticalScrollBar()->value() + 3;
  const auto finishBar = [&] {
    if (barTo >= barFrom)
      painter.fillRect(QRectF(barFrom, top + lane.height - 11, std::max(1.0, barTo - barFrom), 4),
                       stateColour(barState));
    barTo = -1;
    barState = RowState::UpToDate;
  };
  tiles_.tilesIn(lane.track, frameAt(kHeadWidth), frameAt(viewport()->width()) + 1,
                 [&](const IntervalIndex::Interval& found) {
                   const Row& row = sheet->rows[found.item];
                   const QRectF box = tileOf(lane, row);
                   if (box.width() < 3) {
                     if (barTo < 0 || box.left() > barTo + 1) finishBar();
                     if (barTo < 0) barFrom = box.left();
                     barTo = std::max(barTo, box.right());
                     barState = weightier(barState, row.state);
                     return;
                   }
                   const QRectF snapped(std::round(box.left()) + 0.5, box.top() + 0.5,
                                        std::max(2.0, std::round(box.width()) - 1), box.height() - 1);
                   if (static_cast<int>(found.item) == selectedRow_)
                     painter.fillRect(snapped, faded(colour(Role::Accent), 45));
                   drawTile(painter, snapped, row.state);
                 });
  finishBar();
}

void TimelineView::paintRulers(QPainter& painter) {
  painter.fillRect(0, 0, viewport()->width(), lanesTop(), colour(Role::Paper));
  painter.setFont(Theme::caption());
  painter.save();
  painter.setClipRect(kHeadWidth, 0, bodyWidth(), lanesTop());
  int top = 2;
  if (!model_->tempo().empty()) {
    paintBars(painter, top);
    top += kRulerRow;
  }
  paintTimes(painter, top);
  painter.restore();
  painter.setPen(colour(Role::Hairline));
  painter.drawLine(0, rulerHeight(), viewport()->width(), rulerHeight());
  painter.drawLine(0, lanesTop() - 1, viewport()->width(), lanesTop() - 1);
}

void TimelineView::paintBars(QPainter& painter, int top) {
  const TempoMap& tempo = model_->tempo();
  const long first = std::max(1L, tempo.positionAt(frameAt(kHeadWidth)).bar);
  const double width = (xOf(tempo.frameOfBar(first + 1)) - xOf(tempo.frameOfBar(first)));
  const long step = std::max(1L, static_cast<long>(niceStep(46 / std::max(width, 1e-6))));
  for (long bar = (first - 1) / step * step + 1;; bar += step) {
    const double x = xOf(tempo.frameOfBar(bar));
    if (x > viewport()->width()) break;
    painter.setPen(colour(Role::Hairline));
    painter.drawLine(QPointF(x, top), QPointF(x, top + kRulerRow));
    painter.setPen(colour(Role::SecondInk));
    painter.drawText(QRectF(x + 4, top, 80, kRulerRow), Qt::AlignVCenter, QString::number(bar));
  }
}

void TimelineView::paintTimes(QPainter& painter, int top) {
  const double rate = model_->session().rate;
  const double step = timeStep(58 * framesPerPixel_ / rate);
  for (double at = std::floor(left_ / rate / step) * step;; at += step) {
    const double x = kHeadWidth + (at * rate - left_) / framesPerPixel_;
    if (x > viewport()->width()) break;
    painter.setPen(colour(Role::Hairline));
    painter.drawLine(QPointF(x, top), QPointF(x, top + kRulerRow));
    painter.setPen(colour(Role::SecondInk));
    painter.drawText(QRectF(x + 4, top, 80, kRulerRow), Qt::AlignVCenter, timeLabel(at, step));
  }
}

void TimelineView::paintRibbons(QPainter& painter) {
  painter.save();
  painter.setClipRect(kHeadWidth, rulerHeight() + 1, bodyWidth(), lanesTop() - rulerHeight() - 2);
  std::vector<std::size_t> visible;
  model_->regionsIn(frameAt(kHeadWidth), frameAt(viewport()->width()) + 1,
                    [&](const IntervalIndex::Interval& found) { visible.push_back(found.item); });
  double lastX[TimelineModel::kMostRegionLanes] = {-10, -10, -10};
  for (const std::size_t region : visible) {
    // Many regions on one pixel are one line.
    const QRectF box = ribbonOf(region);
    double& last = lastX[model_->regionLane(region)];
    if (box.right() < last + 1 && static_cast<int>(region) != selectedRegion_) continue;
    last = box.right();
    paintRibbon(painter, region);
  }
  if (selectedRegion_ >= 0) paintRibbon(painter, static_cast<std::size_t>(selectedRegion_));
  painter.restore();
}

void TimelineView::paintRibbon(QPainter& painter, std::size_t index) {
  const Region& region = model_->session().regions[index];
  const QRectF box = ribbonOf(index);
  const bool selected = static_cast<int>(index) == selectedRegion_;
  const QColor ink = Theme::instance().trackInk(region.ink);
  if (box.width() < 4 && !selected) return painter.fillRect(box, faded(ink, 110));
  painter.fillRect(box, colour(Role::Sheet));
  painter.fillRect(box, faded(ink, selected ? 110 : 45));
  painter.fillRect(QRectF(box.left(), box.top(), 2, box.height()), selected ? colour(Role::Accent) : ink);
  if (selected) {
    painter.setPen(colour(Role::Accent));
    painter.setBrush(Qt::NoBrush);
    painter.drawRect(box.adjusted(0.5, 0.5, -0.5, -0.5));
  }
  painter.setFont(Theme::caption());
  painter.setPen(colour(Role::Ink));
  const QRectF room = box.intersected(QRectF(kHeadWidth, 0, bodyWidth(), lanesTop())).adjusted(5, 0, -1, 0);
  if (room.width() < 14) return;
  const QFontMetrics metrics(painter.font());
  const int width = static_cast<int>(room.width());
  QString name = text(region.name);
  // The whole path, its last part, the number at its end, the beginning of the last part: what fits.
  if (metrics.horizontalAdvance(name) >= width) name = text(lastPart(region.name));
  const QString number = name.mid(name.lastIndexOf(' ') + 1);
  const bool isNumber =
      !number.isEmpty() && std::all_of(number.begin(), number.end(), [](QChar c) { return c.isDigit(); });
  if (metrics.horizontalAdvance(name) >= width && isNumber) name = number;
  if (metrics.horizontalAdvance(name) > width && width < 26) return;
  painter.drawText(room, Qt::AlignVCenter, metrics.elidedText(name, Qt::ElideRight, width));
}

void TimelineView::paintHeads(QPainter& painter) {
  painter.save();
  painter.fillRect(0, 0, kHeadWidth, viewport()->height(), colour(Role::Paper));
  painter.setFont(Theme::caption());
  painter.setPen(colour(Role::SecondInk));
  int top = 2;
  if (!model_->tempo().empty()) {
    painter.drawText(QRect(12, top, kHeadWidth - 20, kRulerRow), Qt::AlignVCenter, tr("bars"));
    top += kRulerRow;
  }
  painter.drawText(QRect(12, top, kHeadWidth - 20, kRulerRow), Qt::AlignVCenter, tr("time"));
  painter.drawText(QRect(12, rulerHeight() + 3, kHeadWidth - 20, kRibbonRow - 4), Qt::AlignVCenter,
                   tr("regions"));
  painter.setClipRect(0, lanesTop(), kHeadWidth, viewport()->height() - lanesTop());
  const int scrolled = verticalScrollBar()->value();
  const int bottom = scrolled + viewport()->height();
  for (std::size_t i = model_->laneAt(scrolled);
       i < model_->lanes().size() && model_->lanes()[i].top < bottom; ++i)
    paintHead(painter, model_->lanes()[i]);
  painter.setClipping(false);
  painter.setPen(colour(Role::Hairline));
  painter.drawLine(kHeadWidth - 1, 0, kHeadWidth - 1, viewport()->height());
  painter.restore();
}

void TimelineView::paintHead(QPainter& painter, const Lane& lane) {
  const int top = lanesTop() + lane.top - verticalScrollBar()->value();
  const bool isMain = lane.track == TrackTree::kMain;
  const Session& session = model_->session();
  const Track* track = isMain ? nullptr : &session.tracks[static_cast<std::size_t>(lane.track)];
  const bool strong = isMain || track->isGroup;
  if (strong) painter.fillRect(0, top, kHeadWidth, lane.height, colour(Role::GroupBand));
  painter.setPen(colour(Role::Hairline));
  painter.drawLine(0, top + lane.height - 1, kHeadWidth, top + lane.height - 1);
  const int indent = 12 + std::min(lane.depth, 5) * 10;
  if (track != nullptr)
    painter.fillRect(indent - 7, top + 8, 3, lane.height - 17,
                     Theme::instance().trackInk(model_->inkOf(lane.track)));
  const double gain = isMain ? session.main.gainDb : track->gainDb;
  const bool muted = track != nullptr && model_->tree().isMuted(lane.track);
  const QString level = muted ? tr("mute") : text(decibelText(gain));
  painter.setFont(Theme::caption());
  painter.setPen(colour(Role::SecondInk));
  const int levelWidth = 40;
  painter.drawText(QRect(kHeadWidth - levelWidth - 8, top, levelWidth, lane.height - 1),
                   Qt::AlignVCenter | Qt::AlignRight, level);
  painter.setFont(strong ? Theme::strong() : Theme::body());
  painter.setPen(colour(muted ? Role::SecondInk : Role::Ink));
  const int room = kHeadWidth - levelWidth - 12 - indent;
  const QString name = isMain ? tr("Main") : text(track->name);
  painter.drawText(QRect(indent, top, room, lane.height - 1), Qt::AlignVCenter,
                   QFontMetrics(painter.font()).elidedText(name, Qt::ElideRight, room));
}

void TimelineView::paintPlayhead(QPainter& painter) {
  const double x = std::round(xOf(playhead_)) + 0.5;
  if (x < kHeadWidth) return;
  painter.setPen(colour(Role::Ink));
  painter.drawLine(QPointF(x, 0), QPointF(x, viewport()->height()));
}

// --- mouse and keyboard
// --------------------------------------------------------------------------------------------

void TimelineView::wheelEvent(QWheelEvent* event) {
  const QPoint turned = event->angleDelta();
  if (event->modifiers() & Qt::ControlModifier) {
    setZoom(framesPerPixel_ * std::pow(1.0015, -turned.y()),
            std::max<double>(kHeadWidth, event->position().x()));
  } else if ((event->modifiers() & Qt::ShiftModifier) || turned.x() != 0) {
    const int by = turned.x() != 0 ? turned.x() : turned.y();
    setLeft(left_ - by * framesPerPixel_);
  } else {
    verticalScrollBar()->setValue(verticalScrollBar()->value() - turned.y() / 2);
  }
  event->accept();
}

void TimelineView::mousePressEvent(QMouseEvent* event) {
  if (event->button() != Qt::LeftButton || event->pos().x() < kHeadWidth) return;
  if (const auto region = regionAt(event->pos()))
    emit regionChosen(static_cast<int>(*region));
  else if (const auto row = rowAt(event->pos()))
    emit rowChosen(static_cast<int>(*row));
  else
    emit playheadMoved(frameAt(event->pos().x()));
}

void TimelineView::mouseMoveEvent(QMouseEvent* event) {
  const bool onRuler = event->pos().y() < rulerHeight() && event->pos().x() >= kHeadWidth;
  if (onRuler && (event->buttons() & Qt::LeftButton)) emit playheadMoved(frameAt(event->pos().x()));
}

void TimelineView::mouseDoubleClickEvent(QMouseEvent* event) {
  if (const auto region = regionAt(event->pos())) {
    const Region& r = model_->session().regions[*region];
    showSpan(r.start, r.end());
  }
}

void TimelineView::contextMenuEvent(QContextMenuEvent* event) {
  if (const auto region = regionAt(event->pos()))
    emit regionMenu(static_cast<int>(*region), event->globalPos());
}

void TimelineView::keyPressEvent(QKeyEvent* event) {
  switch (event->key()) {
    case Qt::Key_Left: return setLeft(left_ - 40 * framesPerPixel_);
    case Qt::Key_Right: return setLeft(left_ + 40 * framesPerPixel_);
    case Qt::Key_PageUp: return setLeft(left_ - bodyWidth() * framesPerPixel_);
    case Qt::Key_PageDown: return setLeft(left_ + bodyWidth() * framesPerPixel_);
    case Qt::Key_Home: return emit playheadMoved(0);
    case Qt::Key_End: return emit playheadMoved(model_->session().end());
    default: QAbstractScrollArea::keyPressEvent(event);
  }
}

bool TimelineView::viewportEvent(QEvent* event) {
  if (event->type() == QEvent::ToolTip) {
    const auto* help = static_cast<QHelpEvent*>(event);
    QString tip;
    if (const auto region = regionAt(help->pos())) {
      const Region& r = model_->session().regions[*region];
      tip = text(r.name) + "\n" + text(timeText(r.length, model_->session().rate));
    } else if (const auto row = rowAt(help->pos())) {
      const Row& r = tiles_.sheet()->rows[*row];
      tip = text(r.file) + "\n" + text(rowStateText(r.state));
    }
    QToolTip::showText(help->globalPos(), tip, this);
    return true;
  }
  return QAbstractScrollArea::viewportEvent(event);
}

}  // namespace octaphon::app
