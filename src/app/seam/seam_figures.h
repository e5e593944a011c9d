// The figures of a join, each on a scale that shows what is normal for this sound.
#pragma once

#include <QWidget>
#include <vector>

#include "loop/seam.h"

namespace octaphon::app {

class SeamFigures : public QWidget {
  Q_OBJECT
 public:
  explicit SeamFigures(QWidget* parent = nullptr);

  /// Null: none is known.
  void show(const Seam* seam);

 protected:
  void resizeEvent(QResizeEvent* event) override;
  void paintEvent(QPaintEvent* event) override;

 private:
  struct Figure {
    QString name, value;
    double place = 0;   ///< 0 … 1 on its scale
    double normal = 0;  ///< up to where all sounds of its kind are
    bool isWell = true;
  };
  int inLine() const;
  void paintOne(QPainter& painter, const Figure& figure, const QRectF& room) const;
  std::vector<Figure> figures_;
};

}  // namespace octaphon::app
