// Some names of a brief, live: the first, the longest, an odd one, and one that is there twice.
#pragma once

#include <array>
#include <QLabel>
#include <QWidget>

#include "app/look/elided_label.h"
#include "app/work/work.h"

namespace octaphon::app {

class NameExamples : public QWidget {
  Q_OBJECT
 public:
  NameExamples(Work& work, QWidget* parent);
  ~NameExamples() override;

 private:
  using Rows = std::array<const Row*, 4>;  // null where there is none
  void showSheet();
  void show(const Rows& rows, const QString& words);
  void showNames();
  QString fileOf(const Row& row) const;

  struct Line {
    QLabel* caption;
    ElidedLabel* name;
  };
  Work& work_;
  QLabel* none_;
  std::vector<Line> lines_;
  std::shared_ptr<const Sheet> sheet_;  // that shown_ is of
  Rows shown_{};
};

}  // namespace octaphon::app
