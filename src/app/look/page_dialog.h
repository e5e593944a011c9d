// A dialog to read and to set things in: Return does what a click does on the button that has the keyboard,
// and nothing elsewhere.
#pragma once

#include <QAbstractButton>
#include <QDialog>
#include <QKeyEvent>

namespace octaphon::app {

class PageDialog : public QDialog {
 public:
  using QDialog::QDialog;

 protected:
  void keyPressEvent(QKeyEvent* event) override {
    if (event->key() != Qt::Key_Return && event->key() != Qt::Key_Enter) return QDialog::keyPressEvent(event);
    if (auto* button = qobject_cast<QAbstractButton*>(focusWidget())) button->click();
  }
};

}  // namespace octaphon::app
