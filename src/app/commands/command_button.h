// A button that does what a command does: its words, whether it can be pressed, and its key.
#pragma once

#include <functional>
#include <QAction>
#include <QPushButton>

namespace octaphon::app {

/// `name`: of its style. `words`: instead of the command's.
QPushButton* buttonFor(QAction* action, const char* name, QWidget* parent,
                       const std::function<QString()>& words = {});

}  // namespace octaphon::app
