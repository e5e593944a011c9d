#include "app/commands/row_commands.h"

#include <algorithm>
#include <QClipboard>
#include <QGuiApplication>

#include "app/work/text.h"
#include "base/unicode.h"
#include "brief/row_marks.h"

namespace octaphon::app {
namespace {

/// Where they are chosen in an older sheet, the keys say which they are.
bool areAllHeldBack(Work& work) {
  const std::shared_ptr<const Sheet> sheet = work.rows().sheet();
  const auto isHeld = [&](std::size_t row) { return sheet->rows[row].isHeldBack; };
  const std::vector<std::size_t>& rows = work.rows().rows();
  if (!rows.empty()) return std::all_of(rows.begin(), rows.end(), isHeld);
  const std::vector<std::string> keys = work.rows().keys();
  return std::all_of(keys.begin(), keys.end(), [&](const std::string& key) {
    const auto row = sheet->find(key);
    return row && isHeld(*row);
  });
}

/// Takes the rows out of their briefs, or, where all of them are, in again.
void holdBack(Work& work) {
  const std::vector<std::string> keys = work.rows().keys();
  const bool isLetGo = areAllHeldBack(work);
  const QString files = text(counted(keys.size(), "file"));
  work.document().edit(isLetGo ? tr("Let %1 go").arg(files) : tr("Hold %1 back").arg(files),
                       [&](Session& session) {
                         for (Brief& brief : session.briefs) setHeldBack(brief, keys, !isLetGo);
                       });
}

void dropOwn(Work& work) {
  const std::vector<std::string> keys = work.rows().keys();
  work.document().edit(tr("Take exceptions of %1 back").arg(text(counted(keys.size(), "file"))),
                       [&](Session& session) {
                         for (Brief& brief : session.briefs) dropExceptions(brief, keys);
                       });
}

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
      {.id = "row.hold",
       .words = tr("&Hold the selected files back"),
       .keys = {Qt::CTRL | Qt::Key_Backspace},
       .needs = needs::row,
       .run = [&] { holdBack(work); },
       .tip = tr("Takes files out of the delivery; they stay on the sheet, and can be let go again"),
       .wording =
           [&work] {
             return (areAllHeldBack(work) ? tr("&Let %1 go") : tr("&Hold %1 back"))
                 .arg(text(counted(work.rows().count(), "file")));
           }},
      {.id = "row.as-brief",
       .words = tr("Rows as the &brief says again"),
       .keys = {Qt::CTRL | Qt::SHIFT | Qt::Key_Backspace},
       .needs = needs::ownRow,
       .run = [&] { dropOwn(work); },
       .tip = tr("Takes back names, channels, formats, ends and loops of their own")},
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
