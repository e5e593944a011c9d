// The session seen for delivery: rulers, regions, markers, tracks with waveforms, and the tiles of the
// selected brief. Painting is here and in timeline_marks.cpp; what mouse and keys do is TimelineGestures's.
#pragma once

#include <atomic>
#include <memory>
#include <optional>
#include <QAbstractScrollArea>
#include <QPixmap>
#include <QThreadPool>

#include "app/commands/commands.h"
#include "app/look/painted_parts.h"
#include "app/timeline/timeline_model.h"
#include "app/work/work.h"
#include "edit/spans.h"
#include "media/media_facts.h"

namespace octaphon::app {

class TimelineGestures;
class TimelineKeys;
class CurveGestures;

/// What lies under the mouse.
struct TimelineHit {
  enum class What { Nothing, Ruler, RibbonRow, Region, MarkerRow, Marker, Clip, ClipSet, Lane, Head };
  enum class Part { Body, Start, End, FadeIn, FadeOut };
  What what = What::Nothing;
  Part part = Part::Body;
  std::size_t index = 0;  ///< of the region, marker, clip set; of the clip on its track
  Strip track;            ///< of clips, lanes and heads
  std::string id;
};

enum SnapTo : unsigned {
  kSnapThings = 1,    ///< edges of clips and regions, markers, the playhead
  kSnapBeats = 2,     ///< where there is a tempo
  kSnapPictures = 4,  ///< picture frames
  kSnapZero = 8,      ///< where the sound goes through zero, once nothing else is near
};

/// What is being dragged, as it would be dropped.
struct TimelineGhost {
  TimelineHit hit;
  bool active = false;
  Frame by = 0;   ///< of clips, regions, markers and edges
  int down = 0;   ///< lanes, of clips and heads
  TimeSpan span;  ///< of a new region or a time range
  QRect band;     ///< of a selection by rubber band
};

class TimelineView : public QAbstractScrollArea, public PaintedView {
  Q_OBJECT
 public:
  /// Shows what the work holds, whatever changes it; menus are made of `commands`.
  TimelineView(Work& work, Commands& commands, QWidget* parent = nullptr);
  ~TimelineView() override;

  void setOnlySounding(bool on);  ///< only tracks that sound in the selection's time, or in what is seen
  /// What drags snap to; SnapTo bits.
  void setSnapping(unsigned what) { snapsTo_ = what; }
  unsigned snapping() const { return snapsTo_; }
  void setFollowing(bool on) { follows_ = on; }  ///< the playhead, while playing

  void zoomBy(double factor);           ///< around the playhead where it is visible, else the middle
  void showSpan(Frame from, Frame to);  ///< zooms so that it fills the view
  void showAll();
  void reveal(Frame from, Frame to);  ///< scrolls only where needed
  void revealTrack(Strip track);

  double framesPerPixel() const { return framesPerPixel_; }
  Frame leftFrame() const { return static_cast<Frame>(left_); }
  Frame playhead() const { return playhead_; }
  const TimelineModel& model() const { return *model_; }
  void redraw();
  void redrawMarks();
  TimelineGestures& gestures() { return *gestures_; }
  CurveGestures& curve() { return *curve_; }
  // Places in the viewport, for tests and pop-ups.
  QRectF ribbonOf(std::size_t region) const;
  QRectF clipBox(ClipSpot spot) const;
  QRectF markerBox(std::size_t marker) const;
  QRectF tagOf(std::size_t clipSet) const;
  QRect headOf(Strip track) const;
  double xOf(Frame frame) const {
    return kHeadWidth + (static_cast<double>(frame) - left_) / framesPerPixel_;
  }
  Frame frameAt(double x) const;

  std::vector<PaintedPart> paintedParts() override;
  unsigned paintedRevision() const override { return revision_; }

 protected:
  void paintEvent(QPaintEvent* event) override;
  void resizeEvent(QResizeEvent* event) override;
  void scrollContentsBy(int dx, int dy) override;
  void wheelEvent(QWheelEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  void mouseReleaseEvent(QMouseEvent* event) override;
  void mouseDoubleClickEvent(QMouseEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;
  void contextMenuEvent(QContextMenuEvent* event) override;
  void focusInEvent(QFocusEvent* event) override;
  void focusOutEvent(QFocusEvent* event) override;
  void dragEnterEvent(QDragEnterEvent* event) override;
  void dragMoveEvent(QDragMoveEvent* event) override;
  void dropEvent(QDropEvent* event) override;
  bool viewportEvent(QEvent* event) override;

 private:
  friend class TimelineGestures;
  friend class TimelineKeys;
  void connectWork();
  /// Another session: seen from its start. The same session after an edit: seen as before.
  void setSession(std::shared_ptr<const Session> session);
  void updateSession(std::shared_ptr<const Session> session);
  void showTiles();
  void showChosenTiles(bool areTilesNew);
  void setPlayhead(Frame frame);
  void endGesture();
  QString tipOf(const QPoint& at) const;
  // Geometry, in px of the viewport.
  int rulerHeight() const;
  int markersTop() const { return rulerHeight() + model_->regionLanes() * kRibbonRow + 6; }
  int pinnedTop() const { return markersTop() + (model_->hasMarkers() ? kMarkerRow : 0); }
  int lanesTop() const { return pinnedTop() + model_->pinnedHeight(); }
  int laneY(const Lane& lane) const;
  int bodyWidth() const { return std::max(1, viewport()->width() - kHeadWidth); }
  Frame lastFrame() const;
  QRectF tileOf(const Lane& lane, const Row& row) const;
  /// Its part without lead-in and tail.
  QRectF bodyOf(const QRectF& tile, const Row& row) const;
  const Lane* laneAtY(int y) const;
  const Lane* laneOf(Strip track) const;
  TimelineHit hitAt(const QPoint& at) const;
  TimelineHit clipHit(const Lane& lane, const QPoint& at) const;
  std::optional<std::size_t> rowAt(const QPoint& at) const;
  void setZoom(double framesPerPixel, double keepX);
  void setLeft(double left);
  void updateScrollBars();
  void rebuild(std::shared_ptr<const Session> session);
  std::vector<char> soundingTracks(const Session& session) const;
  void followSelection();

  void paintStill(QPainter& painter);
  // timeline_lanes.cpp
  void paintLanes(QPainter& painter);
  void paintLane(QPainter& painter, const Lane& lane);
  struct ClipInk {
    QColor plain, line;
  };
  ClipInk inkOf(const Lane& lane, const Clip& clip) const;
  bool isLost(const Clip& clip) const;
  void paintClips(QPainter& painter, const Lane& lane);
  void paintClip(QPainter& painter, const Lane& lane, const Clip& clip);
  void paintWave(QPainter& painter, const Lane& lane, const Clip& clip, int first, int last);
  void paintTiles(QPainter& painter, const Lane& lane);
  void paintTile(QPainter& painter, const Lane& lane, std::size_t row, RowStage stage);
  // timeline_view.cpp
  void paintHeads(QPainter& painter);
  void paintHead(QPainter& painter, const Lane& lane);
  int paintSignalMarks(QPainter& painter, const Lane& lane, int right);
  void paintPlayhead(QPainter& painter);
  void paintHint(QPainter& painter);
  void paintCurrentRow(QPainter& painter);
  // timeline_parts.cpp
  QString spanText(Frame start, Frame length) const;
  void addMarkParts(std::vector<PaintedPart>& parts, Frame from, Frame to);
  void addLaneParts(std::vector<PaintedPart>& parts, const Lane& lane, Frame from, Frame to);
  // timeline_marks.cpp
  void paintRulers(QPainter& painter);
  void paintBars(QPainter& painter, int top);
  void paintTimes(QPainter& painter, int top);
  void paintRibbons(QPainter& painter);
  void paintRibbon(QPainter& painter, std::size_t region);
  void paintMarkers(QPainter& painter);
  void paintClipSets(QPainter& painter);
  void paintRange(QPainter& painter);
  void paintProposals(QPainter& painter);
  void paintGhost(QPainter& painter);

  static constexpr int kHeadWidth = 150;
  static constexpr int kRulerRow = 18;
  static constexpr int kRibbonRow = 22;
  static constexpr int kMarkerRow = 18;

  Work& work_;
  Commands& commands_;
  Selected& selected_;
  std::unique_ptr<TimelineModel> model_;
  std::unique_ptr<TimelineGestures> gestures_;
  std::unique_ptr<TimelineKeys> keys_;
  std::unique_ptr<CurveGestures> curve_;
  std::shared_ptr<const MediaFacts> facts_;
  TileModel tiles_;
  QThreadPool tilePool_;
  std::atomic<unsigned> wantedTiles_{0};
  QPixmap lanes_;  // clips and tiles
  QPixmap still_;  // all but the play line
  bool areLanesStale_ = true, isStale_ = true;
  bool areTilesWide_ = false;  // some of those drawn, so that it is seen which are selected
  bool hadClips_ = false;      // selected when it was last drawn
  unsigned revision_ = 0;      // of what is drawn
  double framesPerPixel_ = 48000.0 / 20;
  double left_ = 0;  // session frame at the left edge of the lanes
  Frame playhead_ = 0;
  std::vector<char> isSelectedRow_;  // in the sheet of tiles_
  bool whole_ = true;                // the whole session stays in view until someone zooms
  bool follows_ = true;
  bool staleLanes_ = false;  // to be arranged anew once the mouse lets go
  bool onlySounding_ = false;
  unsigned snapsTo_ = kSnapThings | kSnapBeats;
};

}  // namespace octaphon::app
