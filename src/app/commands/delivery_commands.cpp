#include "app/commands/delivery_commands.h"

#include <QClipboard>
#include <QDBusConnection>
#include <QDBusMessage>
#include <QDBusPendingCallWatcher>
#include <QDesktopServices>
#include <QDir>
#include <QGuiApplication>
#include <QMimeData>
#include <QUrl>

#include "app/work/settings.h"
#include "app/work/text.h"
#include "base/unicode.h"
#include "brief/phrase.h"

namespace octaphon::app {
namespace {

void openInDesktop(const FolderPath& base) {
  QDesktopServices::openUrl(QUrl::fromLocalFile(text(base.full().string())));
}

/// With the files selected in it, where a file manager takes that (freedesktop.org, file manager interface).
void openFolder(Work& work) {
  const auto base = folderOfBrief(work);
  if (!base) return;
  QStringList files;
  for (const QString& file : work.rows().filesThere()) files << QUrl::fromLocalFile(file).toString();
  if (files.isEmpty()) return openInDesktop(*base);
  QDBusMessage call =
      QDBusMessage::createMethodCall("org.freedesktop.FileManager1", "/org/freedesktop/FileManager1",
                                     "org.freedesktop.FileManager1", "ShowItems");
  call << files << QString();
  auto* answer = new QDBusPendingCallWatcher(QDBusConnection::sessionBus().asyncCall(call), &work);
  QObject::connect(answer, &QDBusPendingCallWatcher::finished, &work, [answer, base] {
    if (answer->isError()) openInDesktop(*base);  // there is none, or it does not know how
    answer->deleteLater();
  });
}

void copyFiles(Work& work) {
  QList<QUrl> files;
  for (const QString& file : work.rows().filesThere()) files << QUrl::fromLocalFile(file);
  if (files.isEmpty()) return work.news().say(tr("None of these files is there: make them first"));
  auto* data = new QMimeData;
  data->setUrls(files);
  QGuiApplication::clipboard()->setMimeData(data);
  work.news().say(tr("%1 copied").arg(text(counted(static_cast<std::size_t>(files.size()), "file"))));
}

/// Of the rows that are selected, those in the folder of the current one; else all of the brief's folder.
void placeBack(Work& work) {
  if (const auto row = work.rows().currentRow()) {
    const auto sheet = work.sheets().sheet();
    return work.handingOver().placeBack(sheet->briefOf(sheet->rows[*row]).base, work.rows().keys());
  }
  if (const auto base = folderOfBrief(work)) work.handingOver().placeBack(*base, {});
}

void report(Work& work) {
  if (work.handingOver().report()) return;
  work.news().say(tr("No ticked brief asks for notes or lists: choose them in its sentence"));
  work.askForPhrase(static_cast<int>(PhraseKind::HandOver));
}

void addHandingOver(Commands& commands, Work& work) {
  commands.add(std::vector<Command>{
      {.id = "delivery.report",
       .words = tr("&Write notes and lists"),
       .keys = {Qt::CTRL | Qt::ALT | Qt::Key_8},
       .needs = needs::session,
       .run = [&work] { report(work); },
       .tip =
           tr("Delivery note, lists, checksums, manifest: what ticked briefs ask for, beside their files")},
      {.id = "delivery.try",
       .words = tr("Tr&y it as the receiver has it"),
       .keys = {Qt::CTRL | Qt::ALT | Qt::Key_9},
       .needs = needs::brief,
       .run =
           [&work] {
             if (const auto base = folderOfBrief(work)) work.handingOver().tryOut(*base);
           },
       .tip = tr("Plays the delivered files by their manifest alone: variations, loops, several at once")},
      {.id = "delivery.place-back",
       .words = tr("P&lace the results back"),
       .keys = {},
       .needs = needs::brief,
       .run = [&work] { placeBack(work); },
       .tip = tr("The files of the selected rows, or all of the brief's folder, onto new tracks beside their "
                 "originals, which are muted")},
      {.id = "row.copy-files",
       .words = tr("Copy the &files"),
       .keys = {},
       .needs = needs::row,
       .run = [&work] { copyFiles(work); },
       .tip = tr("To be pasted into a folder, or another program")}});
}

/// What the next run of the brief that is looked at begins with, or does not.
struct Act {
  const char *id, *words, *instead, *tip;  ///< `instead`: while it is to be done
  Needs needs;
  const std::set<std::string>& (DeliveryActs::*done)() const;
  void (DeliveryActs::*set)(const std::string& brief, bool on);
};
constexpr Act kActs[]{
    {"brief.edition", "Begin a new &edition", "Go on with the &edition that is there",
     "The next run of the brief has another version and today's date; earlier files stay as they are",
     needs::begun, &DeliveryActs::newEditions, &DeliveryActs::setNewEdition},
    {"brief.number-again", "N&umber again", "Keep the n&umbers that are there",
     "Numbers in names without gaps, from the first on; the sheet shows the names, and the next run renames "
     "the "
     "files",
     needs::numbered, &DeliveryActs::numberedAgain, &DeliveryActs::setNumberedAgain}};

Command commandOf(const Act& act, Work& work) {
  const auto isOn = [&act, &work] { return (work.acts().*act.done)().contains(work.briefs().currentId()); };
  return {.id = act.id,
          .words = tr(act.words),
          .keys = {},
          .needs = act.needs,
          .run = [&act, &work, isOn] { (work.acts().*act.set)(work.briefs().currentId(), !isOn()); },
          .tip = tr(act.tip),
          .wording = [&act, isOn] { return tr(isOn() ? act.instead : act.words); }};
}

void addMaking(Commands& commands, Work& work) {
  const auto counts = [&work] { return work.sheets().counts(); };
  commands.add(std::vector<Command>{
      {.id = "make.due",
       .words = tr("Nothing to make"),
       .keys = {Qt::CTRL | Qt::Key_Return},
       .needs = needs::due,
       .run = [&] { work.maker().makeDue(); },
       .tip = tr("Makes what is not up to date"),
       .wording =
           [counts] {
             const std::size_t files = counts().makeable;
             return files == 0 ? tr("Nothing to make") : tr("Make %1").arg(text(counted(files, "file")));
           }},
      {.id = "make.all",
       .words = tr("All"),
       .keys = {Qt::CTRL | Qt::SHIFT | Qt::Key_Return},
       .needs = needs::again,
       .run = [&] { work.maker().makeAll(); },
       .tip = tr("Makes all files of ours again, but nothing that others put there or altered"),
       .wording = [counts] { return tr("All %1").arg(counts().again); }},
      {.id = "make.failed",
       .words = tr("&Try again what failed"),
       .keys = {Qt::CTRL | Qt::ALT | Qt::Key_Return},
       .needs = needs::failed,
       .run = [&] { work.maker().makeFailed(); },
       .tip = tr("Makes the files that could not be made, once what kept them is out of the way"),
       .wording =
           [&work] {
             const std::size_t files = work.maker().failed().size();
             return files == 0 ? tr("&Try again what failed")
                               : tr("&Try %1 again").arg(text(counted(files, "failed file")));
           }}});
}

/// How much is read back of what is made, from now on.
void addReading(Commands& commands) {
  QAction* bytes =
      commands.add(Switch{"delivery.only-bytes",
                          tr("On slow disks: &compare bytes only"),
                          {},
                          settings::readsBack() == ReadsBack::Bytes,
                          [](bool on) { settings::setReadsBack(on ? ReadsBack::Bytes : ReadsBack::All); }});
  bytes->setEnabled(settings::readsBack() != ReadsBack::None);
  commands.add(Switch{"delivery.reads-back",
                      tr("Read &back what is made"),
                      {},
                      settings::readsBack() != ReadsBack::None,
                      [bytes](bool on) {
                        bytes->setEnabled(on);
                        settings::setReadsBack(!on                  ? ReadsBack::None
                                               : bytes->isChecked() ? ReadsBack::Bytes
                                                                    : ReadsBack::All);
                      }});
}

}  // namespace

std::optional<FolderPath> folderOfBrief(Work& work) {
  const auto sheet = work.sheets().sheet();
  for (const PlannedBrief& brief : sheet->briefs) {
    if (brief.brief.id != work.briefs().currentId()) continue;
    if (QDir(text(brief.base.full().string())).exists()) return brief.base;
    work.news().say(tr("The folder is not there yet: make the files first"));
    return std::nullopt;
  }
  work.news().say(tr("The brief is not ticked: tick it to see its files"));
  return std::nullopt;
}

void addDeliveryCommands(Commands& commands, Work& work) {
  addMaking(commands, work);
  addReading(commands);
  addHandingOver(commands, work);
  const auto counts = [&work] { return work.sheets().counts(); };
  for (const Act& act : kActs) commands.add(commandOf(act, work));
  commands.add(std::vector<Command>{
      {.id = "folder.clean",
       .words = tr("Move left-over files to the &trash"),
       .keys = {},
       .needs = needs::leftOver,
       .run = [&] { work.cleaning().toTrash(work.sheets().sheet()->folders); },
       .tip = tr("Files of ours, of this edition, that no brief asks for any more; others stay"),
       .wording =
           [counts] {
             return tr("Move %1 to the &trash").arg(text(counted(counts().leftOver, "left-over file")));
           }},
      {.id = "delivery.check",
       .words = tr("&Check what was delivered"),
       .keys = {Qt::CTRL | Qt::ALT | Qt::Key_7},
       .needs = needs::session,
       .run =
           [&] {
             work.showPanel("proof");
             work.checking().check();
           },
       .tip = tr("Reads every file of the ticked briefs as it lies on the disk, and holds it against what it "
                 "was to be")},
      {.id = "brief.folder",
       .words = tr("Open the &folder"),
       .keys = {Qt::CTRL | Qt::SHIFT | Qt::Key_O},
       .needs = needs::brief,
       .run = [&] { openFolder(work); },
       .icon = "folder"}});
}

}  // namespace octaphon::app
