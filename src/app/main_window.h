// The window: everything in the order in which people work, left to right and top to bottom.
#pragma once

#include <QLabel>
#include <QMainWindow>
#include <QSplitter>
#include <QStackedWidget>

#include "briefs_panel.h"
#include "document.h"
#include "first_page.h"
#include "header_bar.h"
#include "making.h"
#include "media/media_cache.h"
#include "outline_view.h"
#include "overview_store.h"
#include "sheet_keeper.h"
#include "sheet_view.h"
#include "strip_bar.h"
#include "timeline_view.h"
#include "transport.h"

namespace octaphon::app {

class MainWindow : public QMainWindow {
  Q_OBJECT
 public:
  explicit MainWindow(MediaCache& cache);

  /// Opens a session; a problem is told in the window.
  bool openSession(const QString& file);

  Document& document() { return document_; }
  SheetKeeper& keeper() { return keeper_; }
  Making& making() { return making_; }
  Transport& transport() { return transport_; }
  TimelineView& timeline() { return *timeline_; }
  OutlineView& outline() { return *outline_; }
  SheetView& sheetView() { return *sheetView_; }
  BriefsPanel& briefs() { return *briefs_; }
  StripBar& strip() { return *strip_; }
  HeaderBar& header() { return *header_; }

 protected:
  void closeEvent(QCloseEvent* event) override;
  void changeEvent(QEvent* event) override;
  bool eventFilter(QObject* watched, QEvent* event) override;

 private:
  void makeActions();
  void makeMenus();
  void makeViews();
  void connectViews();
  void restoreLayout();
  QAction* addAction(const QString& text, const QKeySequence& shortcut, const QString& iconName,
                     const std::function<void()>& work);

  void askForSession();
  void openDemo();
  bool save();
  bool saveAs();
  bool maySwitch();
  QStringList recent() const;
  void remember(const QString& file);
  void fillRecentMenu();

  void sessionOpened();
  void replan();
  void sheetChanged();
  void chooseRegion(int region, bool fromOutline);
  void stepRegion(int step);
  void goToRow(int row);
  using ChooseRows = std::function<std::vector<std::size_t>(const Sheet& sheet)>;
  void makeChosen(const ChooseRows& choose);
  void makeRows(const std::vector<std::size_t>& rows);
  void runFinished(const MadeReport& report);
  void togglePlay();
  void playRegion();
  void zoomToRegion();
  void openFolder();
  void showShortcuts();
  void showProblem(const QString& words);

  MediaCache& cache_;
  Document document_;
  SheetKeeper keeper_;
  OverviewStore overviews_;
  Making making_;
  Transport transport_;
  ChooseRows waitingChoice_;  // asked for while the sheet was being planned

  HeaderBar* header_ = nullptr;
  QStackedWidget* pages_ = nullptr;
  FirstPage* firstPage_ = nullptr;
  QSplitter* across_ = nullptr;
  QSplitter* down_ = nullptr;
  QLabel* problem_ = nullptr;
  OutlineView* outline_ = nullptr;
  QLabel* outlineCount_ = nullptr;
  TimelineView* timeline_ = nullptr;
  SheetView* sheetView_ = nullptr;
  BriefsPanel* briefs_ = nullptr;
  StripBar* strip_ = nullptr;
  QMenu* recentMenu_ = nullptr;

  QAction *open_, *demo_, *save_, *saveAs_, *close_, *quit_, *undo_, *redo_;
  QAction *play_, *stop_, *playRegion_, *previous_, *next_;
  QAction *zoomIn_, *zoomOut_, *zoomRegion_, *zoomAll_, *night_, *filter_;
  QAction *newBrief_, *copyBrief_, *deleteBrief_, *make_, *makeAll_, *folder_, *shortcuts_;
};

}  // namespace octaphon::app
