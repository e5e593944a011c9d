#include "app/window/session_flow.h"

#include <QCoreApplication>
#include <QDir>
#include <QFileDialog>
#include <QFileInfo>
#include <QLocale>
#include <QMessageBox>
#include <QStandardPaths>

#include "app/work/settings.h"
#include "app/work/text.h"

namespace octaphon::app {
namespace {

QString filter() { return SessionFlow::tr("Octaphon sessions (*.octaphon)"); }

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

QString homeFolder() {
  const QString documents = QStandardPaths::writableLocation(QStandardPaths::DocumentsLocation);
  return documents.isEmpty() ? QDir::homePath() : documents;
}

}  // namespace

SessionFlow::SessionFlow(Work& work, BringInFlow& bringIn, OfferBar& offers, QWidget* window)
    : QObject(window), work_(work), bringIn_(bringIn), offers_(offers), window_(window) {}

void SessionFlow::clearMessages() {
  work_.news().settle();
  offers_.hide();
}

bool SessionFlow::open(const QString& file) {
  if (!maySwitch()) return false;
  clearMessages();
  if (const auto opened = work_.document().open(file); !opened) {
    work_.news().tell(text(opened.error().describe()));
    return false;
  }
  settings::remember(QFileInfo(file).absoluteFilePath());
  if (work_.document().isShared())
    work_.news().tell(
        tr("%1: another Octaphon has this session open. It can be looked at here; changes can only be saved "
           "under another name.")
            .arg(file));
  return true;
}

bool SessionFlow::openDemo() {
  const QString file = demoFile();
  if (!file.isEmpty()) return open(file);
  work_.news().tell(tr("The demo is not there. Run ./demo.sh, which makes its sounds"));
  return false;
}

void SessionFlow::askForSession() {
  const QString file = QFileDialog::getOpenFileName(window_, tr("Open a session"), {}, filter());
  if (!file.isEmpty()) open(file);
}

bool SessionFlow::makeEmpty() {
  if (!maySwitch()) return false;
  clearMessages();
  Session session;
  QString file = homeFolder() + "/" + tr("Session") + ".octaphon";
  for (int number = 2; QFileInfo::exists(file); ++number)
    file = homeFolder() + "/" + tr("Session %1").arg(number) + ".octaphon";
  session.file = proposed_ = file.toStdString();
  work_.document().adopt(std::move(session), true);
  return true;
}

bool SessionFlow::makeFrom(const QStringList& files) {
  if (files.isEmpty() || !maySwitch()) return false;
  clearMessages();
  return bringIn_.makeSession(files);
}

bool SessionFlow::save() {
  Document& document = work_.document();
  if (!document.isOpen()) return false;
  const QString file = text(document.session()->file.string());
  if (document.isNew() && (isUnplaced() || QFileInfo::exists(file))) return saveAs();
  if (work_.sheets().facts() && !work_.sheets().isPlanning()) document.noteMedia(*work_.sheets().facts());
  if (const auto saved = document.save(); !saved) {
    work_.news().tell(text(saved.error().describe()));
    return false;
  }
  settings::remember(QFileInfo(file).absoluteFilePath());
  return true;
}

/// Of files, a session lies beside them; of nothing, nobody has said where yet.
bool SessionFlow::isUnplaced() const { return work_.session()->file == proposed_; }

bool SessionFlow::saveAs() {
  if (!work_.document().isOpen()) return false;
  QString file = QFileDialog::getSaveFileName(window_, tr("Save the session as"),
                                              text(work_.session()->file.string()), filter());
  if (file.isEmpty()) return false;
  if (QFileInfo(file).suffix().isEmpty()) file += ".octaphon";
  return saveUnder(file);
}

bool SessionFlow::saveUnder(const QString& file) {
  if (const auto saved = work_.document().saveAs(file); !saved) {
    work_.news().tell(text(saved.error().describe()));
    return false;
  }
  settings::remember(QFileInfo(file).absoluteFilePath());
  return true;
}

void SessionFlow::close() {
  if (!maySwitch()) return;
  clearMessages();
  work_.document().close();
}

bool SessionFlow::maySwitch() {
  if (work_.making().isRunning()) {
    work_.news().tell(tr("Files are being made. Stop that, or wait for it to end"));
    return false;
  }
  if (!work_.document().isModified()) return true;
  const auto answer = QMessageBox::question(
      window_, tr("Octaphon"),
      tr("%1 has changes that are not saved.").arg(text(work_.session()->displayName())),
      QMessageBox::Save | QMessageBox::Discard | QMessageBox::Cancel, QMessageBox::Save);
  return answer == QMessageBox::Discard || (answer == QMessageBox::Save && save());
}

void SessionFlow::offerRescue() {
  std::vector<RescuedWork> found = Rescue::found();
  std::erase_if(found, [this](const RescuedWork& work) { return unreadable_.contains(work.keptIn); });
  if (found.empty()) return;
  const RescuedWork kept = found.front();
  QString words = tr("Octaphon ended while %1 had changes that were not saved. They were kept on %2.")
                      .arg(kept.name, QLocale().toString(kept.when, QLocale::ShortFormat));
  if (found.size() > 1) words += ' ' + tr("%1 more behind it.").arg(found.size() - 1);
  offers_.offer(words, {{tr("Bring them back"), [this, kept] { bringBack(kept); }, "rescue"},
                        {tr("Throw them away"),
                         [this, kept] {
                           Rescue::discard(kept);
                           offerRescue();
                         },
                         "rescue"}});
}

/// What is open is not lost for it, and what was kept stays until it is kept here.
void SessionFlow::bringBack(const RescuedWork& kept) {
  if (!maySwitch()) return offerRescue();
  work_.news().settle();
  auto session = Rescue::read(kept);
  if (!session) {
    work_.news().tell(text(session.error().describe()));
    unreadable_.insert(kept.keptIn);  // it stays for another version, and not before the others
    return offerRescue();
  }
  work_.document().adopt(std::move(*session), kept.file.isEmpty());
  if (work_.rescue().flush()) Rescue::discard(kept);
  offerRescue();
}

void SessionFlow::drop(const QStringList& files) {
  if (files.isEmpty()) return;
  if (files.size() == 1 && files[0].endsWith(".octaphon"))
    open(files[0]);
  else if (work_.document().isOpen())
    bringIn_.add(files, 0);
  else
    makeFrom(files);
}

void addSessionCommands(Commands& commands, SessionFlow& flow, BringInFlow& bringIn) {
  const auto tr = [](const char* words) { return SessionFlow::tr(words); };
  commands.add(std::vector<Command>{
      {"session.new", tr("&New session"), {QKeySequence::New}, needs::idle, [&] { flow.makeEmpty(); }},
      {"session.new-files",
       tr("New session from audio &files …"),
       {Qt::CTRL | Qt::ALT | Qt::Key_N},
       needs::idle,
       [&] { flow.makeFrom(bringIn.askForFiles()); }},
      {"session.new-folder",
       tr("New session from a fo&lder …"),
       {},
       needs::idle,
       [&] { flow.makeFrom(bringIn.askForFolder()); }},
      {"session.open",
       tr("&Open a session …"),
       {QKeySequence::Open},
       needs::idle,
       [&] { flow.askForSession(); }},
      {"session.demo", tr("Open the &demo, Tidewheel"), {}, needs::idle, [&] { flow.openDemo(); }},
      {"session.save", tr("&Save"), {QKeySequence::Save}, needs::session, [&] { flow.save(); }},
      {"session.save-as",
       tr("Save &as …"),
       {Qt::CTRL | Qt::SHIFT | Qt::Key_S},
       needs::session,
       [&] { flow.saveAs(); }},
      {"session.close", tr("&Close session"), {QKeySequence::Close}, needs::session, [&] { flow.close(); }}});
}

}  // namespace octaphon::app
