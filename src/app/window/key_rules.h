// Two rules that hold in every widget of the window: Space plays everywhere but in text, and what Space does
// to a button elsewhere, Return does here.
#pragma once

#include <QObject>

#include "app/commands/commands.h"

namespace octaphon::app {

class KeyRules : public QObject {
  Q_OBJECT
 public:
  KeyRules(Commands& commands, Work& work, QWidget* window);
  ~KeyRules() override;

 protected:
  bool eventFilter(QObject* watched, QEvent* event) override;

 private:
  bool isOurs(const QWidget* widget) const;

  Commands& commands_;
  Work& work_;
  QWidget* window_;
};

}  // namespace octaphon::app
