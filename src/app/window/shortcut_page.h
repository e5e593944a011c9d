// All shortcuts on one page, by menu, with what the mouse does.
#pragma once

#include <QDialog>
#include <QGridLayout>
#include <QMenuBar>

namespace octaphon::app {

class ShortcutPage : public QDialog {
  Q_OBJECT
 public:
  ShortcutPage(const QMenuBar& menus, QWidget* parent);

 private:
  void addHeading(const QString& words);
  void addLine(const QString& words, const QString& keys);

  QGridLayout* column_ = nullptr;  // that lines go into
};

}  // namespace octaphon::app
