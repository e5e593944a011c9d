// Under a phrase's editor: its presets, and keeping what it says as one.
#pragma once

#include <QLineEdit>
#include <QToolButton>
#include <QWidget>

#include "app/brief/edited_briefs.h"
#include "session/presets.h"

namespace octaphon::app {

class PresetsLine : public QWidget {
  Q_OBJECT
 public:
  PresetsLine(PhraseKind kind, Work& work, QWidget* parent);

 private:
  void fillMenu();
  void keep(bool inSession);
  void use(const Preset& preset);

  PhraseKind kind_;
  Work& work_;
  EditedBriefs briefs_;
  QToolButton* button_;
  QWidget* keeping_;
  QLineEdit* name_;
};

}  // namespace octaphon::app
