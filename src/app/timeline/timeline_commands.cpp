#include "app/timeline/timeline_commands.h"

#include "app/work/settings.h"
#include "app/work/text.h"

namespace octaphon::app {
namespace {

void addZoom(Commands& commands, Work& work, TimelineView& timeline) {
  commands.add(std::vector<Command>{{"view.zoom-in",
                                     tr("Zoom &in"),
                                     {QKeySequence::ZoomIn},
                                     needs::session,
                                     [&] { timeline.zoomBy(0.5); },
                                     "zoom-in"},
                                    {"view.zoom-out",
                                     tr("Zoom &out"),
                                     {QKeySequence::ZoomOut},
                                     needs::session,
                                     [&] { timeline.zoomBy(2); },
                                     "zoom-out"},
                                    {"view.zoom-selection",
                                     tr("Zoom to the &selection"),
                                     {Qt::CTRL | Qt::SHIFT | Qt::Key_Up},
                                     needs::session,
                                     [&] { work.places().zoomToSelection(); }},
                                    {"view.zoom-region",
                                     tr("Zoom to the &region"),
                                     {Qt::CTRL | Qt::SHIFT | Qt::Key_Right},
                                     needs::regions,
                                     [&] { work.places().zoomToRegion(); }},
                                    {"view.zoom-all",
                                     tr("&Whole session"),
                                     {Qt::CTRL | Qt::SHIFT | Qt::Key_Left},
                                     needs::session,
                                     [&] { timeline.showAll(); },
                                     "zoom-all"}});
}

void addSnapping(Commands& commands, TimelineView& timeline) {
  const auto snap = [&](const char* id, const QString& words, const QList<QKeySequence>& keys, unsigned bit) {
    commands.add(Switch{id, words, keys, (timeline.snapping() & bit) != 0, [&timeline, bit](bool on) {
                          timeline.setSnapping(on ? timeline.snapping() | bit : timeline.snapping() & ~bit);
                        }});
  };
  snap("snap.things", tr("Snap to clips, regions and &markers"), {Qt::CTRL | Qt::SHIFT | Qt::Key_M},
       kSnapThings);
  snap("snap.beats", tr("Snap to &beats"), {}, kSnapBeats);
  snap("snap.pictures", tr("Snap to &picture frames"), {}, kSnapPictures);
  snap("snap.zero", tr("Snap near &zero"), {}, kSnapZero);
}

}  // namespace

void addTimelineCommands(Commands& commands, Work& work, TimelineView& timeline) {
  addZoom(commands, work, timeline);
  addSnapping(commands, timeline);
  commands.add(Switch{
      "view.follow", tr("Fo&llow while playing"), {}, true, [&](bool on) { timeline.setFollowing(on); }});
  commands.add(Switch{"view.timecode", tr("Time as time&code"), {}, settings::showsTimecode(), [&](bool on) {
                        work.drawn().setTimecode(on);
                        settings::setShowsTimecode(on);
                      }});
  work.drawn().setTimecode(settings::showsTimecode());
  commands.add(Switch{"view.only-sounding",
                      tr("Only tracks that sound &here"),
                      {Qt::CTRL | Qt::SHIFT | Qt::Key_H},
                      false,
                      [&](bool on) { timeline.setOnlySounding(on); }});
}

}  // namespace octaphon::app
