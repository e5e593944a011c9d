// The join of the selected region as a loop: how good it is, in words and figures; the picture; better
// places.
#pragma once

#include <QLabel>
#include <QListWidget>
#include <QToolButton>
#include <QWidget>

#include "app/seam/seam_picture.h"
#include "app/work/work.h"

namespace octaphon::app {

class SeamPanel : public QWidget {
  Q_OBJECT
 public:
  explicit SeamPanel(Work& work, QWidget* parent = nullptr);

 protected:
  void showEvent(QShowEvent* event) override;
  void hideEvent(QHideEvent* event) override;

 private:
  QWidget* makePlaces();
  QWidget* makeTools();
  void reload();
  void showFigures(const Seam& seam);
  void showPlaces(const RegionSeam& found);
  /// Draws the place that is looked at, the region's own or a candidate.
  void showPicture();
  void take();
  void playLaps();
  void zoom(int steps);

  Work& work_;
  QLabel* title_;
  QLabel* score_;
  QLabel* words_;
  QLabel* figures_;
  SeamPicture* picture_;
  QWidget* tools_;
  QWidget* side_;
  QListWidget* places_;
  QToolButton* take_;
  QToolButton* play_;
};

}  // namespace octaphon::app
