// The window: everything in the order in which people work, left to right and top to bottom.
#pragma once

#include <QLabel>
#include <QMainWindow>
#include <QSplitter>
#include <QStackedWidget>
#include <QTabBar>
#include <QTabWidget>

#include "briefs_panel.h"
#include "bring_in_flow.h"
#include "checks_panel.h"
#include "details_panel.h"
#include "document.h"
#include "edit_actions.h"
#include "first_page.h"
#include "header_bar.h"
#include "making.h"
#include "mark_panel.h"
#include "media/media_cache.h"
#include "names_panel.h"
#include "offer_bar.h"
#include "outline_view.h"
#include "overview_store.h"
#include "proof_panel.h"
#include "rescue.h"
#include "run/worker_passes.h"
#include "search_field.h"
#include "selection.h"
#include "sheet_keeper.h"
#include "sheet_view.h"
#include "signal_panel.h"
#include "strip_bar.h"
#include "timeline_view.h"
#include "transport.h"

namespace octaphon::app {

class MainWindow : public QMainWindow {
  Q_OBJECT
 public:
  explicit MainWindow(MediaCache& cache);
  ~MainWindow() override;

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
  Selected& selected() { return selected_; }
  EditActions& editing() { return *editing_; }
  MarkPanel& markPanel() { return *mark_; }
  NamesPanel& namesPanel() { return *names_; }
  ChecksPanel& checksPanel() { return *checks_; }
  DetailsPanel& details() { return *details_; }
  SignalPanel& signalPanel() { return *signal_; }
  SearchField& search() { return *search_; }
  OfferBar& offers() { return *offers_; }
  BringInFlow& bringIn() { return *bringIn_; }
  Rescue& rescue() { return rescue_; }
  ProofPanel& proof() { return *proof_; }
  QTabWidget& lower() { return *lower_; }
  /// Offers work that a program which is gone has left.
  void offerRescue();
  /// A new session of files and folders; asks about what is not saved.
  bool newSession(const QStringList& files);

 protected:
  void closeEvent(QCloseEvent* event) override;
  void changeEvent(QEvent* event) override;
  bool eventFilter(QObject* watched, QEvent* event) override;
  void dragEnterEvent(QDragEnterEvent* event) override;
  void dropEvent(QDropEvent* event) override;

 private:
  void makeActions();
  void makeMenus();
  void makeBriefActions();
  void makeBringInActions();
  void makePanelActions();
  void makeViewActions();
  void makeListenActions();
  void makeViews();
  void connectEditing();
  void showOutline();
  std::size_t shownBrief() const;
  QWidget* makeOutlinePane();
  void makeLowerHalf();
  void splitViews(QWidget* outlinePane);
  void layOutViews();
  void connectViews();
  void connectPlaces();
  void connectRows();
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
  void sessionChanged(unsigned parts);
  void showLower(QWidget* panel);
  void startNaming(Thing thing);
  void goToHit(const SearchHit& hit, bool play);
  void goToFinding(const Finding& finding);
  void reveal(Thing thing, const std::string& id);
  void findMissing();
  void replaceMedium();
  void play(Frame to, Listening listening = {});
  void playVariation();
  void playRow(Listening::Of of);
  void hearSelectedOnly(bool on);
  Listening sessionListening() const;
  int currentRegion() const;
  void replan();
  void sheetChanged();
  void chooseRegion(int region);
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
  WorkerPasses pluginPasses_;
  Document document_;
  SheetKeeper keeper_;
  Selected selected_;
  Rescue rescue_;
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
  EditActions* editing_ = nullptr;
  QTabWidget* lower_ = nullptr;
  MarkPanel* mark_ = nullptr;
  NamesPanel* names_ = nullptr;
  ChecksPanel* checks_ = nullptr;
  DetailsPanel* details_ = nullptr;
  SignalPanel* signal_ = nullptr;
  ProofPanel* proof_ = nullptr;
  SearchField* search_ = nullptr;
  OfferBar* offers_ = nullptr;
  BringInFlow* bringIn_ = nullptr;
  std::vector<std::string> onlyTracks_;  // heard alone
  std::vector<std::string> recentVariations_;
  SheetView* sheetView_ = nullptr;
  BriefsPanel* briefs_ = nullptr;
  StripBar* strip_ = nullptr;
  QMenu* recentMenu_ = nullptr;

  QAction *open_, *demo_, *save_, *saveAs_, *close_, *quit_, *undo_, *redo_;
  QAction *play_, *stop_, *playRegion_, *previous_, *next_;
  QAction *zoomIn_, *zoomOut_, *zoomRegion_, *zoomAll_, *night_, *filter_, *search_action_, *timecode_,
      *onlySounding_, *zoomSelection_, *follow_;
  QList<QAction*> snaps_;
  QAction *newFiles_, *newFolder_, *bringFiles_, *findMedia_, *replaceMedium_, *copyMedia_, *writeTable_,
      *showSheet_, *showMark_, *showNames_, *showChecks_, *showDetails_, *showSignal_, *showProof_;
  QAction *loop_, *only_, *variation_, *nextPlaying_, *previousPlaying_, *rowSession_, *rowFile_,
      *rowDifference_;
  QAction *newBrief_, *copyBrief_, *deleteBrief_, *make_, *makeAll_, *folder_, *shortcuts_;
};

}  // namespace octaphon::app
