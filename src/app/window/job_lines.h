// Lines under the header, one for each job that takes longer than a moment: what it does, how far it is, and
// the button that stops it.
#pragma once

#include <QLabel>
#include <QProgressBar>
#include <QPushButton>
#include <QTimer>
#include <QVBoxLayout>
#include <QWidget>
#include <vector>

#include "app/work/long_jobs.h"

namespace octaphon::app {

class JobLines : public QWidget {
  Q_OBJECT
 public:
  explicit JobLines(LongJobs& jobs, QWidget* parent = nullptr);

  /// `Opening Tidewheel …`, those that are shown.
  QStringList words() const;

 private:
  struct Line {
    quint64 job;
    QWidget* row;
    QLabel* words;
    QProgressBar* bar;
  };
  void follow();
  void showJobs();
  Line makeLine(const LongJobs::Job& job);

  LongJobs& jobs_;
  QVBoxLayout* layout_;
  QTimer timer_;
  std::vector<std::pair<quint64, qint64>> seen_;  // when it was first seen, ms
  std::vector<Line> lines_;
};

}  // namespace octaphon::app
