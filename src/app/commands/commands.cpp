#include "app/commands/commands.h"

#include <QWidget>

#include "app/look/icons.h"
#include "app/look/theme.h"

namespace octaphon::app {

Commands::Commands(Work& work, QWidget* window) : QObject(window), work_(work), window_(window) {
  const auto follow = [this] { refresh(); };
  connect(&work_.document(), &Document::opened, this, follow);
  connect(&work_.document(), &Document::changed, this, follow);
  connect(&work_.document().undoStack(), &QUndoStack::indexChanged, this, follow);
  connect(&work_.selected(), &Selected::changed, this, follow);
  connect(&work_.briefs(), &BriefChoice::changed, this, follow);
  connect(&work_.rows(), &RowChoice::changed, this, follow);
  connect(&work_.sheets(), &SheetKeeper::sheetChanged, this, follow);
  connect(&work_.making(), &Making::started, this, follow);
  connect(&work_.making(), &Making::finished, this, follow);
  connect(&work_.jobs(), &LongJobs::changed, this, follow);
}

QAction* Commands::make(const QString& id, const QString& words, const QList<QKeySequence>& keys) {
  Q_ASSERT(!entries_.contains(id));
  auto* action = new QAction(words, this);
  action->setObjectName(id);
  QList<QKeySequence> known = keys;
  known.removeAll(QKeySequence());  // a standard one that this desktop does not have
  action->setShortcuts(known);
  ids_ << id;
  return action;
}

QAction* Commands::add(const Command& command) {
  QAction* action = make(command.id, command.words, command.keys);
  if (!command.tip.isEmpty()) action->setToolTip(command.tip);
  if (!command.icon.isEmpty()) {
    const auto draw = [action, name = command.icon] { action->setIcon(app::icon(name)); };
    draw();
    connect(&Theme::instance(), &Theme::changed, action, draw);
  }
  connect(action, &QAction::triggered, this, command.run);
  if (command.isLocal)
    action->setShortcutContext(Qt::WidgetWithChildrenShortcut);
  else
    window_->addAction(action);
  entries_[command.id] = {action, command.needs, command.wording};
  action->setEnabled(command.needs(conditionsOf(work_)));
  return action;
}

QAction* Commands::add(const Switch& command) {
  QAction* action = make(command.id, command.words, command.keys);
  action->setCheckable(true);
  action->setChecked(command.isOn);
  connect(action, &QAction::toggled, this, command.turn);
  window_->addAction(action);
  entries_[command.id] = {action, needs::nothing, {}};
  return action;
}

void Commands::add(const std::vector<Command>& commands) {
  for (const Command& command : commands) add(command);
}

QAction* Commands::action(const QString& id) const {
  const auto found = entries_.find(id);
  if (found == entries_.end()) qFatal("no command %s", qPrintable(id));
  return found->second.action;
}

QList<QAction*> Commands::actions(const QStringList& ids) const {
  QList<QAction*> actions;
  for (const QString& id : ids) actions << action(id);
  return actions;
}

QString Commands::title(const QAction& action) {
  QString words = action.text();
  return words.remove('&');
}

void Commands::fill(QMenu& menu, const QStringList& ids) const {
  for (const QString& id : ids)
    if (id.isEmpty())
      menu.addSeparator();
    else
      menu.addAction(action(id));
}

void Commands::listenIn(QWidget* widget, const QStringList& ids) const { widget->addActions(actions(ids)); }

void Commands::refresh() {
  const Conditions now = conditionsOf(work_);
  for (const auto& [id, entry] : entries_) {
    entry.action->setEnabled(entry.needs(now));
    if (entry.wording) entry.action->setText(entry.wording());
  }
}

}  // namespace octaphon::app
