#include "main_window.h"

#include <QAbstractSpinBox>
#include <QApplication>
#include <QCloseEvent>
#include <QDesktopServices>
#include <QDir>
#include <QFileDialog>
#include <QFileInfo>
#include <QKeyEvent>
#include <QLineEdit>
#include <QLocale>
#include <QMenuBar>
#include <QMessageBox>
#include <QMimeData>
#include <QPainter>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QSettings>
#include <QUrl>
#include <QVBoxLayout>

#include "base/unicode.h"
#include "curve_hand.h"
#include "icons.h"
#include "shortcut_page.h"
#include "template_edit.h"
#include "text.h"
#include "theme.h"

namespace octaphon::app {
namespace {

constexpr int kMostRecent = 8;

/// The demo lies beside the program when it is built, or where its packages put it.
QString demoFile() {
  const QString here = QCoreApplication::applicationDirPath();
  for (const QString& place :
       {qEnvironmentVariable("OCTAPHON_DEMO"), here + "/../../demo/Tidewheel.octaphon",
        here + "/../../../demo/Tidewheel.octaphon", here + "/../share/octaphon/demo/Tidewheel.octaphon"})
    if (!place.isEmpty() && QFileInfo::exists(place) && QDir(QFileInfo(place).path() + "/media").exists())
      return QFileInfo(place).canonicalFilePath();
  return {};
}

/// A line between the parts of the window.
class Hairline : public QWidget {
 public:
  explicit Hairline(QWidget* parent) : QWidget(parent) { setFixedHeight(1); }

 protected:
  void paintEvent(QPaintEvent*) override { QPainter(this).fillRect(rect(), colour(Role::Hairline)); }
};

bool isTextField(const QObject* object) {
  return qobject_cast<const QLineEdit*>(object) || qobject_cast<const QPlainTextEdit*>(object) ||
         qobject_cast<const QAbstractSpinBox*>(object);
}

}  // namespace

MainWindow::MainWindow(MediaCache& cache)
    : cache_(cache),
      document_(this),
      keeper_(cache),
      rescue_(document_),
      overviews_(cache),
      making_(cache),
      transport_(cache, &pluginPasses_) {
  setWindowTitle(tr("Octaphon"));
  setWindowIcon(QIcon(":/icons/octaphon.svg"));
  setMinimumSize(900, 560);
  setAcceptDrops(true);
  makeActions();
  makeViews();
  makeMenus();
  connectViews();
  restoreLayout();
  sessionOpened();
  qApp->installEventFilter(this);
}

/// Views look at the document until they go; nothing may speak to a view that has gone already.
MainWindow::~MainWindow() {
  transport_.stop();
  for (QObject* object : findChildren<QObject*>()) object->blockSignals(true);
  for (QObject* object : {static_cast<QObject*>(&document_), static_cast<QObject*>(&selected_),
                          static_cast<QObject*>(&keeper_), static_cast<QObject*>(&transport_)})
    object->blockSignals(true);
  qApp->removeEventFilter(this);
  delete takeCentralWidget();
}

// --- views
// ---------------------------------------------------------------------------------------------------------

void MainWindow::makeViews() {
  header_ = new HeaderBar({previous_, play_, stop_, next_}, {zoomOut_, zoomIn_, zoomAll_}, this);
  firstPage_ = new FirstPage(this);
  timeline_ = new TimelineView(document_, selected_, overviews_, this);
  editing_ = new EditActions(document_, selected_, *timeline_, this);
  sheetView_ = new SheetView(this);
  mark_ = new MarkPanel(document_, selected_, cache_, this);
  names_ = new NamesPanel(document_, selected_, this);
  details_ = new DetailsPanel(document_, selected_, this);
  checks_ = new ChecksPanel(document_, this);
  signal_ = new SignalPanel(document_, selected_, this);
  proof_ = new ProofPanel(this);
  makeLowerHalf();
  offers_ = new OfferBar(this);
  bringIn_ = new BringInFlow(document_, selected_, *offers_, this);
  search_ = new SearchField(document_, actions(), this);
  search_->setMinimumWidth(150);
  header_->addSearch(search_);
  briefs_ = new BriefsPanel(document_, this);
  splitViews(makeOutlinePane());
  strip_ = new StripBar(making_, make_, makeAll_, this);
  layOutViews();
}

QWidget* MainWindow::makeOutlinePane() {
  outline_ = new OutlineView(this);
  auto* outlineTitle = new QLabel(tr("REGIONS"), this);
  outlineTitle->setFont(Theme::heading());
  outlineCount_ = new QLabel(this);
  outlineCount_->setFont(Theme::caption());
  auto* outlineHead = new QHBoxLayout;
  outlineHead->setContentsMargins(14, 10, 14, 6);
  outlineHead->addWidget(outlineTitle);
  outlineHead->addStretch();
  outlineHead->addWidget(outlineCount_);
  auto* outlinePane = new QWidget(this);
  outlinePane->setObjectName("pane");
  outlinePane->setMinimumWidth(150);
  auto* outlineLayout = new QVBoxLayout(outlinePane);
  outlineLayout->setContentsMargins(0, 0, 0, 0);
  outlineLayout->setSpacing(0);
  outlineLayout->addLayout(outlineHead);
  outlineLayout->addWidget(outline_);
  return outlinePane;
}

void MainWindow::makeLowerHalf() {
  lower_ = new QTabWidget(this);
  lower_->setObjectName("lower");
  lower_->setDocumentMode(true);
  lower_->tabBar()->setDrawBase(false);
  lower_->setAccessibleName(tr("Lower half"));
  struct Page {
    QWidget* widget;
    QString name, tip;
  };
  const Page pages[]{{sheetView_, tr("Sheet"), tr("Every file that the ticked briefs ask for")},
                     {mark_, tr("Mark"), tr("Regions and clip sets out of the selection")},
                     {names_, tr("Names"), tr("Names as a table; many renamed at once")},
                     {details_, tr("Details"), tr("What the selected things have")},
                     {checks_, tr("Check"), tr("What would go wrong later")},
                     {signal_, tr("Signal"), tr("A source's way to main: effects, sends, faders, curves")},
                     {proof_, tr("Proof"), tr("What was measured while files were made")}};
  QStringList names;
  for (const Page& page : pages) {
    names << page.name;
    lower_->setTabToolTip(lower_->addTab(page.widget, page.name),
                          QString("%1 (Ctrl+%2)").arg(page.tip).arg(names.size()));
  }
  lower_->tabBar()->setAccessibleName(names.join(", "));
}

void MainWindow::splitViews(QWidget* outlinePane) {
  down_ = new QSplitter(Qt::Vertical, this);
  down_->addWidget(timeline_);
  down_->addWidget(lower_);
  down_->setStretchFactor(0, 3);
  down_->setStretchFactor(1, 2);
  across_ = new QSplitter(Qt::Horizontal, this);
  across_->addWidget(outlinePane);
  across_->addWidget(down_);
  across_->addWidget(briefs_);
  across_->setStretchFactor(1, 1);
  for (QSplitter* splitter : {across_, down_}) splitter->setHandleWidth(1);
  for (int i = 0; i < 3; ++i) across_->setCollapsible(i, i != 1);
}

void MainWindow::layOutViews() {
  problem_ = new QLabel(this);
  problem_->setWordWrap(true);
  problem_->setMargin(10);
  problem_->setAutoFillBackground(true);
  problem_->setTextInteractionFlags(Qt::TextSelectableByMouse);
  problem_->setAccessibleName(tr("Problem"));
  problem_->hide();

  pages_ = new QStackedWidget(this);
  pages_->addWidget(firstPage_);
  pages_->addWidget(across_);
  auto* central = new QWidget(this);
  central->setObjectName("pane");
  auto* layout = new QVBoxLayout(central);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->setSpacing(0);
  const auto line = [&] { layout->addWidget(new Hairline(central)); };
  layout->addWidget(header_);
  line();
  layout->addWidget(problem_);
  layout->addWidget(offers_);
  layout->addWidget(pages_, 1);
  line();
  layout->addWidget(strip_);
  setCentralWidget(central);
}

void MainWindow::connectViews() {
  connect(firstPage_, &FirstPage::openDemo, this, &MainWindow::openDemo);
  connect(firstPage_, &FirstPage::openOther, this, &MainWindow::askForSession);
  connect(firstPage_, &FirstPage::openRecent, this, [this](const QString& file) { openSession(file); });
  connect(&document_, &Document::opened, this, &MainWindow::sessionOpened);
  connect(firstPage_, &FirstPage::fromFiles, newFiles_, &QAction::trigger);
  connect(firstPage_, &FirstPage::fromFolder, newFolder_, &QAction::trigger);
  connect(&document_, &Document::changed, this, &MainWindow::sessionChanged);
  connectEditing();
  connect(&document_, &Document::modifiedChanged, this, [this](bool modified) {
    setWindowModified(modified);
    header_->setModified(modified);
  });
  connect(briefs_, &BriefsPanel::tickedChanged, this, &MainWindow::replan);
  connect(briefs_, &BriefsPanel::currentChanged, this, [this] { sheetChanged(); });
  connect(&keeper_, &SheetKeeper::sheetChanged, this, [this] {
    sheetChanged();
    if (const ChooseRows choose = std::exchange(waitingChoice_, nullptr)) makeChosen(choose);
  });
  connect(&keeper_, &SheetKeeper::factsChanged, this, [this] {
    timeline_->setFacts(keeper_.facts());
    mark_->setFacts(keeper_.facts());
    checks_->setFacts(keeper_.facts());
    overviews_.load(*keeper_.session(), keeper_.facts());
  });
  connectPlaces();
  connectRows();
  connect(&making_, &Making::finished, this, &MainWindow::runFinished);
  connect(&transport_, &Transport::positionChanged, this, [this](Frame frame) {
    header_->setPosition(frame);
    timeline_->setPlayhead(frame, transport_.isPlaying() && follow_->isChecked());
    signal_->setPlayhead(frame);
  });
  connect(&transport_, &Transport::playingChanged, this, [this](bool playing) {
    play_->setText(playing ? tr("&Pause") : tr("&Play"));
    play_->setIcon(icon(playing ? "pause" : "play"));
  });
  connect(&transport_, &Transport::problem, this, &MainWindow::showProblem);
  connect(&transport_, &Transport::levelsChanged, header_, &HeaderBar::setLevels);
  connect(&transport_, &Transport::loudnessChanged, header_, &HeaderBar::setLoudness);
  connect(&Theme::instance(), &Theme::changed, this, &MainWindow::sheetChanged);
}

/// Where the outline and the timeline lead.
void MainWindow::connectPlaces() {
  connect(outline_, &OutlineView::regionChosen, this, &MainWindow::chooseRegion);
  connect(outline_, &OutlineView::regionActivated, this, [this](int region) {
    chooseRegion(region);
    zoomToRegion();
  });
  connect(outline_, &OutlineView::regionsSelected, this,
          [this](const Ids& ids) { selected_.set(Thing::Region, ids); });
  connect(outline_, &OutlineView::clipSetChosen, this, [this](int set) {
    reveal(Thing::ClipSet, document_.session()->clipSets[static_cast<std::size_t>(set)].id);
  });
  connect(timeline_, &TimelineView::regionActivated, this, [this](int region) {
    chooseRegion(region);
    zoomToRegion();
  });
  connect(timeline_, &TimelineView::playheadMoved, &transport_, &Transport::setPosition);
  connect(timeline_, &TimelineView::rowChosen, this,
          [this](int row) { sheetView_->select(static_cast<std::size_t>(row)); });
}

/// What the sheet and the signal view show of each other, and rows that are made.
void MainWindow::connectRows() {
  connect(sheetView_, &SheetView::rowChosen, timeline_, &TimelineView::setSelectedRow);
  connect(sheetView_, &SheetView::rowChosen, this, [this](int row) {
    if (row >= 0 && static_cast<std::size_t>(row) < keeper_.sheet()->rows.size())
      signal_->setSource(
          text(keeper_.sheet()->sourceOf(keeper_.sheet()->rows[static_cast<std::size_t>(row)]).id));
  });
  connect(signal_, &SignalPanel::curveShown, this, [this](const QString& place, const QString& target) {
    timeline_->curve().show(place.toStdString(), target.toStdString());
    const auto track = timeline_->model().tree().find(place.toStdString());
    if (!target.isEmpty() && track) timeline_->revealTrack(*track);
  });
  connect(signal_, &SignalPanel::problem, this, [this](const QString& words) { strip_->say(words, true); });
  connect(sheetView_, &SheetView::goToRow, this, &MainWindow::goToRow);
  connect(sheetView_, &SheetView::makeRows, this,
          [this](const std::vector<std::size_t>& rows, bool replaceAny) {
            std::vector<std::size_t> allowed;
            for (const std::size_t row : rows) {
              const Row& r = keeper_.sheet()->rows[row];
              if (replaceAny ? r.state != RowState::Fault : mayBeMadeAgain(*keeper_.sheet(), r))
                allowed.push_back(row);
            }
            makeRows(allowed);
          });
}

void MainWindow::connectEditing() {
  const auto news = [this](const QString& words) { strip_->say(words, false); };
  connect(editing_, &EditActions::said, this, news);
  connect(editing_, &EditActions::nameWanted, this, &MainWindow::startNaming);
  connect(bringIn_, &BringInFlow::said, this, news);
  connect(bringIn_, &BringInFlow::problem, this, &MainWindow::showProblem);
  connect(timeline_, &TimelineView::menuWanted, this, [this](const TimelineHit& hit, const QPoint& at) {
    QMenu menu(this);
    editing_->fillMenu(menu, hit);
    menu.exec(at);
  });
  connect(timeline_, &TimelineView::filesDropped, bringIn_, &BringInFlow::add);
  connect(mark_, &MarkPanel::proposalsChanged, this, [this] { timeline_->setProposals(mark_->proposals()); });
  connect(checks_, &ChecksPanel::goTo, this, &MainWindow::goToFinding);
  connect(proof_, &ProofPanel::goTo, this, [this](const PlannedSpan& span) {
    reveal(span.kind == PlannedSpan::Kind::Region ? Thing::Region : Thing::ClipSet, span.id);
  });
  connect(checks_, &ChecksPanel::findMedium, this, [this] { findMissing(); });
  connect(search_, &SearchField::chosen, this, &MainWindow::goToHit);
  connect(&selected_, &Selected::changed, this, [this] {
    if (const int region = currentRegion(); selected_.regions().size() == 1 && region != outline_->selected())
      outline_->select(region);
    if (only_->isChecked()) hearSelectedOnly(true);
  });
}

void MainWindow::restoreLayout() {
  QSettings settings;
  resize(1280, 800);
  across_->setSizes({220, 710, 350});
  down_->setSizes({430, 280});
  if (settings.contains("window")) restoreGeometry(settings.value("window").toByteArray());
  if (settings.contains("across")) across_->restoreState(settings.value("across").toByteArray());
  if (settings.contains("down")) down_->restoreState(settings.value("down").toByteArray());
  night_->setChecked(settings.value("night", false).toBool());
}

void MainWindow::closeEvent(QCloseEvent* event) {
  if (!maySwitch()) return event->ignore();
  QSettings settings;
  settings.setValue("window", saveGeometry());
  settings.setValue("across", across_->saveState());
  settings.setValue("down", down_->saveState());
  settings.setValue("night", night_->isChecked());
  transport_.stop();
  making_.stop();
  event->accept();
}

void MainWindow::changeEvent(QEvent* event) {
  // Others may have changed files while the window was in the background.
  if (event->type() == QEvent::ActivationChange && isActiveWindow() && document_.isOpen() &&
      !making_.isRunning())
    keeper_.refresh();
  QMainWindow::changeEvent(event);
}

/// Space plays everywhere but in text; what Space does elsewhere, Return does.
bool MainWindow::eventFilter(QObject* watched, QEvent* event) {
  if (event->type() == QEvent::KeyPress) {
    const auto* key = static_cast<QKeyEvent*>(event);
    const auto* widget = qobject_cast<QWidget*>(watched);
    const bool ours =
        widget != nullptr && widget->window() == this && QApplication::activePopupWidget() == nullptr;
    if (ours && key->key() == Qt::Key_Space && !isTextField(watched)) {
      if (key->modifiers() == Qt::ShiftModifier)
        playRegion();
      else if (!key->isAutoRepeat())
        togglePlay();
      return true;
    }
    if (ours && key->key() == Qt::Key_Return && key->modifiers() == Qt::NoModifier)
      if (auto* button = qobject_cast<QAbstractButton*>(watched)) {
        button->click();
        return true;
      }
  }
  return QMainWindow::eventFilter(watched, event);
}

// --- sessions
// ------------------------------------------------------------------------------------------------------

bool MainWindow::openSession(const QString& file) {
  if (!maySwitch()) return false;
  problem_->hide();
  offers_->hide();
  if (const auto opened = document_.open(file); !opened) {
    showProblem(text(opened.error().describe()));
    return false;
  }
  remember(QFileInfo(file).absoluteFilePath());
  if (document_.isShared())
    showProblem(
        tr("%1: another Octaphon has this session open. It can be looked at here; changes can only be saved "
           "under another name.")
            .arg(file));
  return true;
}

bool MainWindow::newSession(const QStringList& files) {
  if (files.isEmpty() || !maySwitch()) return false;
  problem_->hide();
  return bringIn_->makeSession(files);
}

void MainWindow::offerRescue() {
  const std::vector<RescuedWork> found = Rescue::found();
  if (found.empty()) return;
  const RescuedWork& work = found.front();
  offers_->offer(tr("Octaphon ended while %1 had changes that were not saved. They were kept on %2.")
                     .arg(work.name, QLocale().toString(work.when, QLocale::ShortFormat)),
                 {{tr("Bring them back"),
                   [this, work] {
                     auto session = Rescue::read(work);
                     if (!session) return showProblem(text(session.error().describe()));
                     document_.adopt(std::move(*session), work.file.isEmpty());
                     rescue_.flush();
                     Rescue::discard(work);
                   },
                   "rescue"},
                  {tr("Throw them away"), [work] { Rescue::discard(work); }, "rescue"}});
}

void MainWindow::askForSession() {
  const QString file =
      QFileDialog::getOpenFileName(this, tr("Open a session"), {}, tr("Octaphon sessions (*.octaphon)"));
  if (!file.isEmpty()) openSession(file);
}

void MainWindow::openDemo() {
  const QString file = demoFile();
  if (file.isEmpty())
    showProblem(tr("The demo is not there. Run ./demo.sh, which makes its sounds"));
  else
    openSession(file);
}

bool MainWindow::save() {
  if (!document_.isOpen()) return false;
  if (document_.isNew() && QFileInfo::exists(text(document_.session()->file.string()))) return saveAs();
  if (keeper_.facts() && !keeper_.isPlanning()) document_.noteMedia(*keeper_.facts());
  const auto saved = document_.save();
  if (saved) remember(text(document_.session()->file.string()));
  if (!saved) showProblem(text(saved.error().describe()));
  return saved.has_value();
}

bool MainWindow::saveAs() {
  if (!document_.isOpen()) return false;
  QString file =
      QFileDialog::getSaveFileName(this, tr("Save the session as"), text(document_.session()->file.string()),
                                   tr("Octaphon sessions (*.octaphon)"));
  if (file.isEmpty()) return false;
  if (QFileInfo(file).suffix().isEmpty()) file += ".octaphon";
  const auto saved = document_.saveAs(file);
  if (!saved)
    showProblem(text(saved.error().describe()));
  else
    remember(file);
  return saved.has_value();
}

bool MainWindow::maySwitch() {
  if (making_.isRunning()) {
    showProblem(tr("Files are being made. Stop that, or wait for it to end"));
    return false;
  }
  if (!document_.isModified()) return true;
  const auto answer = QMessageBox::question(
      this, tr("Octaphon"),
      tr("%1 has changes that are not saved.").arg(text(document_.session()->displayName())),
      QMessageBox::Save | QMessageBox::Discard | QMessageBox::Cancel, QMessageBox::Save);
  return answer == QMessageBox::Discard || (answer == QMessageBox::Save && save());
}

QStringList MainWindow::recent() const {
  QStringList files = QSettings().value("recent").toStringList();
  files.removeIf([](const QString& file) { return !QFileInfo::exists(file); });
  return files;
}

void MainWindow::remember(const QString& file) {
  QStringList files = recent();
  files.removeAll(file);
  files.prepend(file);
  QSettings().setValue("recent", QStringList(files.mid(0, kMostRecent)));
}

void MainWindow::fillRecentMenu() {
  recentMenu_->clear();
  for (const QString& file : recent())
    recentMenu_->addAction(file, this, [this, file] { openSession(file); });
  if (recentMenu_->isEmpty()) recentMenu_->addAction(tr("none yet"))->setEnabled(false);
}

void MainWindow::sessionOpened() {
  const bool isOpen = document_.isOpen();
  const auto session = document_.session();
  transport_.stop();
  transport_.setPosition(0);
  proof_->clear();
  pages_->setCurrentIndex(isOpen ? 1 : 0);
  strip_->setVisible(isOpen);
  if (!isOpen) firstPage_->setRecent(recent());
  setWindowTitle(isOpen ? text(session->displayName()) + "[*] – Octaphon" : tr("Octaphon"));
  header_->setSession(*session, isOpen);
  if (isOpen) header_->setModified(document_.isModified());
  selected_.clear();
  showOutline();
  timeline_->setSession(session);
  for (QAction* action : {save_,          saveAs_,          close_,         play_,        stop_,
                          playRegion_,    previous_,        next_,          zoomIn_,      zoomOut_,
                          zoomRegion_,    zoomAll_,         filter_,        newBrief_,    zoomSelection_,
                          bringFiles_,    findMedia_,       replaceMedium_, copyMedia_,   writeTable_,
                          showSheet_,     showMark_,        showNames_,     showDetails_, showChecks_,
                          showSignal_,    showProof_,       loop_,          only_,        variation_,
                          nextPlaying_,   previousPlaying_, rowSession_,    rowFile_,     rowDifference_,
                          search_action_, copyBrief_,       deleteBrief_,   folder_})
    action->setEnabled(isOpen);
  editing_->setEnabled(isOpen);
  search_->setVisible(isOpen);
  waitingChoice_ = nullptr;
  strip_->setSheet({});
  sheetView_->setSheet(std::make_shared<Sheet>());
  replan();
}

void MainWindow::showOutline() {
  const auto session = document_.session();
  outline_->setSession(session);
  outlineCount_->setText(session->regions.empty() ? tr("none yet")
                                                  : QString::number(session->regions.size()));
}

void MainWindow::sessionChanged(unsigned parts) {
  const auto session = document_.session();
  if ((parts & ~static_cast<unsigned>(kBriefs)) != 0) {
    selected_.prune(*session);
    timeline_->updateSession(session);
    timeline_->setTiles(keeper_.sheet(), shownBrief());
  }
  if ((parts & (kRegions | kClipSets)) != 0) {
    showOutline();
    outline_->setSheet(*keeper_.sheet());
    if (const int region = currentRegion(); region >= 0) outline_->select(region);
  }
  if ((parts & (kBasics | kTempo)) != 0) header_->setSession(*session, true);
  header_->setModified(document_.isModified());
  replan();
}

// --- finding and listening
// -----------------------------------------------------------------------------------------

void MainWindow::showShortcuts() {
  auto* page = new ShortcutPage(*menuBar(), this);
  page->show();
}

void MainWindow::showProblem(const QString& words) {
  QPalette palette = problem_->palette();
  palette.setColor(QPalette::Window, colour(Role::Sheet));
  palette.setColor(QPalette::WindowText, colour(Role::Fault));
  problem_->setPalette(palette);
  problem_->setText(words);
  problem_->show();
}

void MainWindow::dragEnterEvent(QDragEnterEvent* event) {
  if (event->mimeData()->hasUrls()) event->acceptProposedAction();
}

/// On the first page files become a session; a session file is opened anywhere.
void MainWindow::dropEvent(QDropEvent* event) {
  QStringList files;
  for (const QUrl& url : event->mimeData()->urls())
    if (url.isLocalFile()) files << url.toLocalFile();
  event->acceptProposedAction();
  if (files.isEmpty()) return;
  if (files.size() == 1 && files[0].endsWith(".octaphon")) {
    openSession(files[0]);
  } else if (document_.isOpen()) {
    bringIn_->add(files, 0);
  } else {
    newSession(files);
  }
}

}  // namespace octaphon::app
