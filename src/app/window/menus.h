// The menus, as lists of commands.
#pragma once

#include <functional>
#include <QMenuBar>

#include "app/commands/commands.h"

namespace octaphon::app {

/// `panels`: the commands that show panels; `open` opens a recent session.
void fillMenus(QMenuBar& bar, const Commands& commands, const QStringList& panels,
               const std::function<void(const QString&)>& open);

}  // namespace octaphon::app
