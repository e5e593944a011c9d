#include "app/commands/brief_commands.h"

#include <algorithm>
#include <QObject>

#include "app/work/text.h"
#include "base/unicode.h"

namespace octaphon::app {
namespace {

void addBrief(Work& work, Brief brief, const QString& words) {
  work.briefs().choose(work.document().addBrief(std::move(brief), words));
}

void addNew(Work& work) {
  Brief brief = newBrief();
  brief.name = tr("Brief %1").arg(work.session()->briefs.size() + 1).toStdString();
  addBrief(work, std::move(brief), tr("New brief"));
}

void duplicateBrief(Work& work) {
  Brief brief = *work.briefs().current();
  brief.name += tr(" copy").toStdString();
  addBrief(work, std::move(brief), tr("Duplicate brief"));
}

/// Those that are looked at, one place up or down.
void move(Work& work, int by) {
  const std::vector<std::string> ids = work.briefs().chosen();
  const auto isChosen = [&](const Brief& brief) {
    return std::find(ids.begin(), ids.end(), brief.id) != ids.end();
  };
  work.document().edit(by < 0 ? tr("Move briefs up") : tr("Move briefs down"), [&](Session& session) {
    auto& briefs = session.briefs;
    if (by > 0) std::reverse(briefs.begin(), briefs.end());
    for (std::size_t i = 1; i < briefs.size(); ++i)
      if (isChosen(briefs[i]) && !isChosen(briefs[i - 1])) std::swap(briefs[i], briefs[i - 1]);
    if (by > 0) std::reverse(briefs.begin(), briefs.end());
  });
}

}  // namespace

void addBriefCommands(Commands& commands, Work& work) {
  commands.add(std::vector<Command>{{.id = "brief.new",
                                     .words = tr("&New brief"),
                                     .keys = {Qt::CTRL | Qt::SHIFT | Qt::Key_N},
                                     .needs = needs::session,
                                     .run = [&] { addNew(work); },
                                     .icon = "add"},
                                    {.id = "brief.duplicate",
                                     .words = tr("&Duplicate brief"),
                                     .keys = {},
                                     .needs = needs::brief,
                                     .run = [&] { duplicateBrief(work); },
                                     .icon = "copy"},
                                    {.id = "brief.up",
                                     .words = tr("Move brief &up"),
                                     .keys = {Qt::CTRL | Qt::ALT | Qt::Key_Up},
                                     .needs = needs::brief,
                                     .run = [&] { move(work, -1); }},
                                    {.id = "brief.down",
                                     .words = tr("Move brief do&wn"),
                                     .keys = {Qt::CTRL | Qt::ALT | Qt::Key_Down},
                                     .needs = needs::brief,
                                     .run = [&] { move(work, 1); }},
                                    {.id = "brief.delete",
                                     .words = tr("D&elete brief"),
                                     .keys = {Qt::Key_Delete},
                                     .needs = needs::brief,
                                     .run =
                                         [&] {
                                           const auto ids = work.briefs().chosen();
                                           work.document().removeBriefs(
                                               ids, tr("Delete %1").arg(text(counted(ids.size(), "brief"))));
                                         },
                                     .icon = "remove",
                                     .isLocal = true}});
}

}  // namespace octaphon::app
