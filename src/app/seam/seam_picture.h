// The join of a loop: what runs into its end and begins again, laid over what would have followed and what
// came before; where they part is shaded. Beginning and end are moved in it, by mouse and keys.
#pragma once

#include <memory>
#include <QWidget>

#include "loop/heard_loop.h"

namespace octaphon::app {

class SeamPicture : public QWidget {
  Q_OBJECT
 public:
  enum class Step { Sample, Zero, Beat };
  explicit SeamPicture(QWidget* parent = nullptr);

  /// Null: nothing is drawn.
  void show(std::shared_ptr<const HeardLoop> heard, LoopPlace place);
  /// To either side of the join.
  double milliseconds() const { return milliseconds_; }
  /// Shows more around the join (steps over 0) or less.
  void zoom(int steps);

 signals:
  /// The left half holds the end, the right half the beginning.
  void dragged(octaphon::LoopPlace place);
  void stepped(int direction, octaphon::app::SeamPicture::Step step);
  void taken();

 protected:
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  void wheelEvent(QWheelEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;

 private:
  /// The mean of all channels at a frame; 0 where nothing was heard.
  double at(Frame frame) const;
  /// What stands `offset` frames from the join: in the loop, or beside it.
  double inLoop(Frame offset) const { return at(offset < 0 ? place_.end() + offset : place_.start + offset); }
  double beside(Frame offset) const { return at(offset < 0 ? place_.start + offset : place_.end() + offset); }
  QRectF area() const;
  Frame reach() const;
  double loudest() const;
  void paintLine(QPainter& painter, bool isLoop, double peak) const;
  void paintPart(QPainter& painter, double peak) const;
  void paintWords(QPainter& painter) const;

  std::shared_ptr<const HeardLoop> heard_;
  LoopPlace place_, grabbed_;
  QPointF grabbedAt_;
  double milliseconds_ = 20;
};

}  // namespace octaphon::app
