#include "timeline_view.h"

#include <algorithm>
#include <cmath>
#include <QDragEnterEvent>
#include <QHelpEvent>
#include <QMimeData>
#include <QMouseEvent>
#include <QPainter>
#include <QScrollBar>
#include <QToolTip>
#include <QUrl>

#include "base/decibels.h"
#include "base/unicode.h"
#include "curve_hand.h"
#include "naming/file_name.h"
#include "signal/fades.h"
#include "state_mark.h"
#include "text.h"
#include "theme.h"
#include "timeline_drawing.h"
#include "timeline_hand.h"

namespace octaphon::app {

TimelineView::TimelineView(Document& document, Selected& selected, OverviewStore& overviews, QWidget* parent)
    : QAbstractScrollArea(parent), selected_(selected), overviews_(overviews) {
  setFrameShape(QFrame::NoFrame);
  setObjectName("timeline");
  setAccessibleName(tr("Timeline"));
  setAccessibleDescription(tr("Regions and tracks against time; tiles are the files of the selected brief"));
  setFocusPolicy(Qt::StrongFocus);
  setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOn);
  setAcceptDrops(true);
  viewport()->setMouseTracking(true);
  viewport()->setAccessibleName(tr("Timeline"));
  hand_ = std::make_unique<TimelineHand>(*this, document, selected);
  curve_ = std::make_unique<CurveHand>(*this, document);
  connect(&overviews_, &OverviewStore::changed, viewport(), qOverload<>(&QWidget::update));
  connect(&Theme::instance(), &Theme::changed, viewport(), qOverload<>(&QWidget::update));
  connect(&selected_, &Selected::changed, this, &TimelineView::followSelection);
  setSession(std::make_shared<Session>());
}

TimelineView::~TimelineView() = default;

void TimelineView::setSession(std::shared_ptr<const Session> session) {
  tiles_ = {};
  proposals_.clear();
  selectedRow_ = -1;
  playhead_ = 0;
  rebuild(std::move(session));
  verticalScrollBar()->setValue(0);
  showAll();
}

void TimelineView::updateSession(std::shared_ptr<const Session> session) {
  rebuild(std::move(session));
  if (whole_)
    showAll();
  else
    setLeft(left_);
}

void TimelineView::rebuild(std::shared_ptr<const Session> session) {
  hand_->cancel();
  const std::vector<char> shown = onlySounding_ ? soundingTracks(*session) : std::vector<char>();
  model_ = std::make_unique<TimelineModel>(std::move(session), shown);
  updateScrollBars();
  viewport()->update();
}

/// Which tracks have a clip in the time of the selection, or in what is seen.
std::vector<char> TimelineView::soundingTracks(const Session& session) const {
  std::vector<TimeSpan> spans;
  if (selected_.range()) spans.push_back(*selected_.range());
  for (const Region& region : session.regions)
    if (selected_.regions().contains(region.id)) spans.push_back({region.start, region.length});
  if (spans.empty())
    spans.push_back({frameAt(kHeadWidth), static_cast<Frame>(bodyWidth() * framesPerPixel_)});
  std::vector<char> shown(session.tracks.size(), 0);
  for (std::size_t t = 0; t < session.tracks.size(); ++t)
    for (const Clip& clip : session.tracks[t].clips)
      for (const TimeSpan& span : spans)
        if (!clip.mute && clip.start < span.end() && clip.end() > span.start) shown[t] = 1;
  return shown;
}

void TimelineView::followSelection() {
  if (onlySounding_) rebuild(std::make_shared<Session>(model_->session()));
  viewport()->update();
}

void TimelineView::setOnlySounding(bool on) {
  onlySounding_ = on;
  rebuild(std::make_shared<Session>(model_->session()));
}

void TimelineView::setTimecode(bool on) {
  timecode_ = on;
  viewport()->update();
}

void TimelineView::setProposals(std::vector<SpanProposal> proposals) {
  proposals_ = std::move(proposals);
  viewport()->update();
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

void TimelineView::setSelectedRow(int row) {
  selectedRow_ = row;
  viewport()->update();
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
  paintClipSets(painter);
  paintRulers(painter);
  paintRibbons(painter);
  paintMarkers(painter);
  paintRange(painter);
  paintProposals(painter);
  curve_->paint(painter);
  paintHeads(painter);
  paintGhost(painter);
  paintPlayhead(painter);
  if (model_->session().tracks.empty()) paintHint(painter);
}

void TimelineView::paintHint(QPainter& painter) {
  painter.setFont(Theme::body());
  painter.setPen(colour(Role::SecondInk));
  const QRect room =
      viewport()->rect().adjusted(kHeadWidth + 20, lanesTop() + model_->height() + 20, -20, -20);
  painter.drawText(room, Qt::AlignHCenter | Qt::AlignTop | Qt::TextWordWrap,
                   tr("This session has no tracks yet.\nDrop audio files or a folder here, or choose Session "
                      "› Bring in files."));
}

void TimelineView::paintLanes(QPainter& painter) {
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
  model_->clipsIn(lane.track, frameAt(kHeadWidth), frameAt(viewport()->width()) + 1,
                  [&](const IntervalIndex::Interval& found) {
                    paintClip(painter, lane, model_->session().tracks[lane.track.track()].clips[found.item]);
                  });
  paintTiles(painter, lane);
  painter.restore();
}

void TimelineView::paintClip(QPainter& painter, const Lane& lane, const Clip& clip) {
  const double middle = laneY(lane) + lane.height / 2.0 - 0.5;
  const int first = std::max(kHeadWidth, static_cast<int>(std::floor(xOf(clip.start))));
  const int last = std::min(viewport()->width(), static_cast<int>(std::ceil(xOf(clip.end()))));
  const bool silent = clip.mute || model_->tree().isMuted(lane.track) || model_->tree().isHelper(lane.track);
  const int inkNumber = clip.ink > 0 ? clip.ink : model_->inkOf(lane.track);
  const QColor plain = Theme::instance().trackInk(silent ? 0 : inkNumber);
  const QColor ink = faded(plain, silent ? 70 : 150);
  const QRectF box(first, laneY(lane) + 2, last - first, lane.height - 5.0);
  const bool selected = selected_.clips().contains(clip.id);
  if (selected)
    painter.fillRect(box, faded(colour(Role::Accent), 40));
  else if (box.width() > 3)
    painter.fillRect(box, faded(plain, 16));
  const MediumFact* fact = facts_ ? facts_->find(clip.medium) : nullptr;
  const bool lost = fact != nullptr && fact->state != MediumFact::State::Ready;
  if (lost) {
    painter.fillRect(QRectF(first, box.top() + 1, std::min(4, last - first), box.height() - 2),
                     colour(Role::Fault));
    painter.fillRect(QRectF(first, middle - 0.5, last - first, 1), colour(Role::Fault));
  } else if (overviews_.find(clip.medium) == nullptr || fact == nullptr || last - first < 2) {
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
  const Overview* overview = overviews_.find(clip.medium);
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
  // What is narrower than 3 px is merged with its neighbours into one bar.
  double barFrom = 0;
  double barTo = -1;
  RowState barState = RowState::UpToDate;
  const double top = laneY(lane) + 3;
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
  painter.drawText(QRect(12, top, kHeadWidth - 20, kRulerRow), Qt::AlignVCenter,
                   timecode_ ? tr("timecode") : tr("time"));
  painter.drawText(QRect(12, rulerHeight() + 3, kHeadWidth - 20, kRibbonRow - 4), Qt::AlignVCenter,
                   tr("regions"));
  if (model_->hasMarkers())
    painter.drawText(QRect(12, markersTop(), kHeadWidth - 20, kMarkerRow), Qt::AlignVCenter, tr("markers"));
  painter.setClipRect(0, lanesTop(), kHeadWidth, viewport()->height() - lanesTop());
  const int scrolled = verticalScrollBar()->value();
  const int bottom = scrolled + viewport()->height();
  for (std::size_t i = model_->laneAt(scrolled);
       i < model_->lanes().size() && model_->lanes()[i].top < bottom; ++i)
    paintHead(painter, model_->lanes()[i]);
  painter.setClipRect(0, pinnedTop(), kHeadWidth, model_->pinnedHeight());
  for (const Lane& lane : model_->pinned()) paintHead(painter, lane);
  painter.setClipping(false);
  if (model_->pinnedHeight() > 0) {
    painter.setPen(colour(Role::Frame));
    painter.drawLine(0, lanesTop() - 1, viewport()->width(), lanesTop() - 1);
    painter.setPen(colour(Role::SecondInk));
  }
  painter.setPen(colour(Role::Hairline));
  painter.drawLine(kHeadWidth - 1, 0, kHeadWidth - 1, viewport()->height());
  painter.restore();
}

void TimelineView::paintHead(QPainter& painter, const Lane& lane) {
  const int top = laneY(lane);
  const bool isMain = lane.track == Strip::main();
  const Session& session = model_->session();
  const Track* track = isMain ? nullptr : &session.tracks[lane.track.track()];
  const bool strong = isMain || track->isGroup();
  if (strong) painter.fillRect(0, top, kHeadWidth, lane.height, colour(Role::GroupBand));
  const bool chosen = track != nullptr && selected_.tracks().contains(track->id);
  if (chosen) painter.fillRect(0, top, kHeadWidth, lane.height, colour(Role::Selection));
  painter.setPen(colour(Role::Hairline));
  painter.drawLine(0, top + lane.height - 1, kHeadWidth, top + lane.height - 1);
  const int indent = 12 + std::min(lane.depth, 5) * 10;
  if (track != nullptr)
    painter.fillRect(indent - 7, top + 8, 3, lane.height - 17,
                     Theme::instance().trackInk(model_->inkOf(lane.track)));
  const double gain = isMain ? session.main.gainDb : track->gainDb;
  const bool muted = track != nullptr && model_->tree().isMuted(lane.track);
  const bool helper = track != nullptr && model_->tree().isHelper(lane.track);
  const QString level = helper ? tr("helper") : muted ? tr("mute") : text(decibelText(gain));
  painter.setFont(Theme::caption());
  painter.setPen(colour(Role::SecondInk));
  const int levelWidth = 40;
  painter.drawText(QRect(kHeadWidth - levelWidth - 8, top, levelWidth, lane.height - 1),
                   Qt::AlignVCenter | Qt::AlignRight, level);
  const int marks = paintSignalMarks(painter, lane, kHeadWidth - levelWidth - 10);
  painter.setFont(strong ? Theme::strong() : Theme::body());
  painter.setPen(colour(muted ? Role::SecondInk : Role::Ink));
  const int room = kHeadWidth - levelWidth - 12 - indent - marks;
  const QString name = isMain ? tr("Main") : text(track->name);
  painter.drawText(QRect(indent, top, room, lane.height - 1), Qt::AlignVCenter,
                   QFontMetrics(painter.font()).elidedText(name, Qt::ElideRight, room));
}

/// What a strip has, in small: a square for inserts, an arrow for sends, a wave for curves. Gives the width
/// it took.
int TimelineView::paintSignalMarks(QPainter& painter, const Lane& lane, int right) {
  const Session& session = model_->session();
  const bool isMain = lane.track == Strip::main();
  const Track* track = isMain ? nullptr : &session.tracks[lane.track.track()];
  const double y = laneY(lane) + lane.height / 2.0;
  double x = right;
  painter.save();
  painter.setRenderHint(QPainter::Antialiasing);
  painter.setPen(QPen(colour(Role::SecondInk), 1));
  if (!(isMain ? session.main.automation : track->automation).empty()) {
    x -= 11;
    painter.drawPolyline(QPolygonF{{x, y + 3}, {x + 3, y - 3}, {x + 6, y + 2}, {x + 9, y - 3}});
  }
  if (track != nullptr && !track->sends.empty()) {
    x -= 11;
    painter.drawPolyline(QPolygonF{{x, y - 3}, {x, y + 2}, {x + 8, y + 2}});
    painter.drawPolyline(QPolygonF{{x + 5, y - 1}, {x + 8, y + 2}, {x + 5, y + 5}});
  }
  if (!(isMain ? session.main.inserts : track->inserts).empty()) {
    x -= 10;
    painter.drawRect(QRectF(x, y - 3.5, 7, 7));
  }
  painter.restore();
  return static_cast<int>(right - x);
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
  if (event->button() == Qt::LeftButton && !curve_->press(*event)) hand_->press(*event);
}

void TimelineView::mouseMoveEvent(QMouseEvent* event) {
  if (curve_->move(*event)) return;
  hand_->move(*event);
  if (event->buttons() != Qt::NoButton) return;
  using Part = TimelineHit::Part;
  const TimelineHit hit = hitAt(event->pos());
  const bool isEdge = hit.part == Part::Start || hit.part == Part::End;
  const bool isFade = hit.part == Part::FadeIn || hit.part == Part::FadeOut;
  viewport()->setCursor(isEdge ? Qt::SizeHorCursor : isFade ? Qt::CrossCursor : Qt::ArrowCursor);
}

void TimelineView::mouseReleaseEvent(QMouseEvent* event) {
  if (event->button() == Qt::LeftButton && !curve_->release()) hand_->release();
}

void TimelineView::mouseDoubleClickEvent(QMouseEvent* event) {
  const TimelineHit hit = hitAt(event->pos());
  if (hit.what == TimelineHit::What::Region) emit regionActivated(static_cast<int>(hit.index));
}

void TimelineView::contextMenuEvent(QContextMenuEvent* event) {
  const TimelineHit hit = hitAt(event->pos());
  hand_->selectFor(hit);
  emit menuWanted(hit, event->globalPos());
}

void TimelineView::keyPressEvent(QKeyEvent* event) {
  if (hand_->key(*event)) return;
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

void TimelineView::dragEnterEvent(QDragEnterEvent* event) {
  if (event->mimeData()->hasUrls()) event->acceptProposedAction();
}
void TimelineView::dragMoveEvent(QDragMoveEvent* event) { event->acceptProposedAction(); }

void TimelineView::dropEvent(QDropEvent* event) {
  QStringList files;
  for (const QUrl& url : event->mimeData()->urls())
    if (url.isLocalFile()) files << url.toLocalFile();
  event->acceptProposedAction();
  const Frame at =
      event->position().x() < kHeadWidth ? 0 : hand_->snapped(frameAt(event->position().x()), false);
  if (!files.isEmpty()) emit filesDropped(files, at);
}

bool TimelineView::viewportEvent(QEvent* event) {
  if (event->type() == QEvent::ToolTip) {
    const auto* help = static_cast<QHelpEvent*>(event);
    QString tip;
    const TimelineHit hit = hitAt(help->pos());
    const int rate = model_->session().rate;
    if (hit.what == TimelineHit::What::Region) {
      const Region& r = model_->session().regions[hit.index];
      tip = text(r.name) + "\n" + text(timeText(r.length, rate)) +
            (r.notes.empty() ? QString() : "\n" + text(r.notes));
    } else if (hit.what == TimelineHit::What::Marker) {
      const Marker& m = model_->marker(hit.index);
      tip = text(m.name) + "\n" + text(model_->setOfMarker(hit.index).name) + ", " +
            text(timeText(m.at, rate)) + (m.notes.empty() ? QString() : "\n" + text(m.notes));
    } else if (hit.what == TimelineHit::What::ClipSet) {
      const ClipSet& set = model_->session().clipSets[hit.index];
      tip = text(set.name) + "\n" + text(counted(model_->membersOf(hit.index).size(), "clip")) +
            (set.notes.empty() ? QString() : "\n" + text(set.notes));
    } else if (const auto row = rowAt(help->pos())) {
      const Row& r = tiles_.sheet()->rows[*row];
      tip = text(r.file) + "\n" + text(rowStateText(r.state));
    } else if (hit.what == TimelineHit::What::Clip) {
      const Clip& clip = model_->clipAt({hit.track, hit.index});
      tip = (clip.name.empty() ? QString() : text(clip.name) + "\n") + text(timeText(clip.length, rate)) +
            (clip.notes.empty() ? QString() : "\n" + text(clip.notes));
    } else if (hit.what == TimelineHit::What::Head) {
      const Track& track = model_->session().tracks[hit.track.track()];
      tip = text(track.name) + (track.notes.empty() ? QString() : "\n" + text(track.notes));
    }
    QToolTip::showText(help->globalPos(), tip, this);
    return true;
  }
  return QAbstractScrollArea::viewportEvent(event);
}

}  // namespace octaphon::app
