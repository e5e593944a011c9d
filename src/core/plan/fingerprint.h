// What a row can hear, as a hash: clips by the content of their media, levels, the way through the groups to
// main, length and encoding. Names, colours, notes and the place in the session do not count.
#pragma once

#include <vector>

#include "base/hash.h"
#include "media/media_facts.h"
#include "plan/heard_clips.h"
#include "plan/sheet.h"

namespace octaphon {

/// The sound of every track and group that sounds in one span, from the clips up.
class SpanSound {
 public:
  SpanSound(const ClipFinder& finder, const MediaFacts& facts, const PlannedSpan& span,
            const std::vector<HeardClip>& heard);

  /// Whether any clip sounds on the track, below the group, or at all (TrackTree::kMain).
  bool sounds(int track) const;
  /// Of a source taken through main, written with these properties.
  Digest fingerprint(int track, Frame frames, int channels, Encoding encoding) const;

 private:
  Digest throughMain(int track) const;
  void take(int track);
  static void addStrip(Hasher& hasher, const Track& track);

  const ClipFinder& finder_;
  std::vector<char> sounds_;  // by track
  std::vector<Digest>
      digests_;  // by track: what leaves its fader and pan; of a group while it is built, its children
  Digest all_;   // what reaches main's input
};

}  // namespace octaphon
