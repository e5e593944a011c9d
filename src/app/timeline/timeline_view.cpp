#include "app/timeline/timeline_view.h"

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

#include "app/look/state_mark.h"
#include "app/look/theme.h"
#include "app/timeline/curve_gestures.h"
#include "app/timeline/timeline_drawing.h"
#include "app/timeline/timeline_gestures.h"
#include "app/work/text.h"
#include "base/decibels.h"
#include "base/unicode.h"
#include "naming/file_name.h"
#include "signal/fades.h"

namespace octaphon::app {
namespace {

/// What makes sense for the thing under the mouse.
QStringList menuOf(TimelineHit::What what) {
  using What = TimelineHit::What;
  switch (what) {
    case What::Region:
      return {"mark.name", "brief.print-this", "",          "edit.split",
              "mark.join", "mark.fix",         "edit.lock", "edit.delete"};
    case What::Clip:
      return {"mark.name",     "brief.print-this", "", "edit.split",   "edit.duplicate", "edit.mute",
              "edit.lock",     "edit.delete",      "", "mark.region",  "mark.islands",   "mark.clip-set",
              "mark.into-set", "mark.out-of-set",  "", "media.replace"};
    case What::ClipSet:
      return {"mark.name", "brief.print-this", "", "mark.split-up", "edit.mute", "edit.lock", "edit.delete"};
    case What::Marker: return {"mark.sort-markers", "edit.lock", "edit.delete"};
    case What::Head:
      return {"mark.name",      "brief.print-this", "",           "track.new",    "track.nest",
              "track.take-out", "edit.duplicate",   "track.link", "track.unlink", "edit.mute",
              "edit.lock",      "edit.delete"};
    default:
      return {"brief.print-this", "", "mark.region", "mark.islands",
              "mark.marker",      "", "track.new",   "track.new-group",
              "track.new-return"};
  }
}

}  // namespace

TimelineView::TimelineView(Work& work, Commands& commands, QWidget* parent)
    : QAbstractScrollArea(parent), work_(work), commands_(commands), selected_(work.selected()) {
  setFrameShape(QFrame::NoFrame);
  setObjectName("timeline");
  setAccessibleName(tr("Timeline"));
  setAccessibleDescription(tr("Regions and tracks against time; tiles are the files of the selected brief"));
  setFocusPolicy(Qt::StrongFocus);
  setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOn);
  setAcceptDrops(true);
  viewport()->setMouseTracking(true);
  viewport()->setAccessibleName(tr("Timeline"));
  commands_.listenIn(this, {"edit.delete", "mark.name"});
  gestures_ = std::make_unique<TimelineGestures>(*this, work.document(), selected_);
  curve_ = std::make_unique<CurveGestures>(*this, work.document());
  connectWork();
  setSession(work.session());
}

TimelineView::~TimelineView() = default;

void TimelineView::connectWork() {
  const auto redraw = qOverload<>(&QWidget::update);
  connect(&work_.overviews(), &OverviewStore::changed, viewport(), redraw);
  connect(&Theme::instance(), &Theme::changed, viewport(), redraw);
  connect(&selected_, &Selected::changed, this, &TimelineView::followSelection);
  connect(&work_.document(), &Document::opened, this, [this] { setSession(work_.session()); });
  connect(&work_.document(), &Document::changed, this, [this](unsigned parts) {
    if ((parts & ~static_cast<unsigned>(kBriefs)) == 0) return;
    updateSession(work_.session());
    showTiles();
  });
  connect(&work_.sheets(), &SheetKeeper::sheetChanged, this, &TimelineView::showTiles);
  connect(&work_.briefs(), &BriefChoice::changed, this, &TimelineView::showTiles);
  connect(&work_.rows(), &RowChoice::changed, this, &TimelineView::showTiles);
  connect(&work_.sheets(), &SheetKeeper::factsChanged, this, [this] {
    facts_ = work_.sheets().facts();
    viewport()->update();
  });
  connect(&work_.transport(), &Transport::positionChanged, this, &TimelineView::setPlayhead);
  connect(&work_.places(), &Places::spanWanted, this, &TimelineView::reveal);
  connect(&work_.places(), &Places::zoomWanted, this, &TimelineView::showSpan);
  connect(&work_.places(), &Places::trackWanted, this, [this](const std::string& id) {
    if (const auto track = model_->tree().find(id)) revealTrack(*track);
  });
  connect(&work_.drawn(), &Drawn::proposalsChanged, viewport(), redraw);
  connect(&work_.drawn(), &Drawn::timecodeChanged, viewport(), redraw);
  connect(&work_.drawn(), &Drawn::curveChanged, this, [this] {
    const Drawn& drawn = work_.drawn();
    curve_->show(drawn.curvePlace(), drawn.curveTarget());
    if (const auto track = model_->tree().find(drawn.curvePlace()); track && curve_->isShown())
      revealTrack(*track);
  });
}

void TimelineView::setSession(std::shared_ptr<const Session> session) {
  playhead_ = 0;
  rebuild(std::move(session));
  verticalScrollBar()->setValue(0);
  showAll();
  showTiles();
}

void TimelineView::updateSession(std::shared_ptr<const Session> session) {
  rebuild(std::move(session));
  if (whole_)
    showAll();
  else
    setLeft(left_);
}

/// What is dragged is told by its place: a new arrangement ends the drag.
void TimelineView::rebuild(std::shared_ptr<const Session> session) {
  gestures_->cancel();
  staleLanes_ = false;
  const std::vector<char> shown = onlySounding_ ? soundingTracks(*session) : std::vector<char>();
  model_ = std::make_unique<TimelineModel>(std::move(session), shown);
  updateScrollBars();
  viewport()->update();
}

/// The rows of the brief that is looked at, where it is ticked.
void TimelineView::showTiles() {
  const auto sheet = work_.sheets().sheet();
  std::size_t brief = 0;
  while (brief < sheet->briefs.size() && sheet->briefs[brief].brief.id != work_.briefs().currentId()) ++brief;
  if (tiles_.sheet() != sheet.get() || tiles_.brief() != brief) tiles_ = TileModel(sheet, brief);
  const auto current = work_.rows().currentRow();
  selectedRows_ = {work_.rows().rows().begin(), work_.rows().rows().end()};
  if (current) selectedRows_.insert(*current);
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
  if (onlySounding_ && gestures_->isPressed())
    staleLanes_ = true;
  else if (onlySounding_)
    rebuild(work_.session());
  viewport()->update();
}

/// The mouse has let go, or what it did was dropped.
void TimelineView::endGesture() {
  if (std::exchange(staleLanes_, false)) rebuild(work_.session());
  viewport()->update();
}

void TimelineView::setOnlySounding(bool on) {
  onlySounding_ = on;
  rebuild(work_.session());
}

void TimelineView::setPlayhead(Frame frame) {
  playhead_ = frame;
  const double x = xOf(frame);
  const bool follow = follows_ && work_.transport().isPlaying();
  if (follow && (x > viewport()->width() - 20 || x < kHeadWidth))
    setLeft(static_cast<double>(frame) - 0.1 * bodyWidth() * framesPerPixel_);
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
                   if (selectedRows_.contains(found.item))
                     painter.fillRect(snapped, faded(colour(Role::Accent), 45));
                   const QRectF body = bodyOf(snapped, row);
                   drawTile(painter, body, row.state);
                   drawTileEnds(painter, snapped, body, row.isMeasured && sheet->spanOf(row).ringsOut,
                                row.state);
                   if (row.exception) drawOwnMark(painter, snapped);
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
                   work_.drawn().isTimecode() ? tr("timecode") : tr("time"));
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
  if (event->button() == Qt::LeftButton && !curve_->press(*event)) gestures_->press(*event);
}

void TimelineView::mouseMoveEvent(QMouseEvent* event) {
  if (curve_->move(*event)) return;
  gestures_->move(*event);
  if (event->buttons() != Qt::NoButton) return;
  using Part = TimelineHit::Part;
  const TimelineHit hit = hitAt(event->pos());
  const bool isEdge = hit.part == Part::Start || hit.part == Part::End;
  const bool isFade = hit.part == Part::FadeIn || hit.part == Part::FadeOut;
  viewport()->setCursor(isEdge ? Qt::SizeHorCursor : isFade ? Qt::CrossCursor : Qt::ArrowCursor);
}

void TimelineView::mouseReleaseEvent(QMouseEvent* event) {
  if (event->button() == Qt::LeftButton && !curve_->release()) gestures_->release();
}

void TimelineView::mouseDoubleClickEvent(QMouseEvent* event) {
  const TimelineHit hit = hitAt(event->pos());
  if (hit.what != TimelineHit::What::Region) return;
  work_.places().go(Thing::Region, hit.id);
  work_.places().zoomToRegion();
}

void TimelineView::contextMenuEvent(QContextMenuEvent* event) {
  const TimelineHit hit = hitAt(event->pos());
  gestures_->selectFor(hit);
  QMenu menu(this);
  commands_.fill(menu, menuOf(hit.what));
  menu.exec(event->globalPos());
}

void TimelineView::keyPressEvent(QKeyEvent* event) {
  if (gestures_->key(*event)) return;
  switch (event->key()) {
    case Qt::Key_Left: return setLeft(left_ - 40 * framesPerPixel_);
    case Qt::Key_Right: return setLeft(left_ + 40 * framesPerPixel_);
    case Qt::Key_PageUp: return setLeft(left_ - bodyWidth() * framesPerPixel_);
    case Qt::Key_PageDown: return setLeft(left_ + bodyWidth() * framesPerPixel_);
    case Qt::Key_Home: return work_.listener().moveTo(0);
    case Qt::Key_End: return work_.listener().moveTo(model_->session().end());
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
      event->position().x() < kHeadWidth ? 0 : gestures_->snapped(frameAt(event->position().x()), false);
  if (!files.isEmpty()) work_.offerFiles(files, at);
}

QString TimelineView::tipOf(const QPoint& at) const {
  const TimelineHit hit = hitAt(at);
  const Session& session = model_->session();
  const auto withNotes = [](const QString& words, const std::string& notes) {
    return notes.empty() ? words : words + "\n" + text(notes);
  };
  const auto time = [&](Frame frames) { return text(timeText(frames, session.rate)); };
  switch (hit.what) {
    case TimelineHit::What::Region: {
      const Region& region = session.regions[hit.index];
      return withNotes(text(region.name) + "\n" + time(region.length), region.notes);
    }
    case TimelineHit::What::Marker: {
      const Marker& marker = model_->marker(hit.index);
      return withNotes(
          text(marker.name) + "\n" + text(model_->setOfMarker(hit.index).name) + ", " + time(marker.at),
          marker.notes);
    }
    case TimelineHit::What::ClipSet: {
      const ClipSet& set = session.clipSets[hit.index];
      const std::size_t clips = model_->membersOf(hit.index).size();
      return withNotes(text(set.name) + "\n" + text(counted(clips, "clip")), set.notes);
    }
    case TimelineHit::What::Head: {
      const Track& track = session.tracks[hit.track.track()];
      return withNotes(text(track.name), track.notes);
    }
    default: break;
  }
  if (const auto row = rowAt(at)) {
    const Row& shown = tiles_.sheet()->rows[*row];
    return text(shown.file) + "\n" + text(rowStateText(shown.state)) + "\n" +
           text(tiles_.sheet()->endsText(shown));
  }
  if (hit.what != TimelineHit::What::Clip) return {};
  const Clip& clip = model_->clipAt({hit.track, hit.index});
  return withNotes((clip.name.empty() ? QString() : text(clip.name) + "\n") + time(clip.length), clip.notes);
}

bool TimelineView::viewportEvent(QEvent* event) {
  if (event->type() != QEvent::ToolTip) return QAbstractScrollArea::viewportEvent(event);
  const auto* help = static_cast<QHelpEvent*>(event);
  QToolTip::showText(help->globalPos(), tipOf(help->pos()), this);
  return true;
}

}  // namespace octaphon::app
