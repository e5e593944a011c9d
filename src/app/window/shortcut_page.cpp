#include "app/window/shortcut_page.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QScrollArea>
#include <QVBoxLayout>

#include "app/look/theme.h"

namespace octaphon::app {
namespace {

constexpr int kMostLines = 38;  // of a column, before the next one begins with a menu

}  // namespace

ShortcutPage::ShortcutPage(const QMenuBar& menus, QWidget* parent) : QDialog(parent) {
  setAttribute(Qt::WA_DeleteOnClose);
  setWindowTitle(tr("Shortcuts"));
  setAccessibleName(tr("Shortcuts"));
  auto* page = new QWidget(this);
  page->setObjectName("pane");
  auto* columns = new QHBoxLayout(page);
  columns->setContentsMargins(20, 12, 20, 16);
  columns->setSpacing(32);
  int lines = kMostLines;
  const auto room = [&](int wanted) {
    if (lines + wanted <= kMostLines) return void(lines += wanted);
    auto* stack = new QVBoxLayout;
    column_ = new QGridLayout;
    column_->setHorizontalSpacing(14);
    column_->setVerticalSpacing(3);
    stack->addLayout(column_);
    stack->addStretch();
    columns->addLayout(stack);
    lines = wanted;
  };
  for (const QAction* entry : menus.actions()) {
    QList<const QAction*> found;
    for (const QAction* action : entry->menu()->actions())
      if (!action->shortcut().isEmpty()) found << action;
    if (found.isEmpty()) continue;
    room(static_cast<int>(found.size()) + 1);
    addHeading(entry->text().remove('&'));
    for (const QAction* action : found)
      addLine(action->text().remove('&'), action->shortcut().toString(QKeySequence::NativeText));
  }
  room(16);
  addHeading(tr("Timeline"));
  addLine(tr("Place the playhead"), tr("←, →, Home, End"));
  addLine(tr("Stretch a time range"), tr("the same with Shift"));
  addLine(tr("Choose a row"), tr("↑, ↓"));
  addLine(tr("Select what is there; one more"), tr("Return; with Shift"));
  addLine(tr("Region by region, marker by marker"), tr("Ctrl+←, → in their rows"));
  addLine(tr("Clip by clip; more of them"), tr("Ctrl+arrows; with Alt"));
  addLine(tr("Nudge 10 ms; 1 ms"), tr("Alt+←, →; with Shift"));
  addLine(tr("Drop a drag, select nothing"), "Esc");
  addLine(tr("Move without snapping"), tr("Alt, dragging"));
  addLine(tr("A time range"), tr("drag on the ruler"));
  addLine(tr("A new region"), tr("drag in its row"));
  addLine(tr("Zoom around the mouse"), tr("Ctrl+wheel"));
  addLine(tr("Scroll along"), tr("Shift+wheel; Page keys"));
  addLine(tr("Open a phrase, tick a brief"), tr("Return"));
  addLine(tr("Rename a brief"), "F2");
  auto* scroll = new QScrollArea(this);
  scroll->setWidget(page);
  scroll->setFrameShape(QFrame::NoFrame);
  scroll->setWidgetResizable(true);
  scroll->setAccessibleName(tr("Shortcuts"));
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->addWidget(scroll);
  const QSize wanted = page->sizeHint() + QSize(16, 16);
  resize(parent == nullptr ? wanted : wanted.boundedTo(parent->size()));
}

void ShortcutPage::addHeading(const QString& words) {
  auto* heading = new QLabel(words.toUpper(), this);
  heading->setFont(Theme::heading());
  heading->setContentsMargins(0, 8, 0, 2);
  column_->addWidget(heading, column_->rowCount(), 0, 1, 2);
}

void ShortcutPage::addLine(const QString& words, const QString& keys) {
  auto* label = new QLabel(keys, this);
  label->setFont(Theme::mono());
  const int row = column_->rowCount();
  column_->addWidget(new QLabel(words, this), row, 0);
  column_->addWidget(label, row, 1);
}

}  // namespace octaphon::app
