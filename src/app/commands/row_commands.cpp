#include "app/commands/row_commands.h"

#include <QClipboard>
#include <QGuiApplication>

#include "app/work/text.h"
#include "base/unicode.h"

namespace octaphon::app {
namespace {

QString tr(const char* words) { return QObject::tr(words); }

}  // namespace

void addRowCommands(Commands& commands, Work& work) {
  const auto files = [&work](const char* words) {
    return [&work, words] { return tr(words).arg(text(counted(work.rows().count(), "file"))); };
  };
  commands.add(std::vector<Command>{
      {.id = "row.make",
       .words = tr("&Make the selected files"),
       .keys = {},
       .needs = needs::idleRow,
       .run = [&] { work.maker().makeRows(work.rows().keys(), false); },
       .wording = files("&Make the selected %1")},
      {.id = "row.make-over",
       .words = tr("Make the selected files, &replacing whatever is there"),
       .keys = {},
       .needs = needs::idleRow,
       .run = [&] { work.maker().makeRows(work.rows().keys(), true); },
       .wording = files("Make the selected %1, &replacing whatever is there")},
      {.id = "row.go",
       .words = tr("&Go to the row's region"),
       .keys = {},
       .needs = needs::row,
       .run = [&] { work.places().goToRow(work.rows().current()); }},
      {.id = "row.copy-names", .words = tr("&Copy file names"), .keys = {}, .needs = needs::row, .run = [&] {
         QGuiApplication::clipboard()->setText(work.rows().fileNames().join('\n'));
       }}});
}

}  // namespace octaphon::app
