// Which colours the window wears: those that were chosen, or the desktop's, also when that changes.
#pragma once

#include <QObject>

#include "app/look/desktop_look.h"
#include "app/look/theme.h"
#include "app/work/settings.h"

namespace octaphon::app {

class WornLook : public QObject {
  Q_OBJECT
 public:
  explicit WornLook(QObject* parent);
  void choose(Colours colours);
  Colours chosen() const { return chosen_; }

 signals:
  void changed();  ///< what was chosen, or what is worn

 private:
  void wear();
  DesktopLook desktop_;
  Colours chosen_;
};

}  // namespace octaphon::app
