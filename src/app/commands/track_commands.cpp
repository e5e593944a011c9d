// Tracks and groups.
#include "app/commands/edit_commands.h"
#include "app/commands/edit_work.h"
#include "app/work/text.h"
#include "edit/spans.h"
#include "edit/tracks.h"

namespace octaphon::app {
namespace {

void newTrack(Work& work, TrackKind kind) {
  std::vector<std::string> taken;
  std::string around;
  for (const Track& track : work.session()->tracks) {
    taken.push_back(track.name);
    if (work.selected().tracks().contains(track.id)) around = track.isGroup() ? track.id : track.group;
  }
  const char* word = kind == TrackKind::Group ? "Group" : kind == TrackKind::Return ? "Return" : "Track";
  const QString step = kind == TrackKind::Group    ? tr("New group")
                       : kind == TrackKind::Return ? tr("New return")
                                                   : tr("New track");
  std::string made;
  work.document().edit(step, [&](Session& session) {
    made = addTrack(session, numberedNames({word}, taken).front(), kind, around);
  });
  work.selected().set(Thing::Track, {made});
  work.askForName(Thing::Track);
}

void nest(Work& work) {
  Result<std::string> made;
  const auto tracks = listOf(work.selected().tracks());
  work.document().edit(tr("Put tracks into a group"),
                       [&](Session& session) { made = nestTracks(session, tracks, "Group"); });
  if (!made) return work.news().warn(text(made.error().describe()));
  work.selected().set(Thing::Track, {*made});
  work.askForName(Thing::Track);
}

void takeOut(Work& work) {
  const auto tracks = listOf(work.selected().tracks());
  work.document().edit(tr("Take tracks out of their group"),
                       [&](Session& session) { (void)takeOutTracks(session, tracks); });
}

void split(Work& work, int width) {
  work.document().edit(tr("Split channels"),
                       [&](Session& session) { splitChannels(session, work.selected().tracks(), width); });
}

void link(Work& work, bool on) {
  work.document().edit(on ? tr("Link tracks") : tr("Unlink tracks"),
                       [&](Session& session) { linkTracks(session, work.selected().tracks(), on); });
}

}  // namespace

void addTrackCommands(Commands& commands, Work& work) {
  commands.add(std::vector<Command>{
      {"track.new",
       tr("New &track"),
       {Qt::CTRL | Qt::Key_T},
       needs::session,
       [&] { newTrack(work, TrackKind::Track); }},
      {"track.new-group", tr("New &group"), {}, needs::session, [&] { newTrack(work, TrackKind::Group); }},
      {"track.new-return", tr("New &return"), {}, needs::session, [&] { newTrack(work, TrackKind::Return); }},
      {"track.nest", tr("&Put into a new group"), {Qt::CTRL | Qt::Key_G}, needs::tracks, [&] { nest(work); }},
      {"track.take-out",
       tr("Take &out of the group"),
       {Qt::CTRL | Qt::ALT | Qt::Key_G},
       needs::tracks,
       [&] { takeOut(work); }},
      {"track.split-channels",
       tr("Split into a track for each &channel"),
       {},
       needs::tracks,
       [&] { split(work, 1); }},
      {"track.split-pairs",
       tr("Split into a track for each &pair of channels"),
       {},
       needs::tracks,
       [&] { split(work, 2); }},
      {"track.link", tr("&Link: edit their clips together"), {}, needs::tracks, [&] { link(work, true); }},
      {"track.unlink", tr("&Unlink"), {}, needs::tracks, [&] { link(work, false); }}});
}

}  // namespace octaphon::app
