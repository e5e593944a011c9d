// All shortcuts on one page.
#pragma once

#include <QAction>
#include <QDialog>

namespace octaphon::app {

class ShortcutPage : public QDialog {
  Q_OBJECT
 public:
  ShortcutPage(const QList<QAction*>& actions, const QList<QAction*>& more, QWidget* parent);
};

}  // namespace octaphon::app
