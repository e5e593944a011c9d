// The window's commands and menus.
#include <QFileDialog>
#include <QMenuBar>

#include "edit/spans.h"
#include "icons.h"
#include "main_window.h"
#include "text.h"

namespace octaphon::app {

QAction* MainWindow::addAction(const QString& words, const QKeySequence& shortcut, const QString& iconName,
                               const std::function<void()>& work) {
  auto* action = new QAction(words, this);
  action->setShortcut(shortcut);
  if (!iconName.isEmpty()) {
    const auto draw = [action, iconName] { action->setIcon(icon(iconName)); };
    draw();
    connect(&Theme::instance(), &Theme::changed, action, draw);
  }
  connect(action, &QAction::triggered, this, work);
  QMainWindow::addAction(action);
  return action;
}

void MainWindow::makeActions() {
  open_ = addAction(tr("&Open …"), QKeySequence::Open, "", [this] { askForSession(); });
  demo_ = addAction(tr("Open the &demo"), {}, "", [this] { openDemo(); });
  save_ = addAction(tr("&Save"), QKeySequence::Save, "", [this] { save(); });
  saveAs_ = addAction(tr("Save &as …"), QKeySequence::SaveAs, "", [this] { saveAs(); });
  close_ = addAction(tr("&Close session"), QKeySequence::Close, "", [this] {
    if (maySwitch()) document_.close();
  });
  quit_ = addAction(tr("&Quit"), QKeySequence::Quit, "", [this] { close(); });
  undo_ = document_.undoStack().createUndoAction(this, tr("Undo"));
  undo_->setShortcut(QKeySequence::Undo);
  redo_ = document_.undoStack().createRedoAction(this, tr("Redo"));
  redo_->setShortcuts({Qt::CTRL | Qt::SHIFT | Qt::Key_Z, Qt::CTRL | Qt::Key_Y});

  play_ = addAction(tr("&Play"), Qt::Key_Space, "play", [this] { togglePlay(); });
  play_->setShortcutContext(
      Qt::WidgetShortcut);  // the event filter has it: Space plays everywhere but in text
  stop_ = addAction(tr("S&top"), Qt::CTRL | Qt::Key_Period, "stop", [this] { transport_.stop(); });
  playRegion_ = addAction(tr("Play the &region"), Qt::SHIFT | Qt::Key_Space, "", [this] { playRegion(); });
  playRegion_->setShortcutContext(Qt::WidgetShortcut);
  previous_ = addAction(tr("Pre&vious region"), Qt::ALT | Qt::Key_Up, "previous", [this] { stepRegion(-1); });
  next_ = addAction(tr("&Next region"), Qt::ALT | Qt::Key_Down, "next", [this] { stepRegion(1); });

  zoomIn_ = addAction(tr("Zoom &in"), QKeySequence::ZoomIn, "zoom-in", [this] { timeline_->zoomBy(0.5); });
  zoomOut_ = addAction(tr("Zoom &out"), QKeySequence::ZoomOut, "zoom-out", [this] { timeline_->zoomBy(2); });
  zoomRegion_ = addAction(tr("Zoom to the &region"), Qt::CTRL | Qt::SHIFT | Qt::Key_Right, "",
                          [this] { zoomToRegion(); });
  zoomAll_ = addAction(tr("&Whole session"), Qt::CTRL | Qt::SHIFT | Qt::Key_Left, "zoom-all",
                       [this] { timeline_->showAll(); });
  night_ = addAction(tr("&Night colours"), {}, "", [] {});
  night_->setCheckable(true);
  connect(night_, &QAction::toggled, this,
          [](bool on) { Theme::instance().setLook(on ? Look::Night : Look::Day); });
  filter_ = addAction(tr("&Filter the sheet"), Qt::CTRL | Qt::SHIFT | Qt::Key_F, "", [this] {
    showLower(sheetView_);
    sheetView_->focusFilter();
  });
  search_action_ = addAction(tr("&Search everything"), QKeySequence::Find, "", [this] {
    search_->setFocus(Qt::ShortcutFocusReason);
    search_->selectAll();
  });
  makeBringInActions();
  makePanelActions();
  makeViewActions();
  makeListenActions();
  makeBriefActions();
}

void MainWindow::makeBriefActions() {
  newBrief_ =
      addAction(tr("&New brief"), Qt::CTRL | Qt::SHIFT | Qt::Key_N, "", [this] { briefs_->addBrief(); });
  copyBrief_ = addAction(tr("&Duplicate brief"), {}, "", [this] { briefs_->duplicateBrief(); });
  deleteBrief_ = addAction(tr("D&elete brief"), {}, "", [this] { briefs_->removeBrief(); });
  make_ = addAction(tr("Nothing to make"), Qt::CTRL | Qt::Key_Return, "",
                    [this] { makeChosen([](const Sheet& sheet) { return rowsToMake(sheet, false); }); });
  make_->setToolTip(tr("Makes what is not up to date"));
  makeAll_ = addAction(tr("All"), Qt::CTRL | Qt::SHIFT | Qt::Key_Return, "",
                       [this] { makeChosen(rowsToMakeAgain); });
  makeAll_->setToolTip(
      tr("Makes everything again, but for what others put there or altered, and what a brief keeps"));
  folder_ =
      addAction(tr("Open the &folder"), Qt::CTRL | Qt::SHIFT | Qt::Key_O, "folder", [this] { openFolder(); });
  shortcuts_ = addAction(tr("&Shortcuts"), Qt::Key_F1, "", [this] { showShortcuts(); });
}

void MainWindow::makeBringInActions() {
  newFiles_ = addAction(tr("&New from audio files …"), QKeySequence::New, "",
                        [this] { newSession(bringIn_->askForFiles()); });
  newFolder_ =
      addAction(tr("New from a &folder …"), {}, "", [this] { newSession(bringIn_->askForFolder()); });
  bringFiles_ = addAction(tr("&Bring in files …"), Qt::CTRL | Qt::SHIFT | Qt::Key_B, "", [this] {
    const QStringList files = bringIn_->askForFiles();
    if (!files.isEmpty()) bringIn_->add(files, 0);
  });
  findMedia_ = addAction(tr("Find &missing media …"), {}, "", [this] { findMissing(); });
  replaceMedium_ = addAction(tr("&Replace the clip's medium …"), {}, "", [this] { replaceMedium(); });
  copyMedia_ = addAction(tr("Copy media beside the session"), {}, "", [this] {
    if (keeper_.facts()) bringIn_->copyMediaBeside(*keeper_.facts());
  });
  writeTable_ = addAction(tr("Write regions as a ta&ble …"), {}, "", [this] {
    const QString file =
        QFileDialog::getSaveFileName(this, tr("Write regions and markers to"),
                                     text(document_.session()->displayName()) + ".csv", tr("Tables (*.csv)"));
    if (!file.isEmpty()) bringIn_->writeTable(file);
  });
}

void MainWindow::makePanelActions() {
  const auto panel = [this](const QString& words, int key, auto&& which) {
    return addAction(words, Qt::CTRL | static_cast<Qt::Key>(key), "", [this, which] { showLower(which()); });
  };
  showSheet_ = panel(tr("Shee&t"), Qt::Key_1, [this] { return static_cast<QWidget*>(sheetView_); });
  showMark_ = panel(tr("&Mark"), Qt::Key_2, [this] { return static_cast<QWidget*>(mark_); });
  showNames_ = panel(tr("&Names"), Qt::Key_3, [this] { return static_cast<QWidget*>(names_); });
  showDetails_ = panel(tr("&Details"), Qt::Key_4, [this] { return static_cast<QWidget*>(details_); });
  showChecks_ = panel(tr("&Check"), Qt::Key_5, [this] { return static_cast<QWidget*>(checks_); });
  showSignal_ = panel(tr("S&ignal"), Qt::Key_6, [this] { return static_cast<QWidget*>(signal_); });
  showProof_ = panel(tr("&Proof"), Qt::Key_7, [this] { return static_cast<QWidget*>(proof_); });
}

void MainWindow::makeViewActions() {
  const auto toggle = [this](const QString& words, const QKeySequence& keys, bool on, auto&& work) {
    QAction* action = addAction(words, keys, "", [] {});
    action->setCheckable(true);
    action->setChecked(on);
    connect(action, &QAction::toggled, this, work);
    return action;
  };
  timecode_ = toggle(tr("Time as time&code"), {}, false, [this](bool on) {
    timeline_->setTimecode(on);
    header_->setTimecode(on);
  });
  onlySounding_ = toggle(tr("Only tracks that sound &here"), Qt::CTRL | Qt::SHIFT | Qt::Key_H, false,
                         [this](bool on) { timeline_->setOnlySounding(on); });
  const auto snap = [&](const QString& words, const QKeySequence& keys, unsigned bit, bool on) {
    QAction* action = toggle(words, keys, on, [this](bool) {
      unsigned what = 0;
      for (const QAction* each : snaps_) what |= each->isChecked() ? each->data().toUInt() : 0u;
      timeline_->setSnapping(what);
    });
    action->setData(bit);
    snaps_ << action;
  };
  snap(tr("Snap to clips, regions and &markers"), Qt::CTRL | Qt::SHIFT | Qt::Key_M, kSnapThings, true);
  snap(tr("Snap to &beats"), {}, kSnapBeats, true);
  snap(tr("Snap to &picture frames"), {}, kSnapPictures, false);
  snap(tr("Snap near &zero"), {}, kSnapZero, false);
  follow_ = toggle(tr("Fo&llow while playing"), {}, true, [](bool) {});
  zoomSelection_ = addAction(tr("Zoom to the &selection"), Qt::CTRL | Qt::SHIFT | Qt::Key_Up, "", [this] {
    const auto session = document_.session();
    std::optional<TimeSpan> range = selected_.range();
    SpanRequest request;
    request.clips = selected_.clips();
    if (!range && !request.clips.empty())
      if (const auto around = proposeSpans(*session, request); !around.empty()) range = around.front().span;
    if (range)
      timeline_->showSpan(range->start, range->end());
    else
      zoomToRegion();
  });
}

void MainWindow::makeListenActions() {
  loop_ = addAction(tr("&Loop"), Qt::CTRL | Qt::SHIFT | Qt::Key_L, "", [] {});
  loop_->setCheckable(true);
  connect(loop_, &QAction::toggled, this, [this](bool on) { transport_.setLooping(on); });
  only_ = addAction(tr("Hear only the selected &tracks"), Qt::CTRL | Qt::SHIFT | Qt::Key_T, "", [] {});
  only_->setCheckable(true);
  connect(only_, &QAction::toggled, this, &MainWindow::hearSelectedOnly);
  variation_ =
      addAction(tr("Play a &variation"), Qt::CTRL | Qt::SHIFT | Qt::Key_V, "", [this] { playVariation(); });
  const auto stepAndPlay = [this](int step) {
    stepRegion(step);
    playRegion();
  };
  nextPlaying_ = addAction(tr("Next region, playing"), Qt::ALT | Qt::SHIFT | Qt::Key_Down, "",
                           [stepAndPlay] { stepAndPlay(1); });
  previousPlaying_ = addAction(tr("Previous region, playing"), Qt::ALT | Qt::SHIFT | Qt::Key_Up, "",
                               [stepAndPlay] { stepAndPlay(-1); });
  rowSession_ = addAction(tr("Hear the row as it will be &written"), Qt::CTRL | Qt::ALT | Qt::Key_1, "",
                          [this] { playRow(Listening::Of::Session); });
  rowFile_ = addAction(tr("Hear the row's file on &disk"), Qt::CTRL | Qt::ALT | Qt::Key_2, "",
                       [this] { playRow(Listening::Of::File); });
  rowDifference_ = addAction(tr("Hear what &differs between them"), Qt::CTRL | Qt::ALT | Qt::Key_3, "",
                             [this] { playRow(Listening::Of::Difference); });
}

void MainWindow::makeMenus() {
  QMenu* session = menuBar()->addMenu(tr("&Session"));
  session->addActions({newFiles_, newFolder_});
  session->addAction(open_);
  recentMenu_ = session->addMenu(tr("&Recent"));
  connect(recentMenu_, &QMenu::aboutToShow, this, &MainWindow::fillRecentMenu);
  session->addAction(demo_);
  session->addSeparator();
  session->addActions({bringFiles_, findMedia_, replaceMedium_, copyMedia_, writeTable_});
  session->addSeparator();
  session->addActions({save_, saveAs_, close_});
  session->addSeparator();
  session->addAction(quit_);
  QMenu* edit = menuBar()->addMenu(tr("&Edit"));
  edit->addActions({undo_, redo_});
  edit->addSeparator();
  edit->addActions(editing_->edit());
  menuBar()->addMenu(tr("&Mark"))->addActions(editing_->mark());
  menuBar()->addMenu(tr("&Tracks"))->addActions(editing_->track());
  QMenu* listen = menuBar()->addMenu(tr("&Listen"));
  listen->addActions({play_, stop_, playRegion_, loop_, only_, variation_});
  listen->addSeparator();
  listen->addActions({previous_, next_, previousPlaying_, nextPlaying_});
  listen->addSeparator();
  listen->addActions({rowSession_, rowFile_, rowDifference_});
  QMenu* view = menuBar()->addMenu(tr("&View"));
  view->addActions({zoomIn_, zoomOut_, zoomSelection_, zoomRegion_, zoomAll_});
  view->addSeparator();
  view->addActions(snaps_);
  view->addSeparator();
  view->addActions({follow_, timecode_, onlySounding_});
  view->addSeparator();
  view->addActions({showSheet_, showMark_, showNames_, showDetails_, showChecks_, showSignal_, showProof_});
  view->addSeparator();
  view->addActions({search_action_, filter_, night_});
  QMenu* brief = menuBar()->addMenu(tr("&Brief"));
  brief->addActions({newBrief_, copyBrief_, deleteBrief_});
  brief->addSeparator();
  brief->addActions({make_, makeAll_, folder_});
  menuBar()->addMenu(tr("&Help"))->addAction(shortcuts_);
}

}  // namespace octaphon::app
