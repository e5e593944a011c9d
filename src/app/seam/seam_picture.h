// The join of a loop: what runs into its end and begins again, laid over what would have followed and what
// came before; where they part is shaded.
#pragma once

#include <memory>
#include <QWidget>

#include "run/region_seam.h"

namespace octaphon::app {

class SeamPicture : public QWidget {
  Q_OBJECT
 public:
  explicit SeamPicture(QWidget* parent = nullptr);

  /// `place`: in frames of the session. Null: nothing is drawn.
  void show(std::shared_ptr<const RegionSeam> seam, LoopPlace place);
  /// To either side of the join.
  double milliseconds() const { return milliseconds_; }
  void setMilliseconds(double milliseconds);

 protected:
  void paintEvent(QPaintEvent* event) override;

 private:
  /// The mean of all channels at a frame of the session; 0 where nothing was heard.
  double at(Frame frame) const;
  /// What stands `offset` frames from the join: in the loop, or in the session beside it.
  double inLoop(Frame offset) const { return at(offset < 0 ? place_.end() + offset : place_.start + offset); }
  double beside(Frame offset) const { return at(offset < 0 ? place_.start + offset : place_.end() + offset); }
  QRectF area() const;
  Frame reach() const;
  double loudest() const;
  void paintLine(QPainter& painter, bool isLoop, double peak) const;
  void paintPart(QPainter& painter, double peak) const;
  void paintWords(QPainter& painter) const;

  std::shared_ptr<const RegionSeam> seam_;
  LoopPlace place_;
  double milliseconds_ = 20;
};

}  // namespace octaphon::app
