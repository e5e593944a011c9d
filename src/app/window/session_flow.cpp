#include "app/window/session_flow.h"

#include <chrono>
#include <QApplication>
#include <QDir>
#include <QFileDialog>
#include <QFileInfo>
#include <QLocale>
#include <QMessageBox>
#include <QStandardPaths>
#include <QTimer>

#include "app/window/demo.h"
#include "app/work/desktop_recent.h"
#include "app/work/settings.h"
#include "app/work/text.h"

namespace octaphon::app {
namespace {

constexpr std::chrono::milliseconds kUntilAnswered{100};

QString sessionFilter() { return SessionFlow::tr("Octaphon sessions (*.octaphon)"); }

void rememberSession(const QString& file) {
  settings::remember(file);
  noteInDesktopRecent(file);
}

}  // namespace

SessionFlow::SessionFlow(Work& work, BringInFlow& bringIn, OfferBar& offers, QWidget* window)
    : QObject(window), work_(work), bringIn_(bringIn), offers_(offers), window_(window) {
  // It was given up for what was on its way: where that did not come, it counts again.
  connect(&work_.jobs(), &LongJobs::changed, this, [this] {
    if (work_.jobs().isBusy(LongJobs::Kind::Session)) return;
    QMetaObject::invokeMethod(
        this,
        [this] {
          if (!work_.jobs().isBusy(LongJobs::Kind::Session)) givenUp_.reset();
        },
        Qt::QueuedConnection);
  });
}

void SessionFlow::clearMessages() {
  work_.news().settle();
  offers_.hide();
}

void SessionFlow::open(const QString& file) {
  if (!work_.jobs().mayStart(LongJobs::Kind::Session)) return;
  whenMaySwitch([this, file] {
    clearMessages();
    work_.jobs().start<Result<ReadDocument>>(
        LongJobs::Kind::Session, tr("Opening %1").arg(QFileInfo(file).completeBaseName()),
        [path = std::filesystem::path(file.toStdString())](JobControl& job) {
          return Document::read(path, &job);
        },
        [this, file](Result<ReadDocument> read) {
          takeOpened(file, std::make_shared<Result<ReadDocument>>(std::move(read)));
        });
  });
}

/// What is open may have been changed meanwhile.
void SessionFlow::takeOpened(const QString& file, const std::shared_ptr<Result<ReadDocument>>& read) {
  if (!*read) {
    givenUp_.reset();
    return work_.news().tellWhy(read->error());
  }
  whenMaySwitch([this, file, read] {
    work_.document().open(std::move(**read));
    rememberSession(QFileInfo(file).absoluteFilePath());
    if (work_.document().isShared())
      work_.news().tell(
          tr("%1: another Octaphon has this session open. It can be looked at here; changes can only be "
             "saved under another name.")
              .arg(file));
  });
}

void SessionFlow::openDemo() {
  if (const QString file = builtDemo(); !file.isEmpty()) return open(file);
  const QString maker = demoMaker(), folder = settings::sessionsFolder() + "/Tidewheel";
  if (maker.isEmpty())
    return work_.news().tell(tr("The demo is not there. Run ./demo.sh, which makes its sounds"));
  work_.jobs().start<Result<>>(
      LongJobs::Kind::Other, tr("Making the sounds of the demo"),
      [maker, folder](JobControl& job) { return makeDemo(maker, folder, job); },
      [this, folder](const Result<>& made) {
        made ? open(folder + "/Tidewheel.octaphon") : work_.news().tellWhy(made.error());
      });
}

void SessionFlow::askForSession() {
  // Beside the one that is open, if there is one.
  const QString folder = work_.document().isOpen()
                             ? QFileInfo(text(work_.session()->file.string())).absolutePath()
                             : settings::sessionsFolder();
  const QString file = QFileDialog::getOpenFileName(window_, tr("Open a session"), folder, sessionFilter());
  if (!file.isEmpty()) open(file);
}

void SessionFlow::makeEmpty() {
  if (!work_.jobs().mayStart(LongJobs::Kind::Session)) return;
  whenMaySwitch([this] {
    clearMessages();
    Session session;
    const QString folder = settings::sessionsFolder() + "/";
    QString file = folder + tr("Session") + ".octaphon";
    for (int number = 2; QFileInfo::exists(file); ++number)
      file = folder + tr("Session %1").arg(number) + ".octaphon";
    session.file = proposed_ = file.toStdString();
    work_.document().adopt(std::move(session), true);
  });
}

void SessionFlow::makeFrom(const QStringList& files) {
  if (files.isEmpty() || !work_.jobs().mayStart(LongJobs::Kind::Session)) return;
  whenMaySwitch([this, files] {
    clearMessages();
    bringIn_.makeSession(files, [this](Then adopt) { whenMaySwitch(std::move(adopt)); });
  });
}

void SessionFlow::save(Then then) {
  Document& document = work_.document();
  if (!document.isOpen() || !work_.jobs().mayStart(LongJobs::Kind::Saving)) return;
  const QString file = text(document.session()->file.string());
  if (document.isNew() && (isUnplaced() || QFileInfo::exists(file))) return saveAs(std::move(then));
  if (work_.sheets().facts() && !work_.sheets().isPlanning()) document.noteMedia(*work_.sheets().facts());
  saveTo(file, document.beginSaving(), std::move(then));
}

/// Of files, a session lies beside them; of nothing, nobody has said where yet.
bool SessionFlow::isUnplaced() const { return work_.session()->file == proposed_; }

void SessionFlow::saveAs(Then then) {
  if (!work_.document().isOpen() || !work_.jobs().mayStart(LongJobs::Kind::Saving)) return;
  QString file = QFileDialog::getSaveFileName(window_, tr("Save the session as"),
                                              text(work_.session()->file.string()), sessionFilter());
  if (file.isEmpty()) return;
  if (QFileInfo(file).suffix().isEmpty()) file += ".octaphon";
  saveTo(file, work_.document().beginSaving(file.toStdString()), std::move(then));
}

/// One goes on working meanwhile: what is written is the session as it was.
void SessionFlow::saveTo(const QString& file, SavedDocument saving, Then then) {
  const auto wanted = std::make_shared<SavedDocument>(std::move(saving));
  work_.jobs().start<Result<SavedDocument>>(
      LongJobs::Kind::Saving, tr("Saving %1").arg(QFileInfo(file).completeBaseName()),
      [wanted](JobControl& job) { return Document::write(std::move(*wanted), &job); },
      [this, file, then = std::move(then)](Result<SavedDocument> saved) {
        const Then waiting = std::exchange(afterSaving_, {});
        if (!saved) return work_.news().tellWhy(saved.error());
        work_.document().noteSaved(std::move(*saved));
        rememberSession(QFileInfo(file).absoluteFilePath());
        if (then) then();
        if (waiting) waiting();
      });
}

void SessionFlow::close() {
  if (!work_.jobs().mayStart(LongJobs::Kind::Session)) return;
  whenMaySwitch([this] {
    clearMessages();
    work_.document().close();
  });
}

/// Nobody is asked twice about the same.
bool SessionFlow::isGivenUp() const { return givenUp_ != nullptr && givenUp_ == work_.session(); }

bool SessionFlow::maySwitch() const {
  return !work_.making().isRunning() && !work_.jobs().isBusy(LongJobs::Kind::Saving) &&
         (!work_.document().isModified() || isGivenUp());
}

void SessionFlow::whenMaySwitch(Then then, Then otherwise) {
  // What a dialog asks is about the session that it was opened over.
  if (QApplication::activeModalWidget() != nullptr)
    return QTimer::singleShot(kUntilAnswered, this, [=, this] { whenMaySwitch(then, otherwise); });
  const auto stay = [&] {
    if (otherwise) otherwise();
  };
  if (work_.making().isRunning()) {
    work_.news().tell(tr("Files are being made. Stop that, or wait for it to end"));
    return stay();
  }
  if (work_.jobs().isBusy(LongJobs::Kind::Saving)) {
    afterSaving_ = [this, then, otherwise] { whenMaySwitch(then, otherwise); };
    return;
  }
  if (maySwitch()) return then();
  const auto answer = QMessageBox::question(
      window_, tr("Octaphon"),
      tr("%1 has changes that are not saved.").arg(text(work_.session()->displayName())),
      QMessageBox::Save | QMessageBox::Discard | QMessageBox::Cancel, QMessageBox::Save);
  if (answer == QMessageBox::Save) return save([this, then, otherwise] { whenMaySwitch(then, otherwise); });
  if (answer != QMessageBox::Discard) return stay();
  givenUp_ = work_.session();
  then();
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
  if (!work_.jobs().mayStart(LongJobs::Kind::Session)) return offerRescue();
  const auto begin = [this, kept] {
    clearMessages();
    work_.jobs().start<Result<Session>>(
        LongJobs::Kind::Session, tr("Bringing back %1").arg(kept.name),
        [kept](JobControl& job) { return Rescue::read(kept, &job); },
        [this, kept](Result<Session> session) {
          takeBack(kept, std::make_shared<Result<Session>>(std::move(session)));
        });
  };
  whenMaySwitch(begin, [this] { offerRescue(); });
}

void SessionFlow::takeBack(const RescuedWork& kept, const std::shared_ptr<Result<Session>>& session) {
  if (!*session) {
    givenUp_.reset();
    work_.news().tellWhy(session->error());
    // It stays for another version, and not before the others.
    if (session->error().code != ErrorCode::Cancelled) unreadable_.insert(kept.keptIn);
    return offerRescue();
  }
  const auto adopt = [this, kept, session] {
    work_.document().adopt(std::move(**session), kept.file.isEmpty());
    work_.rescue().keep([this, kept](bool isKept) {
      if (isKept) Rescue::discard(kept);
      offerRescue();
    });
  };
  whenMaySwitch(adopt, [this] { offerRescue(); });
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
      {"session.new", tr("&New session"), {QKeySequence::New}, needs::free, [&] { flow.makeEmpty(); }},
      {"session.new-files",
       tr("New session from audio &files …"),
       {Qt::CTRL | Qt::ALT | Qt::Key_N},
       needs::free,
       [&] { flow.makeFrom(bringIn.askForFiles()); }},
      {"session.new-folder",
       tr("New session from a fo&lder …"),
       {},
       needs::free,
       [&] { flow.makeFrom(bringIn.askForFolder()); }},
      {"session.open",
       tr("&Open a session …"),
       {QKeySequence::Open},
       needs::free,
       [&] { flow.askForSession(); }},
      {"session.demo", tr("Open the &demo, Tidewheel"), {}, needs::free, [&] { flow.openDemo(); }},
      {"session.save", tr("&Save"), {QKeySequence::Save}, needs::session, [&] { flow.save(); }},
      {"session.save-as",
       tr("Save &as …"),
       {Qt::CTRL | Qt::SHIFT | Qt::Key_S},
       needs::session,
       [&] { flow.saveAs(); }},
      {"session.close", tr("&Close session"), {QKeySequence::Close}, needs::freeSession, [&] {
         flow.close();
       }}});
}

}  // namespace octaphon::app
