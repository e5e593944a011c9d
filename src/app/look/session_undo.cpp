#include "app/look/session_undo.h"

#include <QKeyEvent>

namespace octaphon::app {
namespace {

/// A field that does not claim the keys of undo leaves them to the window.
class UndoKeys : public QObject {
 public:
  using QObject::QObject;

 protected:
  bool eventFilter(QObject*, QEvent* event) override {
    if (event->type() != QEvent::ShortcutOverride) return false;
    const auto* key = static_cast<QKeyEvent*>(event);
    const bool isUndo = key->key() == Qt::Key_Z || key->key() == Qt::Key_Y;
    if (!isUndo || !(key->modifiers() & Qt::ControlModifier)) return false;
    event->ignore();
    return true;
  }
};

}  // namespace

void useSessionUndo(QWidget* widget) {
  auto* keys = new UndoKeys(widget);
  widget->installEventFilter(keys);
  for (QWidget* inside : widget->findChildren<QWidget*>()) inside->installEventFilter(keys);
}

}  // namespace octaphon::app
