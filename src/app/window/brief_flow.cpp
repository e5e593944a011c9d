#include "app/window/brief_flow.h"

#include <algorithm>
#include <QFileDialog>
#include <QFileInfo>

#include "app/work/file_writing.h"
#include "app/work/settings.h"
#include "app/work/text.h"
#include "base/files.h"
#include "base/unicode.h"
#include "naming/file_name.h"
#include "plan/planner.h"
#include "session/mistakes.h"

namespace octaphon::app {
namespace {

QString briefFilter() { return BriefFlow::tr("Octaphon briefs (*.octaphon-brief)"); }

constexpr qsizetype kMostTold = 6;

/// What the brief's rules find in a session, but for what was said to be missing.
QStringList findingsOf(const Session& session, const std::string& name) {
  const auto request = requestFor(session, {name});
  QStringList lines;
  if (!request) return lines;
  const Sheet sheet = planSheet(session, MediaFacts(), *request);
  for (const PlannedBrief& brief : sheet.briefs) {
    lines << BriefFlow::tr("%1: %2").arg(text(printable(name, 80)), text(countText(sheet)));
    for (const Remark& remark : brief.remarks) lines << text(remark.text);
  }
  return lines;
}

}  // namespace

BriefFlow::BriefFlow(Work& work, OfferBar& offers, QWidget* window)
    : QObject(window), work_(work), offers_(offers), window_(window) {}

/// The one that was chosen, else where the session lies.
QString BriefFlow::folder() const {
  const QString chosen = settings::briefsFolder();
  return chosen.isEmpty() ? QFileInfo(text(work_.session()->file.string())).absolutePath() : chosen;
}

void BriefFlow::save() {
  const Brief* brief = work_.briefs().current();
  if (brief == nullptr) return;
  const QString proposed =
      folder() + "/" + text(printable(allowedName(brief->name), 200)) + ".octaphon-brief";
  QString file = QFileDialog::getSaveFileName(window_, tr("Save briefs as"), proposed, briefFilter());
  if (file.isEmpty()) return;
  if (QFileInfo(file).suffix().isEmpty()) file += ".octaphon-brief";
  saveTo(file);
}

/// Those that are chosen.
void BriefFlow::saveTo(const QString& file) {
  const std::vector<std::string> ids = work_.briefs().chosen();
  std::vector<Brief> briefs;
  for (const Brief& brief : work_.session()->briefs)
    if (std::find(ids.begin(), ids.end(), brief.id) != ids.end()) briefs.push_back(brief);
  writeFile(
      work_.jobs(), work_.news(), file,
      [session = work_.session(), briefs] { return writeBriefs(briefFileOf(*session, briefs)); },
      tr("%1 written to %2").arg(text(counted(ids.size(), "brief")), file));
}

void BriefFlow::askForFile() {
  const QString file =
      QFileDialog::getOpenFileName(window_, tr("Take briefs from a file"), folder(), briefFilter());
  if (!file.isEmpty()) offer(file);
}

void BriefFlow::offer(const QString& file) {
  const auto content = readFile(file.toStdString(), kMaxBriefBytes);
  auto read =
      content ? readBriefs(*content, file.toStdString()) : Result<BriefFile>(tl::unexpected(content.error()));
  if (read && read->briefs.empty())
    read = fail(ErrorCode::BadValue, file.toStdString(), "there is no brief in it", "Choose another file");
  if (!read) return work_.news().tell(text(read.error().describe()));
  Session tried = *work_.session();
  QStringList lines;
  for (const Brief& brief : read->briefs) {
    const AppliedBrief applied = applyBrief(tried, brief, read->names);
    if (applied.isReplaced)
      lines << tr("%1 replaces the one of its name").arg(text(printable(brief.name, 80)));
    for (const MissingThing& missing : applied.missing)
      lines << tr("%1: there is no %2 here").arg(text(printable(brief.name, 80)), text(missing.words()));
  }
  for (const Brief& brief : read->briefs) lines << findingsOf(tried, brief.name);
  if (const auto mistake = mistakeIn(tried))
    return work_.news().tell(file + ": " + text(mistake->text) + ". " + text(mistake->cure));
  if (lines.size() > kMostTold)
    lines = lines.mid(0, kMostTold) << tr("and %1 more").arg(lines.size() - kMostTold);
  offers_.offer(lines.join('\n'), {{tr("Take %1").arg(text(counted(read->briefs.size(), "brief"))),
                                    [this, read = *read] { take(read); }}});
}

void BriefFlow::take(const BriefFile& file) {
  work_.document().edit(tr("Take %1 from a file").arg(text(counted(file.briefs.size(), "brief"))),
                        [&](Session& session) {
                          for (const Brief& brief : file.briefs) (void)applyBrief(session, brief, file.names);
                        });
  for (const Brief& brief : work_.session()->briefs)
    if (brief.name == file.briefs.back().name) return work_.briefs().choose(brief.id);
}

void addBriefFileCommands(Commands& commands, BriefFlow& flow) {
  commands.add(std::vector<Command>{{.id = "brief.save-file",
                                     .words = BriefFlow::tr("&Save briefs as a file …"),
                                     .keys = {},
                                     .needs = needs::brief,
                                     .run = [&flow] { flow.save(); },
                                     .tip = BriefFlow::tr("Those that are selected, for other sessions")},
                                    {.id = "brief.take-file",
                                     .words = BriefFlow::tr("&Take briefs from a file …"),
                                     .keys = {},
                                     .needs = needs::session,
                                     .run = [&flow] { flow.askForFile(); },
                                     .tip = BriefFlow::tr("What they find in this session is told before")}});
}

}  // namespace octaphon::app
