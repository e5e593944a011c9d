#include "app/commands/listen_commands.h"

#include "app/look/icons.h"
#include "app/work/text.h"

namespace octaphon::app {
namespace {

void addPlaying(Commands& commands, Work& work) {
  Listener& listener = work.listener();
  // Space is the window's, everywhere but in text: no widget may take it first.
  QAction* play = commands.add(Command{.id = "play.toggle",
                                       .words = tr("&Play"),
                                       .keys = {Qt::Key_Space},
                                       .needs = needs::session,
                                       .run = [&] { listener.toggle(); },
                                       .icon = "play",
                                       .tip = tr("Play or pause")});
  QAction* region = commands.add(Command{.id = "play.region",
                                         .words = tr("Play the &region"),
                                         .keys = {Qt::SHIFT | Qt::Key_Space},
                                         .needs = needs::regions,
                                         .run = [&] { listener.playRegion(); }});
  for (QAction* action : {play, region}) action->setShortcutContext(Qt::WidgetShortcut);
  QObject::connect(&work.transport(), &Transport::playingChanged, play, [play](bool playing) {
    play->setText(playing ? tr("&Pause") : tr("&Play"));
    play->setIcon(icon(playing ? "pause" : "play"));
  });
  commands.add({.id = "play.stop",
                .words = tr("S&top"),
                .keys = {Qt::CTRL | Qt::Key_Period},
                .needs = needs::session,
                .run = [&] { listener.stop(); },
                .icon = "stop"});
  commands.add({.id = "play.variation",
                .words = tr("Play a &variation"),
                .keys = {Qt::CTRL | Qt::SHIFT | Qt::Key_V},
                .needs = needs::regions,
                .run = [&] {
                  work.places().go(Thing::Region, listener.nextVariation());
                  listener.playRegion();
                }});
  commands.add(Switch{"play.loop", tr("&Loop"), {Qt::CTRL | Qt::SHIFT | Qt::Key_L}, false, [&](bool on) {
                        work.transport().setLooping(on);
                      }});
  commands.add(Switch{"play.only",
                      tr("Hear only the selected &tracks"),
                      {Qt::CTRL | Qt::SHIFT | Qt::Key_T},
                      false,
                      [&](bool on) { listener.hearSelectedOnly(on); }});
}

void addRows(Commands& commands, Work& work) {
  const auto hear = [&](const char* id, const QString& words, int key, Listening::Of of) {
    commands.add({.id = id,
                  .words = words,
                  .keys = {Qt::CTRL | Qt::ALT | static_cast<Qt::Key>(key)},
                  .needs = needs::row,
                  .run = [&work, of] { work.listener().playRow(of); }});
  };
  hear("row.hear", tr("Hear the row as it will be &written"), Qt::Key_1, Listening::Of::Session);
  hear("row.hear-file", tr("Hear the row's file on &disk"), Qt::Key_2, Listening::Of::File);
  hear("row.hear-difference", tr("Hear what &differs between them"), Qt::Key_3, Listening::Of::Difference);
  commands.add(Switch{"row.equally-loud", tr("Compare rows e&qually loud"), {}, false, [&work](bool on) {
                        work.listener().compareEquallyLoud(on);
                      }});
  commands.add(
      {.id = "row.measure",
       .words = tr("&Measure how loud they are"),
       .keys = {},
       .needs = needs::row,
       .run = [&work] { work.listener().measureRows(); },
       .tip = tr("Peak, true peak, loudness and its range of what is selected, without making files")});
}

void addSteps(Commands& commands, Work& work) {
  const auto edge = [&](const char* id, const QString& words, Qt::Key key, bool isEnd) {
    commands.add({.id = id,
                  .words = words,
                  .keys = {Qt::CTRL | key},
                  .needs = needs::timed,
                  .run = [&work, isEnd] { work.places().goToEdge(isEnd); },
                  .isLocal = true});  // tables go to their ends with these
  };
  edge("play.selection-start", tr("Playhead to where the selection &begins"), Qt::Key_Home, false);
  edge("play.selection-end", tr("Playhead to where the selection &ends"), Qt::Key_End, true);
  const auto step = [&](const char* id, const QString& words, Qt::KeyboardModifiers with, int by,
                        bool playing, const QString& icon) {
    commands.add({.id = id,
                  .words = words,
                  .keys = {with | (by < 0 ? Qt::Key_Up : Qt::Key_Down)},
                  .needs = needs::session,
                  .run =
                      [&work, by, playing] {
                        work.places().stepRegion(by);
                        if (playing) work.listener().playRegion();
                      },
                  .icon = icon});
  };
  step("region.previous", tr("Pre&vious region"), Qt::AltModifier, -1, false, "previous");
  step("region.next", tr("&Next region"), Qt::AltModifier, 1, false, "next");
  step("region.previous-playing", tr("Previous region, playing"), Qt::AltModifier | Qt::ShiftModifier, -1,
       true, {});
  step("region.next-playing", tr("Next region, playing"), Qt::AltModifier | Qt::ShiftModifier, 1, true, {});
}

}  // namespace

void addListenCommands(Commands& commands, Work& work) {
  addPlaying(commands, work);
  addRows(commands, work);
  addSteps(commands, work);
}

}  // namespace octaphon::app
