#include "app/commands/brief_commands.h"

#include <QDesktopServices>
#include <QDir>
#include <QUrl>

#include "app/work/text.h"
#include "base/unicode.h"

namespace octaphon::app {
namespace {

QString tr(const char* words) { return QObject::tr(words); }

void addBrief(Work& work, Brief brief, const QString& words) {
  work.briefs().choose(work.document().addBrief(std::move(brief), words));
}

void addNew(Work& work) {
  Brief brief = newBrief();
  brief.name = tr("Brief %1").arg(work.session()->briefs.size() + 1).toStdString();
  addBrief(work, std::move(brief), tr("New brief"));
}

void duplicate(Work& work) {
  Brief brief = *work.briefs().current();
  brief.name += tr(" copy").toStdString();
  addBrief(work, std::move(brief), tr("Duplicate brief"));
}

void openFolder(Work& work) {
  for (const PlannedBrief& brief : work.sheets().sheet()->briefs) {
    if (brief.brief.id != work.briefs().currentId()) continue;
    const QString folder = text(brief.base.full().string());
    if (!QDir(folder).exists())
      return work.news().say(tr("The folder is not there yet: make the files first"));
    QDesktopServices::openUrl(QUrl::fromLocalFile(folder));
    return;
  }
  work.news().say(tr("The brief is not ticked: tick it to see its files"));
}

}  // namespace

void addBriefCommands(Commands& commands, Work& work) {
  const auto counts = [&work] { return work.sheets().counts(); };
  commands.add(std::vector<Command>{
      {.id = "brief.new",
       .words = tr("&New brief"),
       .keys = {Qt::CTRL | Qt::SHIFT | Qt::Key_N},
       .needs = needs::session,
       .run = [&] { addNew(work); },
       .icon = "add"},
      {.id = "brief.duplicate",
       .words = tr("&Duplicate brief"),
       .keys = {},
       .needs = needs::brief,
       .run = [&] { duplicate(work); },
       .icon = "copy"},
      {.id = "brief.delete",
       .words = tr("D&elete brief"),
       .keys = {Qt::Key_Delete},
       .needs = needs::brief,
       .run =
           [&] {
             const auto ids = work.briefs().chosen();
             work.document().removeBriefs(ids, tr("Delete %1").arg(text(counted(ids.size(), "brief"))));
           },
       .icon = "remove",
       .isLocal = true},
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
      {.id = "brief.edition",
       .words = tr("Begin a new &edition"),
       .keys = {},
       .needs = needs::begun,
       .run =
           [&] {
             const std::string id = work.briefs().currentId();
             work.acts().setNewEdition(id, !work.acts().newEditions().contains(id));
           },
       .tip = tr(
           "The next run of the brief has another version and today's date; earlier files stay as they are"),
       .wording =
           [&work] {
             return work.acts().newEditions().contains(work.briefs().currentId())
                        ? tr("Go on with the &edition that is there")
                        : tr("Begin a new &edition");
           }},
      {.id = "brief.number-again",
       .words = tr("N&umber again"),
       .keys = {},
       .needs = needs::numbered,
       .run =
           [&] {
             const std::string id = work.briefs().currentId();
             work.acts().setNumberedAgain(id, !work.acts().numberedAgain().contains(id));
           },
       .tip =
           tr("Numbers in names without gaps, from the first on; the sheet shows the names, and the next run "
              "renames the files"),
       .wording =
           [&work] {
             return work.acts().numberedAgain().contains(work.briefs().currentId())
                        ? tr("Keep the n&umbers that are there")
                        : tr("N&umber again");
           }},
      {.id = "brief.folder",
       .words = tr("Open the &folder"),
       .keys = {Qt::CTRL | Qt::SHIFT | Qt::Key_O},
       .needs = needs::brief,
       .run = [&] { openFolder(work); },
       .icon = "folder"}});
}

}  // namespace octaphon::app
