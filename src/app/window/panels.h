// The panels around the timeline: docks that can be moved, closed, and taken to another screen; where they
// are is remembered from one time to the next.
#pragma once

#include <functional>
#include <map>
#include <QDockWidget>
#include <QMainWindow>

#include "app/commands/commands.h"

namespace octaphon::app {

struct Panel {
  const char* id;  ///< `sheet`
  QString words;
  QString tip;
  Qt::DockWidgetArea area;  ///< at first; those of one area share it as tabs
  int key;                  ///< with Ctrl it shows the panel; 0: none
  QSize least;              ///< px; what is shown inside never asks for more
  std::function<QWidget*(QWidget* parent)> make;
  std::function<QWidget*(QWidget* content)> tools = {};  ///< for its heading; none where it has none
};

class Panels : public QMainWindow {
  Q_OBJECT
 public:
  /// Adds a command that shows each panel, `panel.ID`, and those that put them in order.
  Panels(QWidget* timeline, const std::vector<Panel>& panels, Commands& commands, QWidget* parent);

  /// Opens it where it was closed, brings it to the front and gives it the keyboard.
  void show(const QString& id);
  QDockWidget* dock(const QString& id) const { return docks_.at(id); }
  QWidget* content(const QString& id) const { return contents_.at(id); }
  /// Commands of the menu, in order.
  const QStringList& commandIds() const { return commandIds_; }

  /// Empty while it was never shown, and nothing is known of it.
  QByteArray arrangement() const { return isArranged_ ? saveState(kVersion) : waiting_; }
  void arrange(const QByteArray& arrangement);
  /// As at first.
  void arrangeAnew();

 protected:
  void showEvent(QShowEvent* event) override;

 private:
  static constexpr int kVersion = 1;
  void add(const Panel& panel);
  void arrangeNow();
  void showHeadings();
  void toggleFloating();
  QDockWidget* focused() const;

  std::vector<Panel> panels_;
  std::map<QString, QDockWidget*> docks_;
  std::map<QString, QWidget*> contents_;
  QStringList commandIds_;
  QByteArray waiting_;  // how they were, while there is no room for them yet
  bool isArranged_ = false;
};

}  // namespace octaphon::app
