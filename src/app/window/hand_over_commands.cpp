#include "app/window/hand_over_commands.h"

#include <QFileDialog>
#include <QFileInfo>

#include "app/commands/delivery_commands.h"
#include "app/work/text.h"

namespace octaphon::app {
namespace {

/// Beside the folder, under a name that is free.
QString proposedSession(const FolderPath& base) {
  const QString folder = text(base.full().lexically_normal().string());
  QString file = folder + " results.octaphon";
  for (int number = 2; QFileInfo::exists(file); ++number)
    file = folder + tr(" results %1.octaphon").arg(number);
  return file;
}

void collect(Work& work, QWidget* window) {
  const auto base = folderOfBrief(work);
  if (!base) return;
  QString file = QFileDialog::getSaveFileName(window, tr("Session of the results"), proposedSession(*base),
                                              SessionFlow::tr("Octaphon sessions (*.octaphon)"));
  if (file.isEmpty()) return;
  if (QFileInfo(file).suffix().isEmpty()) file += ".octaphon";
  work.handingOver().collect(*base, file);
}

void find(Work& work, QWidget* window) {
  const QString file = QFileDialog::getOpenFileName(window, tr("Find the row of a file"));
  if (file.isEmpty()) return;
  work.handingOver().locate(file, [&work, file] {
    work.news().tell(
        tr("%1: no receipt knows this file. It was not delivered by Octaphon, or into a folder that is "
           "not known here: open the session that made it, and try again")
            .arg(QFileInfo(file).fileName()));
  });
}

}  // namespace

void addHandOverCommands(Commands& commands, Work& work, SessionFlow& sessions, QWidget* window) {
  commands.add(std::vector<Command>{
      {.id = "delivery.collect",
       .words = tr("A &session of the results …"),
       .keys = {},
       .needs = needs::brief,
       .run = [&work, window] { collect(work, window); },
       .tip =
           tr("A new session with the delivered files on tracks, where they were; originals are not needed")},
      {.id = "delivery.find",
       .words = tr("Find the row of a f&ile …"),
       .keys = {Qt::CTRL | Qt::ALT | Qt::Key_F},
       .needs = needs::nothing,
       .run = [&work, window] { find(work, window); },
       .tip = tr("From a delivered file to its row and session, even if it was renamed; or drop it on the "
                 "window")}});
  QObject::connect(&work.handingOver(), &HandingOver::sessionWanted, &sessions, &SessionFlow::open);
}

}  // namespace octaphon::app
