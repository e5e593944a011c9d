// The program's own icons: SVG in the resources, drawn in the colour of a role.
#pragma once

#include <QIcon>
#include <QPixmap>

#include "app/look/theme.h"

class QAbstractButton;

namespace octaphon::app {

/// `name` without ending, as in resources/icons.
QPixmap pixmap(const QString& name, Role role, int pixels = 16);
QIcon icon(const QString& name, Role role = Role::Ink);
/// Gives a button its icon, and a new one when day becomes night.
void keepIcon(QAbstractButton* button, const QString& name);

}  // namespace octaphon::app
