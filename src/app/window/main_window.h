// The window: header, timeline with its panels, and the line at the bottom. It lays out, and passes on what
// the system tells it; what can be done is in commands, what is worked with in Work.
#pragma once

#include <QMainWindow>
#include <QStackedWidget>

#include "app/bring_in/bring_in_flow.h"
#include "app/commands/commands.h"
#include "app/delivery/strip_bar.h"
#include "app/look/offer_bar.h"
#include "app/timeline/timeline_view.h"
#include "app/window/first_page.h"
#include "app/window/header_bar.h"
#include "app/window/panels.h"
#include "app/window/problem_line.h"
#include "app/window/search_field.h"
#include "app/window/session_flow.h"

namespace octaphon::app {

class BriefFlow;
class WornLook;

class MainWindow : public QMainWindow {
  Q_OBJECT
 public:
  explicit MainWindow(Work& work);
  ~MainWindow() override;

  Commands& commands() { return commands_; }
  SessionFlow& sessions() { return *sessions_; }
  Panels& panels() { return *panels_; }
  /// Files from outside, dropped or opened: sessions, briefs, sounds and folders of them, delivered files.
  void take(const QStringList& files);
  void comeToFront();

 protected:
  void closeEvent(QCloseEvent* event) override;
  void changeEvent(QEvent* event) override;
  void dragEnterEvent(QDragEnterEvent* event) override;
  void dropEvent(QDropEvent* event) override;

 private:
  void addCommands();
  void addPages();
  void stopNewest();
  QString stopWords() const;
  void layOut();
  void connectWork();
  void showPanel(const QString& id);
  void showSession();
  void restoreLooks();
  void keepLooks() const;
  void fitScreen();
  bool isOpen(const QString& session) const;

  Work& work_;
  Commands commands_;
  TimelineView* timeline_ = nullptr;
  OfferBar* offers_ = nullptr;
  BringInFlow* bringIn_ = nullptr;
  SessionFlow* sessions_ = nullptr;
  BriefFlow* briefFiles_ = nullptr;
  Panels* panels_ = nullptr;
  SearchField* search_ = nullptr;
  FirstPage* firstPage_ = nullptr;
  QStackedWidget* pages_ = nullptr;
  StripBar* strip_ = nullptr;
  WornLook* look_ = nullptr;
  bool mayClose_ = false;  // it was asked
};

}  // namespace octaphon::app
