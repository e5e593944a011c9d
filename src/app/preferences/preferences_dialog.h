// What a person chooses once: nothing here changes what is in files that are made.
#pragma once

#include "app/commands/commands.h"
#include "app/look/page_dialog.h"
#include "app/preferences/preference_form.h"
#include "app/preferences/worn_look.h"
#include "app/work/work.h"

namespace octaphon::app {

class PreferencesDialog : public PageDialog {
  Q_OBJECT
 public:
  PreferencesDialog(Work& work, Commands& commands, WornLook& look, QWidget* parent);

 private:
  void addLooks(WornLook& look, Commands& commands);
  void addFolders();
  void addWork(Commands& commands);
  PreferenceForm* form_;
  Work& work_;
};

}  // namespace octaphon::app
