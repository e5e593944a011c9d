#include "shortcut_page.h"

#include <QGridLayout>
#include <QLabel>

#include "theme.h"

namespace octaphon::app {

ShortcutPage::ShortcutPage(const QList<QAction*>& actions, const QList<QAction*>& more, QWidget* parent)
    : QDialog(parent) {
  setAttribute(Qt::WA_DeleteOnClose);
  setWindowTitle(tr("Shortcuts"));
  auto* grid = new QGridLayout(this);
  grid->setContentsMargins(20, 16, 20, 20);
  grid->setHorizontalSpacing(28);
  int row = 0;
  const auto add = [&](const QString& words, const QString& keys) {
    auto* label = new QLabel(keys, this);
    label->setFont(Theme::mono());
    grid->addWidget(new QLabel(words, this), row, 0);
    grid->addWidget(label, row++, 1);
  };
  for (const QAction* action : actions + more)
    if (!action->shortcut().isEmpty())
      add(action->text().remove('&'), action->shortcut().toString(QKeySequence::NativeText));
  add(tr("Zoom around the mouse"), tr("Ctrl+wheel"));
  add(tr("Scroll along"), tr("Shift+wheel, ←, →"));
  add(tr("Open a phrase, tick a brief"), tr("Return"));
  add(tr("Rename a brief"), "F2");
}

}  // namespace octaphon::app
