// How the selected row ends: its level over the tail, the threshold that it is held against, and where it is
// cut.
#pragma once

#include <QLabel>
#include <QWidget>

#include "app/work/work.h"

namespace octaphon::app {

/// The picture: the last of the body and the tail, 10 ms a column, from 0 dBFS downwards.
class TailPicture : public QWidget {
  Q_OBJECT
 public:
  explicit TailPicture(QWidget* parent = nullptr);
  /// `tail`: seconds that the file has; under 0: not known. Null levels: nothing is drawn.
  void show(std::shared_ptr<const TailLevels> levels, double tail, bool holdsThreshold);

 protected:
  void paintEvent(QPaintEvent* event) override;

 private:
  double xOf(double seconds) const;
  double yOf(double decibels) const;
  double shownSeconds() const;
  void paintScale(QPainter& painter) const;
  void paintLevels(QPainter& painter) const;
  void paintThreshold(QPainter& painter) const;
  void paintCut(QPainter& painter) const;
  QRectF area() const;

  std::shared_ptr<const TailLevels> levels_;
  double tail_ = -1;
  bool holdsThreshold_ = false;
};

class TailPanel : public QWidget {
  Q_OBJECT
 public:
  explicit TailPanel(Work& work, QWidget* parent = nullptr);

 protected:
  void showEvent(QShowEvent* event) override;
  void hideEvent(QHideEvent* event) override;

 private:
  void reload();

  Work& work_;
  QLabel* title_;
  QLabel* words_;
  TailPicture* picture_;
};

}  // namespace octaphon::app
