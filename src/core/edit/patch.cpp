#include "edit/patch.h"

namespace octaphon {
namespace {

/// Whether the tracks are equal but for their clips.
bool sameStrip(const Track& a, const Track& b) {
  return a.id == b.id && a.name == b.name && a.kind == b.kind && a.group == b.group &&
         a.channels == b.channels && a.gainDb == b.gainDb && a.pan == b.pan && a.mute == b.mute &&
         a.invert == b.invert && a.inserts == b.inserts && a.sends == b.sends &&
         a.automation == b.automation && a.helper == b.helper && a.pinned == b.pinned && a.lock == b.lock &&
         a.link == b.link && a.ink == b.ink && a.notes == b.notes && a.unknownKeys == b.unknownKeys;
}

bool sameStrips(const Session& before, const Session& after) {
  return std::equal(before.tracks.begin(), before.tracks.end(), after.tracks.begin(), after.tracks.end(),
                    sameStrip);
}

}  // namespace

SessionPatch::SessionPatch(const Session& before, const Session& after)
    : before_(basicsOf(before)),
      after_(basicsOf(after)),
      tempo_(before.tempo, after.tempo),
      media_(before.media, after.media),
      regions_(before.regions, after.regions),
      markers_(before.markerSets, after.markerSets),
      clipSets_(before.clipSets, after.clipSets),
      briefs_(before.briefs, after.briefs) {
  if (sameStrips(before, after)) {
    for (std::size_t t = 0; t < before.tracks.size(); ++t) {
      ListPatch<Clip> clips(before.tracks[t].clips, after.tracks[t].clips);
      if (!clips.empty()) clips_.push_back({t, std::move(clips)});
    }
  } else {
    tracks_ = ListPatch<Track>(before.tracks, after.tracks);
  }
  const auto note = [&](bool changed, SessionPart part) { parts_ |= changed ? part : 0u; };
  note(!(before_ == after_), kBasics);
  note(!tempo_.empty(), kTempo);
  note(!media_.empty(), kMedia);
  note(!tracks_.empty() || !clips_.empty(), kTracks);
  note(!regions_.empty(), kRegions);
  note(!markers_.empty(), kMarkers);
  note(!clipSets_.empty(), kClipSets);
  note(!briefs_.empty(), kBriefs);
}

SessionPatch::Basics SessionPatch::basicsOf(const Session& session) {
  return {session.rate,        session.title,        session.author, session.notes,
          session.pictureRate, session.startPicture, session.main,   session.pathFacts};
}

void SessionPatch::setBasics(Session& session, const Basics& basics) {
  session.rate = basics.rate;
  session.title = basics.title;
  session.author = basics.author;
  session.notes = basics.notes;
  session.pictureRate = basics.pictureRate;
  session.startPicture = basics.startPicture;
  session.main = basics.main;
  session.pathFacts = basics.pathFacts;
}

void SessionPatch::redo(Session& session) const {
  if ((parts_ & kBasics) != 0) setBasics(session, after_);
  tempo_.redo(session.tempo);
  media_.redo(session.media);
  tracks_.redo(session.tracks);
  for (const TrackClips& patch : clips_) patch.clips.redo(session.tracks[patch.track].clips);
  regions_.redo(session.regions);
  markers_.redo(session.markerSets);
  clipSets_.redo(session.clipSets);
  briefs_.redo(session.briefs);
}

void SessionPatch::undo(Session& session) const {
  if ((parts_ & kBasics) != 0) setBasics(session, before_);
  tempo_.undo(session.tempo);
  media_.undo(session.media);
  tracks_.undo(session.tracks);
  for (const TrackClips& patch : clips_) patch.clips.undo(session.tracks[patch.track].clips);
  regions_.undo(session.regions);
  markers_.undo(session.markerSets);
  clipSets_.undo(session.clipSets);
  briefs_.undo(session.briefs);
}

}  // namespace octaphon
