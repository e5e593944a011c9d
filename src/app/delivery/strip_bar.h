// The line at the bottom: how many files and where the number comes from, what is to do, and the button that
// does it; while files are made, how far it is.
#pragma once

#include <QLabel>
#include <QPointer>
#include <QProgressBar>
#include <QPushButton>
#include <QTimer>
#include <QWidget>

#include "app/commands/commands.h"
#include "plan/sheet.h"

namespace octaphon::app {

class StripBar : public QWidget {
  Q_OBJECT
 public:
  StripBar(Work& work, Commands& commands, QWidget* parent = nullptr);

  QString countText() const { return count_->text(); }
  QString stateText() const { return state_->text(); }
  QPushButton& stopButton() { return *stop_; }
  QString lookText() const { return look_->text(); }  ///< of the last look; empty without one

 protected:
  void resizeEvent(QResizeEvent* event) override;

 private:
  void connectWork();
  void showSheet();
  /// A line of news before the figures, until the next edit, run or message.
  void say(const QString& words, bool isProblem);
  void tellRun(const MadeReport& report);
  void tellFindings();
  void makeLook();
  void showLook();
  void showParts();
  void setRunning(bool running);
  void tick();
  QString restText() const;
  QString fitting(QStringList parts) const;
  void fitLater();

  Work& work_;
  Making& making_;
  QLabel* count_;
  QLabel* state_;
  QProgressBar* bar_;
  QPushButton* pause_;
  QPushButton* stop_;
  QPushButton *selected_, *all_;
  QPushButton* make_;
  QLabel* look_;
  QPushButton *goOn_, *leave_;
  QPointer<QWidget> before_;  // that had the keyboard before the last look
  QTimer timer_;
  QString news_;
  QString ran_;  // news of the last run, as long as they are the news
};

}  // namespace octaphon::app
