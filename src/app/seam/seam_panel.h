// The join of a loop, of the selected region or of the current row's file: how good it is, in words and
// figures; the picture, in which it is moved; better places; the seam and laps heard; the loop's way.
#pragma once

#include <QButtonGroup>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QListWidget>
#include <QToolButton>
#include <QWidget>

#include "app/look/elided_label.h"
#include "app/seam/seam_figures.h"
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
  void resizeEvent(QResizeEvent* event) override;

 private:
  enum class Edge { End, Start, Both };
  using Step = SeamPicture::Step;

  QLayout* makeHead();
  QLayout* makeWords();
  QLayout* makePlaying();
  QLayout* makeMoving();
  QWidget* makePlaces();
  QToolButton* addButton(QLayout* layout, const QString& words, const QString& tip,
                         const std::function<void()>& act);
  void reload();
  void showNothing();
  void showPlace();
  void showPlaces();
  void showVariations();
  void showWords(const QString& words);
  const Region* region() const;
  bool isOfFile() const { return work_.seams().of() == SeamListener::Of::File; }
  Edge edge() const { return static_cast<Edge>(edge_->currentIndex()); }
  LoopPlace movedBy(Frame frames) const;
  /// Where the next step from the moved edge leads to.
  Frame stepFrom(Frame edge, int direction, Step step) const;
  void move(int direction, Step step);
  void lookAtRow(int row);
  void take();
  void playSeam(bool on);
  void playRound(SeamLoop loop);
  void playLaps();
  void editLoop();

  Work& work_;
  ElidedLabel* title_;
  QButtonGroup* of_;
  QLabel* score_;
  QLabel* words_;
  SeamFigures* figures_;
  SeamPicture* picture_;
  QLabel* lengths_;
  ElidedLabel* variations_;
  QComboBox *edge_, *step_;
  QListWidget* places_;
  QDoubleSpinBox* reach_;
  QWidget* side_;
  QToolButton *take_, *playSeam_, *playLaps_, *loop_;
  std::vector<QWidget*> tools_;  // that need a join
  LoopPlace heard_;              // the last place whose seam was played
  bool isShowing_ = false;       // what is chosen in lists follows the place, not the other way round
};

}  // namespace octaphon::app
