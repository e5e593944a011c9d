// The line at the bottom: how many files and where the number comes from, what is to do, and the button that
// does it; while files are made, how far it is.
#pragma once

#include <QLabel>
#include <QProgressBar>
#include <QPushButton>
#include <QTimer>
#include <QWidget>

#include "making.h"
#include "plan/sheet.h"

namespace octaphon::app {

class StripBar : public QWidget {
  Q_OBJECT
 public:
  StripBar(Making& making, QAction* make, QAction* makeAll, QWidget* parent = nullptr);

  void setSheet(const Sheet& sheet);
  /// A line of news in place of the figures, until the sheet changes or the next message.
  void say(const QString& words, bool isProblem);
  QString countText() const { return count_->text(); }
  QString stateText() const { return state_->text(); }
  QPushButton& stopButton() { return *stop_; }

 private:
  void setRunning(bool running);
  void tick();
  QString restText() const;

  Making& making_;
  QLabel* count_;
  QLabel* state_;
  QProgressBar* bar_;
  QPushButton* pause_;
  QPushButton* stop_;
  QPushButton* all_;
  QPushButton* make_;
  QAction* makeAction_;
  QAction* allAction_;
  QTimer timer_;
  SheetCounts counts_;
  QString news_;
};

}  // namespace octaphon::app
