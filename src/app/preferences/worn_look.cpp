#include "app/preferences/worn_look.h"

namespace octaphon::app {

WornLook::WornLook(QObject* parent) : QObject(parent), desktop_(nullptr), chosen_(settings::colours()) {
  connect(&desktop_, &DesktopLook::changed, this, &WornLook::wear);
  wear();
}

void WornLook::choose(Colours colours) {
  chosen_ = colours;
  settings::setColours(colours);
  wear();
}

void WornLook::wear() {
  const bool isNight = chosen_ == Colours::Desktop ? desktop_.isDark() : chosen_ == Colours::Night;
  Theme::instance().setLook(isNight ? Look::Night : Look::Day);
  emit changed();
}

}  // namespace octaphon::app
