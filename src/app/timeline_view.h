// The session seen for delivery: rulers, regions, tracks with waveforms, and the tiles of the selected brief.
#pragma once

#include <memory>
#include <optional>
#include <QAbstractScrollArea>

#include "media/media_facts.h"
#include "overview_store.h"
#include "timeline_model.h"

namespace octaphon::app {

class TimelineView : public QAbstractScrollArea {
  Q_OBJECT
 public:
  explicit TimelineView(OverviewStore& overviews, QWidget* parent = nullptr);

  void setSession(std::shared_ptr<const Session> session);
  void setFacts(std::shared_ptr<const MediaFacts> facts);
  /// Draws the rows of one brief of the sheet; none where the index is beyond its briefs.
  void setTiles(std::shared_ptr<const Sheet> sheet, std::size_t brief);
  void setPlayhead(Frame frame, bool follow);
  void setSelectedRegion(int region);  ///< index in Session::regions; −1 for none
  void setSelectedRow(int row);        ///< index in the sheet; −1 for none

  void zoomBy(double factor);           ///< around the playhead where it is visible, else the middle
  void showSpan(Frame from, Frame to);  ///< zooms so that it fills the view
  void showAll();
  void reveal(Frame from, Frame to);  ///< scrolls only where needed
  void revealTrack(int track);

  double framesPerPixel() const { return framesPerPixel_; }
  Frame leftFrame() const { return static_cast<Frame>(left_); }

 signals:
  void playheadMoved(octaphon::Frame frame);
  void regionChosen(int region);
  void rowChosen(int row);
  void regionMenu(int region, const QPoint& global);

 protected:
  void paintEvent(QPaintEvent* event) override;
  void resizeEvent(QResizeEvent* event) override;
  void scrollContentsBy(int dx, int dy) override;
  void wheelEvent(QWheelEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  void mouseDoubleClickEvent(QMouseEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;
  void contextMenuEvent(QContextMenuEvent* event) override;
  bool viewportEvent(QEvent* event) override;

 private:
  // Geometry, in px of the viewport.
  int rulerHeight() const;
  int lanesTop() const;
  int bodyWidth() const { return std::max(1, viewport()->width() - kHeadWidth); }
  double xOf(Frame frame) const {
    return kHeadWidth + (static_cast<double>(frame) - left_) / framesPerPixel_;
  }
  Frame frameAt(double x) const;
  Frame lastFrame() const;
  QRectF ribbonOf(std::size_t region) const;
  QRectF tileOf(const Lane& lane, const Row& row) const;
  std::optional<std::size_t> regionAt(const QPoint& at) const;
  std::optional<std::size_t> rowAt(const QPoint& at) const;
  void setZoom(double framesPerPixel, double keepX);
  void setLeft(double left);
  void updateScrollBars();

  void paintLanes(QPainter& painter);
  void paintLane(QPainter& painter, const Lane& lane);
  void paintClip(QPainter& painter, const Lane& lane, const Clip& clip);
  void paintTiles(QPainter& painter, const Lane& lane);
  void paintRulers(QPainter& painter);
  void paintBars(QPainter& painter, int top);
  void paintTimes(QPainter& painter, int top);
  void paintRibbons(QPainter& painter);
  void paintRibbon(QPainter& painter, std::size_t region);
  void paintHeads(QPainter& painter);
  void paintHead(QPainter& painter, const Lane& lane);
  void paintPlayhead(QPainter& painter);
  void paintHint(QPainter& painter);

  static constexpr int kHeadWidth = 150;
  static constexpr int kRulerRow = 18;
  static constexpr int kRibbonRow = 22;

  OverviewStore& overviews_;
  std::unique_ptr<TimelineModel> model_;
  std::shared_ptr<const MediaFacts> facts_;
  TileModel tiles_;
  double framesPerPixel_ = 48000.0 / 20;
  double left_ = 0;  // session frame at the left edge of the lanes
  Frame playhead_ = 0;
  int selectedRegion_ = -1;
  int selectedRow_ = -1;
  bool whole_ = true;  // the whole session stays in view until someone zooms
};

}  // namespace octaphon::app
