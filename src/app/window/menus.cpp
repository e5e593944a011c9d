#include "app/window/menus.h"

#include "app/work/settings.h"
#include "app/work/text.h"

namespace octaphon::app {
namespace {

QMenu* recentMenu(const std::function<void(const QString&)>& open, QWidget* parent) {
  auto* menu = new QMenu(tr("&Recent"), parent);
  QObject::connect(menu, &QMenu::aboutToShow, menu, [menu, open] {
    menu->clear();
    for (const QString& file : settings::recent()) menu->addAction(file, menu, [open, file] { open(file); });
    if (menu->isEmpty()) menu->addAction(tr("none yet"))->setEnabled(false);
  });
  return menu;
}

QStringList briefCommands() {
  return {"brief.print-this",
          "brief.new",
          "brief.duplicate",
          "brief.up",
          "brief.down",
          "brief.delete",
          "brief.save-file",
          "brief.take-file",
          "",
          "make.due",
          "make.all",
          "make.failed",
          "row.make",
          "row.make-over",
          "row.hold",
          "row.as-brief",
          "",
          "row.go",
          "row.copy-names",
          "row.copy-files",
          "sheet.copy",
          "sheet.export",
          "",
          "brief.edition",
          "brief.number-again",
          "",
          "delivery.check",
          "delivery.reads-back",
          "delivery.only-bytes",
          "",
          "delivery.report",
          "delivery.try",
          "delivery.collect",
          "delivery.place-back",
          "delivery.find",
          "folder.clean",
          "brief.folder"};
}

}  // namespace

void fillMenus(QMenuBar& bar, const Commands& commands, const QStringList& panels,
               const std::function<void(const QString&)>& open) {
  const auto add = [&](const QString& title, const QStringList& ids) {
    QMenu* menu = bar.addMenu(title);
    commands.fill(*menu, ids);
    return menu;
  };
  QMenu* session =
      add(tr("&Session"), {"session.new", "session.new-files", "session.new-folder", "session.open"});
  session->addMenu(recentMenu(open, session));
  commands.fill(*session, {"session.demo", "", "media.bring-in", "media.find", "media.replace", "media.copy",
                           "regions.write", "", "session.save", "session.save-as", "session.close", "",
                           "program.stop", "", "program.quit"});
  add(tr("&Edit"), {"edit.undo",
                    "edit.redo",
                    "",
                    "edit.select-all",
                    "edit.select-time",
                    "",
                    "edit.split",
                    "edit.duplicate",
                    "edit.up",
                    "edit.down",
                    "edit.delete",
                    "mark.name",
                    "edit.mute",
                    "edit.lock",
                    "",
                    "edit.trim-start",
                    "edit.trim-end",
                    "edit.fade-in",
                    "edit.fade-out",
                    "",
                    "program.preferences"});
  add(tr("&Mark"),
      {"mark.region", "mark.islands", "mark.clip-set", "mark.marker", "", "mark.join", "mark.fix",
       "mark.sort-markers", "", "mark.into-set", "mark.out-of-set", "mark.split-up", "mark.range-to-set"});
  add(tr("&Tracks"), {"track.new", "track.new-group", "track.new-return", "", "track.nest", "track.take-out",
                      "", "track.split-channels", "track.split-pairs", "track.link", "track.unlink"});
  add(tr("&Listen"), {"play.toggle", "play.stop", "play.region", "play.loop", "play.only", "play.variation",
                      "", "play.selection-start", "play.selection-end", "region.previous", "region.next",
                      "region.previous-playing", "region.next-playing", "", "row.hear", "row.hear-file",
                      "row.hear-difference", "row.equally-loud", "row.measure"});
  add(tr("&View"),
      {"view.zoom-in", "view.zoom-out", "view.zoom-selection", "view.zoom-region", "view.zoom-all", "",
       "snap.things", "snap.beats", "snap.pictures", "snap.zero", "", "view.follow", "view.timecode",
       "view.only-sounding", "", "view.search", "view.filter", "sheet.columns", "view.night"});
  add(tr("&Panels"), panels);
  add(tr("&Brief"), briefCommands());
  add(tr("&Help"), {"program.help", "program.shortcuts", "", "program.log"});
}

}  // namespace octaphon::app
