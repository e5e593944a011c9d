// Fields whose every change is a step of the session's history: Ctrl+Z in them is the session's undo, not
// their own.
#pragma once

#include <QWidget>

namespace octaphon::app {

/// For the widget and what is in it now.
void useSessionUndo(QWidget* widget);

}  // namespace octaphon::app
