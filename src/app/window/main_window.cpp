#include "app/window/main_window.h"

#include <QCloseEvent>
#include <QFileInfo>
#include <QMimeData>
#include <QScreen>
#include <QUrl>
#include <QVBoxLayout>

#include "app/commands/brief_commands.h"
#include "app/commands/delivery_commands.h"
#include "app/commands/edit_commands.h"
#include "app/commands/listen_commands.h"
#include "app/commands/print_commands.h"
#include "app/commands/row_commands.h"
#include "app/help/help_window.h"
#include "app/help/log_window.h"
#include "app/look/hairline.h"
#include "app/look/theme.h"
#include "app/preferences/preferences_dialog.h"
#include "app/sheet/sheet_view.h"
#include "app/timeline/timeline_commands.h"
#include "app/window/brief_flow.h"
#include "app/window/hand_over_commands.h"
#include "app/window/job_lines.h"
#include "app/window/key_rules.h"
#include "app/window/menus.h"
#include "app/window/notifier.h"
#include "app/window/panel_list.h"
#include "app/window/shortcut_page.h"
#include "app/work/settings.h"
#include "app/work/text.h"

namespace octaphon::app {
namespace {

/// Windows and panels stand where they stood with these screens: at a desk with two, and on the way with one.
QString screensNow() {
  QStringList screens;
  for (const QScreen* screen : QGuiApplication::screens()) {
    const QRect at = screen->geometry();
    screens << QString("%1 %2x%3+%4+%5")
                   .arg(screen->name())
                   .arg(at.width())
                   .arg(at.height())
                   .arg(at.x())
                   .arg(at.y());
  }
  screens.sort();
  return screens.join(", ");
}

/// The one that stands open already, if there is one.
template <class Page>
void openPage(const QWidget* window, const std::function<Page*()>& make) {
  Page* page = window->findChild<Page*>();
  if (page == nullptr) page = make();
  page->show();
  page->raise();
  page->activateWindow();
}

}  // namespace

MainWindow::MainWindow(Work& work) : work_(work), commands_(work, this) {
  setWindowTitle(tr("Octaphon[*]"));
  setWindowIcon(QIcon(":/icons/octaphon.svg"));
  setMinimumSize(900, 560);
  setAcceptDrops(true);
  addEditCommands(commands_, work_);
  addMarkCommands(commands_, work_);
  addTrackCommands(commands_, work_);
  addListenCommands(commands_, work_);
  addBriefCommands(commands_, work_);
  addPrintCommands(commands_, work_);
  addDeliveryCommands(commands_, work_);
  addRowCommands(commands_, work_);
  offers_ = new OfferBar(this);
  bringIn_ = new BringInFlow(work_, *offers_, this);
  addBringInCommands(commands_, *bringIn_);
  sessions_ = new SessionFlow(work_, *bringIn_, *offers_, this);
  addSessionCommands(commands_, *sessions_, *bringIn_);
  addHandOverCommands(commands_, work_, *sessions_, this);
  briefFiles_ = new BriefFlow(work_, *offers_, this);
  addBriefFileCommands(commands_, *briefFiles_);
  timeline_ = new TimelineView(work_, commands_, this);
  addTimelineCommands(commands_, work_, *timeline_);
  addCommands();
  panels_ = new Panels(timeline_, panelsOf(work_, commands_, *bringIn_), commands_, this);
  layOut();
  fillMenus(*menuBar(), commands_, panels_->commandIds(),
            [this](const QString& file) { sessions_->open(file); });
  new KeyRules(commands_, work_, this);
  new Notifier(work_, this);
  connectWork();
  restoreLooks();
  showSession();
}

/// Views look at the work until they go.
MainWindow::~MainWindow() {
  work_.transport().stop();
  delete takeCentralWidget();
}

void MainWindow::addCommands() {
  search_ = new SearchField(work_, commands_, this);
  commands_.add(std::vector<Command>{
      {"view.search",
       tr("&Search everything"),
       {QKeySequence::Find},
       needs::session,
       [this] {
         search_->setFocus(Qt::ShortcutFocusReason);
         search_->selectAll();
       }},
      {"view.filter",
       tr("&Filter the sheet"),
       {Qt::CTRL | Qt::SHIFT | Qt::Key_F},
       needs::session,
       [this] {
         panels_->show("sheet");
         static_cast<SheetView*>(panels_->content("sheet"))->focusFilter();
       }},
      {"program.stop",
       tr("S&top what is under way"),
       {Qt::CTRL | Qt::SHIFT | Qt::Key_Period},
       needs::underway,
       [this] { stopNewest(); },
       {},
       tr("The last that was begun; nothing is left half done"),
       [this] { return stopWords(); }},
      {"program.quit", tr("&Quit"), {QKeySequence::Quit}, needs::nothing, [this] { QMainWindow::close(); }}});
  addPages();
}

/// Windows of their own, and the colours that one of them chooses.
void MainWindow::addPages() {
  look_ = new WornLook(this);
  commands_.add(std::vector<Command>{
      {"program.preferences",
       tr("&Preferences …"),
       {Qt::CTRL | Qt::Key_Comma},
       needs::nothing,
       [this] {
         openPage<PreferencesDialog>(
             this, [this] { return new PreferencesDialog(work_, commands_, *look_, this); });
       }},
      {"program.help",
       tr("&Help"),
       {QKeySequence::HelpContents},
       needs::nothing,
       [this] { openPage<HelpWindow>(this, [this] { return new HelpWindow(this); }); }},
      {"program.shortcuts",
       tr("&Shortcuts"),
       {Qt::SHIFT | Qt::Key_F1},
       needs::nothing,
       [this] { openPage<ShortcutPage>(this, [this] { return new ShortcutPage(*menuBar(), this); }); }},
      {"program.log", tr("&What the program did …"), {}, needs::nothing, [this] {
         openPage<LogWindow>(this, [this] { return new LogWindow(work_, this); });
       }}});
  QAction* night = commands_.add(Switch{
      "view.night", tr("&Night colours"), {}, Theme::instance().look() == Look::Night, [this](bool on) {
        look_->choose(on ? Colours::Night : Colours::Day);
      }});
  connect(look_, &WornLook::changed, night, [night] {
    const QSignalBlocker blocker(night);
    night->setChecked(Theme::instance().look() == Look::Night);
  });
}

void MainWindow::stopNewest() {
  const std::vector<LongJobs::Job>& jobs = work_.jobs().jobs();
  if (jobs.empty())
    work_.making().stop();
  else
    work_.jobs().stop(jobs.back().id);
}

QString MainWindow::stopWords() const {
  const std::vector<LongJobs::Job>& jobs = work_.jobs().jobs();
  if (jobs.empty())
    return work_.making().isRunning() ? tr("S&top making files") : tr("S&top what is under way");
  return tr("S&top: %1").arg(jobs.back().words);
}

void MainWindow::layOut() {
  firstPage_ = new FirstPage(
      commands_, [this](const QString& file) { sessions_->open(file); }, this);
  strip_ = new StripBar(work_, commands_, this);
  pages_ = new QStackedWidget(this);
  pages_->addWidget(firstPage_);
  pages_->addWidget(panels_);
  auto* central = new QWidget(this);
  central->setObjectName("pane");
  auto* layout = new QVBoxLayout(central);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->setSpacing(0);
  layout->addWidget(new HeaderBar(work_, commands_, search_, central));
  layout->addWidget(new Hairline(central));
  layout->addWidget(new ProblemLine(work_.news(), central));
  layout->addWidget(new JobLines(work_.jobs(), central));
  layout->addWidget(offers_);
  layout->addWidget(pages_, 1);
  layout->addWidget(new Hairline(central));
  layout->addWidget(strip_);
  setCentralWidget(central);
}

void MainWindow::connectWork() {
  connect(&work_.document(), &Document::opened, this, &MainWindow::showSession);
  connect(&work_.document(), &Document::moved, this, &MainWindow::showSession);
  connect(&work_.document(), &Document::modifiedChanged, this, &QWidget::setWindowModified);
  connect(&work_.making(), &Making::started, &work_.news(), &News::settle);
  connect(&work_, &Work::panelWanted, this, &MainWindow::showPanel);
}

void MainWindow::showPanel(const QString& id) {
  if (id == "timeline")
    timeline_->setFocus();
  else
    panels_->show(id);
}

void MainWindow::showSession() {
  const bool isOpen = work_.document().isOpen();
  setWindowTitle(isOpen ? text(work_.session()->displayName()) + "[*] – Octaphon" : tr("Octaphon[*]"));
  setWindowModified(isOpen && work_.document().isModified());
  if (!isOpen) firstPage_->setRecent(settings::recent());
  pages_->setCurrentIndex(isOpen ? 1 : 0);
  strip_->setVisible(isOpen);
  search_->setVisible(isOpen);
}

void MainWindow::restoreLooks() {
  resize(1280, 800);
  const QByteArray here = settings::layout("window " + screensNow());
  restoreGeometry(here.isEmpty() ? settings::layout("window") : here);
  fitScreen();
  const QByteArray panels = settings::layout("panels " + screensNow());
  panels_->arrange(panels.isEmpty() ? settings::layout("panels") : panels);
}

/// No larger than the screen it opens on, and on it.
void MainWindow::fitScreen() {
  const QRect room = screen()->availableGeometry();
  resize(size().boundedTo(room.size()));
  if (room.contains(geometry())) return;
  const QPoint at(std::max(room.left(), std::min(x(), room.right() - width() + 1)),
                  std::max(room.top(), std::min(y(), room.bottom() - height() + 1)));
  move(at);
}

void MainWindow::keepLooks() const {
  for (const QString& screens : {QString(), " " + screensNow()}) {
    settings::setLayout("window" + screens, saveGeometry());
    settings::setLayout("panels" + screens, panels_->arrangement());
  }
}

void MainWindow::closeEvent(QCloseEvent* event) {
  if (!mayClose_ && !sessions_->maySwitch()) {
    event->ignore();
    return sessions_->whenMaySwitch([this] {
      mayClose_ = true;
      QMetaObject::invokeMethod(this, &QWidget::close, Qt::QueuedConnection);
    });
  }
  mayClose_ = false;
  keepLooks();
  work_.transport().stop();
  event->accept();
}

/// Others may have changed files while the window was in the background.
void MainWindow::changeEvent(QEvent* event) {
  const bool isBack = event->type() == QEvent::ActivationChange && isActiveWindow();
  if (isBack && work_.document().isOpen() && !work_.making().isRunning()) work_.sheets().refresh();
  QMainWindow::changeEvent(event);
}

void MainWindow::dragEnterEvent(QDragEnterEvent* event) {
  if (event->mimeData()->hasUrls()) event->acceptProposedAction();
}

void MainWindow::dropEvent(QDropEvent* event) {
  QStringList files;
  for (const QUrl& url : event->mimeData()->urls())
    if (url.isLocalFile()) files << url.toLocalFile();
  event->acceptProposedAction();
  take(files);
}

void MainWindow::take(const QStringList& files) {
  if (files.size() != 1) return sessions_->drop(files);
  const QString& file = files.front();
  if (file.endsWith(".octaphon")) {
    if (!isOpen(file)) sessions_->open(file);
  } else if (file.endsWith(".octaphon-brief")) {
    work_.document().isOpen()
        ? briefFiles_->offer(file)
        : work_.news().tell(tr("These are briefs for a session. Open the session first"));
  } else if (QFileInfo(file).isFile()) {
    // A file that was delivered leads to its row; others are brought in.
    work_.handingOver().locate(file, [this, files] { sessions_->drop(files); });
  } else if (QFileInfo::exists(file)) {
    sessions_->drop(files);
  } else {
    sessions_->open(file);  // which says that it is not there
  }
}

/// What is open stays as it is, with what was changed in it.
bool MainWindow::isOpen(const QString& session) const {
  return work_.document().isOpen() && QFileInfo(session).exists() &&
         QFileInfo(session) == QFileInfo(text(work_.session()->file.string()));
}

void MainWindow::comeToFront() {
  setWindowState(windowState() & ~Qt::WindowMinimized);
  show();
  raise();
  activateWindow();
}

}  // namespace octaphon::app
