#include "app/commands/print_commands.h"

#include <QObject>

#include "app/work/text.h"
#include "brief/phrase.h"
#include "edit/aimed_brief.h"

namespace octaphon::app {
namespace {

/// Ready with the cursor in its sentence: at the sources of spans, at the spans of sources.
void printThis(Work& work) {
  const Selected& selected = work.selected();
  Aim aim{selected.regions(), selected.clipSets(), selected.clips(), selected.tracks(), selected.range()};
  const Brief brief = aimedBrief(*work.session(), aim);
  const bool isSource = !selected.tracks().empty();
  work.briefs().choose(work.document().addBrief(brief, tr("Print %1").arg(text(brief.name))));
  work.showPanel("briefs");
  work.askForPhrase(static_cast<int>(isSource ? PhraseKind::Regions : PhraseKind::Sources));
}

QString words(Work& work) {
  const Selected& selected = work.selected();
  for (const Thing thing : {Thing::Region, Thing::ClipSet, Thing::Track, Thing::Clip})
    if (const std::size_t count = selected.of(thing).size(); count > 1)
      return tr("&Print these %1 …").arg(wordOf(thing, count));
  return tr("&Print this …");
}

}  // namespace

void addPrintCommands(Commands& commands, Work& work) {
  commands.add({.id = "brief.print-this",
                .words = tr("&Print this …"),
                .keys = {Qt::CTRL | Qt::Key_P},
                .needs = needs::printable,
                .run = [&] { printThis(work); },
                .tip = tr("A new brief for what is selected, ready in its sentence"),
                .wording = [&work] { return words(work); }});
}

}  // namespace octaphon::app
