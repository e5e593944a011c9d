// The log, to be looked at and saved for a report: with versions, and what was checked just now.
#pragma once

#include <QPlainTextEdit>

#include "app/look/page_dialog.h"
#include "app/work/work.h"

namespace octaphon::app {

class LogWindow : public PageDialog {
  Q_OBJECT
 public:
  LogWindow(Work& work, QWidget* parent);

 private:
  void look();
  void save();
  Work& work_;
  QPlainTextEdit* page_;
};

}  // namespace octaphon::app
