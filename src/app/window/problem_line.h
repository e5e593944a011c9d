// A line under the header with what went wrong, until it is over or dismissed.
#pragma once

#include <QLabel>
#include <QWidget>

#include "app/work/news.h"

namespace octaphon::app {

class ProblemLine : public QWidget {
  Q_OBJECT
 public:
  ProblemLine(News& news, QWidget* parent);

  QString words() const { return words_->text(); }

 private:
  void tell(const QString& words);
  void colourWords();
  QLabel* words_;
};

}  // namespace octaphon::app
