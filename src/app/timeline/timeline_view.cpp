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

#include "app/look/stage_mark.h"
#include "app/look/state_mark.h"
#include "app/look/theme.h"
#include "app/timeline/curve_gestures.h"
#include "app/timeline/timeline_drawing.h"
#include "app/timeline/timeline_gestures.h"
#include "app/timeline/timeline_keys.h"
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
      return {"mark.name",      "brief.print-this", "",          "track.new",      "track.nest",
              "track.take-out", "edit.up",          "edit.down", "edit.duplicate", "track.link",
              "track.unlink",   "edit.mute",        "edit.lock", "edit.delete"};
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
  commands_.listenIn(this, {"edit.delete", "mark.name", "play.selection-start", "play.selection-end"});
  gestures_ = std::make_unique<TimelineGestures>(*this, work.document(), selected_);
  keys_ = std::make_unique<TimelineKeys>(*this, work);
  curve_ = std::make_unique<CurveGestures>(*this, work.document());
  connectWork();
  tilePool_.setMaxThreadCount(1);
  setSession(work.session());
}

TimelineView::~TimelineView() {
  ++wantedTiles_;
  tilePool_.waitForDone();
}

void TimelineView::connectWork() {
  connect(&work_.overviews(), &OverviewStore::changed, this, &TimelineView::redraw);
  connect(&work_.making(), &Making::stagesChanged, this, &TimelineView::redraw);
  connect(&Theme::instance(), &Theme::changed, this, &TimelineView::redraw);
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
    redraw();
  });
  connect(&work_.transport(), &Transport::positionChanged, this, &TimelineView::setPlayhead);
  connect(&work_.places(), &Places::spanWanted, this, &TimelineView::reveal);
  connect(&work_.places(), &Places::zoomWanted, this, &TimelineView::showSpan);
  connect(&work_.places(), &Places::trackWanted, this, [this](const std::string& id) {
    if (const auto track = model_->tree().find(id)) revealTrack(*track);
  });
  connect(&work_.drawn(), &Drawn::proposalsChanged, this, &TimelineView::redrawMarks);
  connect(&work_.drawn(), &Drawn::timecodeChanged, this, &TimelineView::redrawMarks);
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
  keys_->begin();
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
  model_ = std::make_unique<TimelineModel>(std::move(session), shown, model_.get());
  updateScrollBars();
  redraw();
}

/// The rows of the brief that is looked at, where it is ticked. Many are arranged elsewhere; until then those
/// of before are shown.
void TimelineView::showTiles() {
  const auto sheet = work_.sheets().sheet();
  std::size_t brief = 0;
  while (brief < sheet->briefs.size() && sheet->briefs[brief].brief.id != work_.briefs().currentId()) ++brief;
  const unsigned number = ++wantedTiles_;
  if (tiles_.sheet() == sheet.get() && tiles_.brief() == brief) return showChosenTiles(false);
  constexpr std::size_t kAtOnce = 4000;  // rows
  if (brief >= sheet->briefs.size() || sheet->briefs[brief].rowCount <= kAtOnce) {
    tiles_ = TileModel(sheet, brief);
    return showChosenTiles(true);
  }
  tilePool_.start([this, number, sheet, brief] {
    if (number != wantedTiles_) return;
    auto tiles = std::make_shared<TileModel>(sheet, brief);
    QMetaObject::invokeMethod(
        this,
        [this, number, tiles] {
          if (number != wantedTiles_) return;
          tiles_ = std::move(*tiles);
          showChosenTiles(true);
        },
        Qt::QueuedConnection);
  });
}

void TimelineView::showChosenTiles(bool areTilesNew) {
  const bool isNewest = tiles_.sheet() == work_.sheets().sheet().get();
  isSelectedRow_.assign(tiles_.sheet()->rows.size(), 0);
  if (isNewest) {
    for (const std::size_t row : work_.rows().rows()) isSelectedRow_[row] = 1;
    if (const auto current = work_.rows().currentRow()) isSelectedRow_[*current] = 1;
  }
  if (areTilesNew || areTilesWide_)
    redraw();
  else
    redrawMarks();  // on narrow ones it is not seen
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
  const bool hasClips = !selected_.clips().empty();
  if (std::exchange(hadClips_, hasClips) || hasClips)
    redraw();
  else
    redrawMarks();
}

/// The mouse has let go, or what it did was dropped.
void TimelineView::endGesture() {
  if (std::exchange(staleLanes_, false)) rebuild(work_.session());
  redraw();
}

void TimelineView::setOnlySounding(bool on) {
  onlySounding_ = on;
  rebuild(work_.session());
}

/// The line alone is drawn, where it was and where it is.
void TimelineView::setPlayhead(Frame frame) {
  const auto line = [this](double at) {
    viewport()->update(QRect(static_cast<int>(at) - 2, 0, 5, viewport()->height()));
  };
  line(xOf(playhead_));
  playhead_ = frame;
  const double x = xOf(frame);
  line(x);
  const bool follow = follows_ && work_.transport().isPlaying();
  if (follow && (x > viewport()->width() - 20 || x < kHeadWidth))
    setLeft(static_cast<double>(frame) - 0.1 * bodyWidth() * framesPerPixel_);
}

void TimelineView::resizeEvent(QResizeEvent*) {
  if (whole_)
    showAll();
  else
    setLeft(left_);
}

void TimelineView::scrollContentsBy(int, int) {
  left_ = horizontalScrollBar()->value() * framesPerPixel_;
  redraw();
}

// --- painting
// ------------------------------------------------------------------------------------------------------

/// All of it anew.
void TimelineView::redraw() {
  areLanesStale_ = true;
  redrawMarks();
}

/// All but the clips and tiles.
void TimelineView::redrawMarks() {
  isStale_ = true;
  ++revision_;
  viewport()->update();
}

/// What stands still is kept as pictures: while playing, only the line moves; while something is selected or
/// dragged, clips and tiles stay.
void TimelineView::paintEvent(QPaintEvent* event) {
  const double ratio = viewport()->devicePixelRatioF();
  const QSize size = viewport()->size() * ratio;
  if (still_.size() != size || still_.devicePixelRatio() != ratio) {
    still_ = lanes_ = QPixmap(size);
    still_.setDevicePixelRatio(ratio);
    lanes_.setDevicePixelRatio(ratio);
    isStale_ = areLanesStale_ = true;
  }
  if (std::exchange(areLanesStale_, false)) {
    QPainter painter(&lanes_);
    painter.fillRect(viewport()->rect(), colour(Role::Paper));
    paintLanes(painter);
  }
  if (std::exchange(isStale_, false)) {
    QPainter painter(&still_);
    painter.drawPixmap(0, 0, lanes_);
    paintStill(painter);
  }
  QPainter painter(viewport());
  painter.setClipRegion(event->region());
  painter.drawPixmap(0, 0, still_);
  paintPlayhead(painter);
}

void TimelineView::paintStill(QPainter& painter) {
  paintClipSets(painter);
  paintRulers(painter);
  paintRibbons(painter);
  paintMarkers(painter);
  paintRange(painter);
  paintProposals(painter);
  curve_->paint(painter);
  paintHeads(painter);
  paintGhost(painter);
  if (hasFocus()) paintCurrentRow(painter);
  if (model_->session().tracks.empty()) paintHint(painter);
}

/// Where the keys act.
void TimelineView::paintCurrentRow(QPainter& painter) {
  const QRect row = keys_->rowBox();
  if (row.isNull()) return;
  painter.setBrush(Qt::NoBrush);
  painter.setPen(QPen(colour(Role::Accent), 1));
  painter.drawRect(QRect(row).adjusted(0, 0, -1, -1));
  painter.fillRect(row.left(), row.top(), 4, row.height(), colour(Role::Accent));
}

void TimelineView::focusInEvent(QFocusEvent* event) {
  QAbstractScrollArea::focusInEvent(event);
  redrawMarks();
  tellCurrentPart(this);
}

void TimelineView::focusOutEvent(QFocusEvent* event) {
  QAbstractScrollArea::focusOutEvent(event);
  redrawMarks();
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
  keys_->follow(hitAt(event->pos()));
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
  const bool isKey = event->reason() == QContextMenuEvent::Keyboard;
  const TimelineHit hit = isKey ? keys_->menuHit() : hitAt(event->pos());
  if (!isKey) gestures_->selectFor(hit);
  QMenu menu(this);
  commands_.fill(menu, menuOf(hit.what));
  menu.exec(isKey ? viewport()->mapToGlobal(keys_->menuPlace()) : event->globalPos());
}

void TimelineView::keyPressEvent(QKeyEvent* event) {
  if (keys_->press(*event) || gestures_->key(*event)) return;
  switch (event->key()) {
    case Qt::Key_PageUp: return setLeft(left_ - bodyWidth() * framesPerPixel_);
    case Qt::Key_PageDown: return setLeft(left_ + bodyWidth() * framesPerPixel_);
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
