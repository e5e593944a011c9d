// What is kept of media that were converted: how much it may be, how much it is, and clearing it.
#pragma once

#include <QLabel>
#include <QPushButton>
#include <QSpinBox>
#include <QWidget>

#include "app/work/work.h"

namespace octaphon::app {

class CacheChoice : public QWidget {
  Q_OBJECT
 public:
  CacheChoice(Work& work, QWidget* parent);

 private:
  void look();
  void clear();
  void take(int gigabytes);
  Work& work_;
  QSpinBox* limit_;
  QLabel* size_;
  QPushButton* clear_;
};

}  // namespace octaphon::app
