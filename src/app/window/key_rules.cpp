#include "app/window/key_rules.h"

#include <QAbstractButton>
#include <QAbstractSpinBox>
#include <QApplication>
#include <QComboBox>
#include <QKeyEvent>
#include <QLineEdit>
#include <QPlainTextEdit>

namespace octaphon::app {
namespace {

bool isTextField(const QObject* object) {
  return qobject_cast<const QLineEdit*>(object) || qobject_cast<const QPlainTextEdit*>(object) ||
         qobject_cast<const QAbstractSpinBox*>(object);
}

/// In a text these keys take a word away, whatever else they do elsewhere.
bool takesWord(const QKeyEvent& key) {
  return (key.key() == Qt::Key_Backspace || key.key() == Qt::Key_Delete) &&
         key.modifiers() == Qt::ControlModifier;
}

}  // namespace

KeyRules::KeyRules(Commands& commands, Work& work, QWidget* window)
    : QObject(window), commands_(commands), work_(work), window_(window) {
  qApp->installEventFilter(this);
}

KeyRules::~KeyRules() { qApp->removeEventFilter(this); }

/// In the window, or in a panel that was taken out of it.
bool KeyRules::isOurs(const QWidget* widget) const {
  if (widget == nullptr || QApplication::activePopupWidget() != nullptr) return false;
  const QWidget* top = widget->window();
  return top == window_ || (top->windowType() == Qt::Tool && top->parentWidget() != nullptr &&
                            top->parentWidget()->window() == window_);
}

bool KeyRules::eventFilter(QObject* watched, QEvent* event) {
  const bool isPress = event->type() == QEvent::KeyPress;
  if (!isPress && event->type() != QEvent::ShortcutOverride) return false;
  const auto* key = static_cast<QKeyEvent*>(event);
  auto* widget = qobject_cast<QWidget*>(watched);
  if (!isOurs(widget)) return false;
  if (!isPress) {
    if (!isTextField(watched) || !takesWord(*key)) return false;
    event->accept();
    return true;
  }
  if (key->key() == Qt::Key_Space && !isTextField(watched)) {
    const bool isRegion = key->modifiers() == Qt::ShiftModifier;
    const bool isRow = watched->objectName() == "sheet" && !work_.transport().isPlaying() &&
                       commands_.action("row.hear")->isEnabled();
    const char* command = isRegion ? "play.region" : isRow ? "row.hear" : "play.toggle";
    if (!key->isAutoRepeat()) commands_.action(command)->trigger();
    return true;
  }
  if (key->key() != Qt::Key_Return || key->modifiers() != Qt::NoModifier) return false;
  if (auto* button = qobject_cast<QAbstractButton*>(widget)) return button->click(), true;
  auto* list = qobject_cast<QComboBox*>(widget);
  if (list == nullptr || list->isEditable()) return false;
  list->showPopup();
  return true;
}

}  // namespace octaphon::app
