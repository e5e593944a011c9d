// The one table of all that the window can be told to do. Menus, buttons, context menus, search, the page of
// shortcuts, tips and tests go by the id.
#pragma once

#include <functional>
#include <map>
#include <QAction>
#include <QKeySequence>
#include <QMenu>
#include <QObject>
#include <QTimer>
#include <vector>

#include "app/commands/conditions.h"

namespace octaphon::app {

struct Command {
  QString id;     ///< `edit.split`
  QString words;  ///< with & before the letter that menus go by
  QList<QKeySequence> keys;
  Needs needs;
  std::function<void()> run;
  QString icon = {};
  QString tip = {};                       ///< where it says more than the words
  std::function<QString()> wording = {};  ///< words that follow what is selected; else `words`
  bool isLocal = false;                   ///< its keys count in the widgets it was given to alone
};

/// A command that is on or off.
struct Switch {
  QString id;
  QString words;
  QList<QKeySequence> keys;
  bool isOn;
  std::function<void(bool on)> turn;
};

class Commands : public QObject {
  Q_OBJECT
 public:
  /// Keys work in `window`, wherever the focus is.
  Commands(Work& work, QWidget* window);

  /// The id must be new.
  QAction* add(const Command& command);
  QAction* add(const Switch& command);
  void add(const std::vector<Command>& commands);

  /// The id must be there.
  QAction* action(const QString& id) const;
  QList<QAction*> actions(const QStringList& ids) const;
  /// In the order in which they were added.
  const QStringList& ids() const { return ids_; }
  /// Its words without &, and its keys, for tips.
  static QString title(const QAction& action);
  /// An empty id draws a line between.
  void fill(QMenu& menu, const QStringList& ids) const;
  /// Lets the keys of a local command count in a widget and in what is in it.
  void listenIn(QWidget* widget, const QStringList& ids) const;

  QWidget* window() const { return window_; }
  /// Works out anew what can be done; it is done by itself when the work changes.
  void refresh();

 private:
  QAction* make(const QString& id, const QString& words, const QList<QKeySequence>& keys);
  struct Entry {
    QAction* action;
    Needs needs;
    std::function<QString()> wording;
  };

  Work& work_;
  QWidget* window_;
  QStringList ids_;
  std::map<QString, Entry> entries_;
};

}  // namespace octaphon::app
