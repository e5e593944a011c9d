#include "app/commands/command_button.h"

#include "app/commands/commands.h"

namespace octaphon::app {

QPushButton* buttonFor(QAction* action, const char* name, QWidget* parent,
                       const std::function<QString()>& words) {
  auto* button = new QPushButton(parent);
  button->setObjectName(name);
  button->setAutoDefault(true);
  const auto follow = [button, action, words] {
    button->setText(words ? words() : Commands::title(*action));
    button->setEnabled(action->isEnabled());
    button->setToolTip(action->toolTip() + "  " + action->shortcut().toString(QKeySequence::NativeText));
  };
  QObject::connect(action, &QAction::changed, button, follow);
  QObject::connect(button, &QPushButton::clicked, action, &QAction::trigger);
  follow();
  return button;
}

}  // namespace octaphon::app
