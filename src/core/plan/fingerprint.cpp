#include "plan/fingerprint.h"

#include <algorithm>

namespace octaphon {
namespace {

void addFade(Hasher& hasher, const Fade& fade) {
  hasher.add(fade.length);
  if (fade.length > 0) hasher.add(fade.shape);
}

void addClip(Hasher& hasher, const HeardClip& heard, const Clip& clip, const MediaFacts& facts,
             Frame origin) {
  hasher.add(heard.from - origin);
  hasher.add(heard.to - origin);
  hasher.add(heard.endFade);
  hasher.add(heard.from - clip.start + clip.offset);  // where in the medium it begins
  if (clip.channel > 0) hasher.add(clip.channel);
  hasher.add(clip.gainDb);
  const bool fades = clip.fadeIn.length > 0 || clip.fadeOut.length > 0;
  hasher.add(fades);
  if (fades) {
    hasher.add(heard.from - clip.start);
    hasher.add(clip.length);
    addFade(hasher, clip.fadeIn);
    addFade(hasher, clip.fadeOut);
  }
  const MediumFact* fact = facts.find(clip.medium);
  if (fact != nullptr) hasher.add(fact->content);
}

}  // namespace

SpanSound::SpanSound(const ClipFinder& finder, const MediaFacts& facts, const PlannedSpan& span,
                     const std::vector<HeardClip>& heard)
    : finder_(finder), sounds_(finder.tree().size(), 0), digests_(finder.tree().size()) {
  const TrackTree& tree = finder.tree();
  Hasher hasher;
  std::vector<int> active;  // tracks that sound and the groups around them, each once
  for (std::size_t i = 0; i < heard.size();) {
    const int track = heard[i].track;
    hasher.reset();
    for (; i < heard.size() && heard[i].track == track; ++i)
      addClip(hasher, heard[i], finder.clipOf(heard[i]), facts, span.start);
    digests_[static_cast<std::size_t>(track)] = hasher.digest();
    for (int at = track; at != TrackTree::kMain && !sounds(at); at = tree.parent(at)) {
      sounds_[static_cast<std::size_t>(at)] = 1;
      active.push_back(at);
    }
  }
  // From the last in track order: all that is in a group is done before the group.
  std::sort(active.begin(), active.end(), [&](int a, int b) { return tree.place(a) > tree.place(b); });
  for (const int track : active) take(track);
}

/// Puts the track's own fader and pan on what it has, and adds that to what it is in.
void SpanSound::take(int track) {
  Hasher hasher;
  Digest& own = digests_[static_cast<std::size_t>(track)];
  hasher.add(own);
  addStrip(hasher, finder_.session().tracks[static_cast<std::size_t>(track)]);
  own = hasher.digest();
  const int up = finder_.tree().parent(track);
  Digest& around = up == TrackTree::kMain ? all_ : digests_[static_cast<std::size_t>(up)];
  hasher.reset();
  hasher.add(around);
  hasher.add(own);
  around = hasher.digest();
}

void SpanSound::addStrip(Hasher& hasher, const Track& track) {
  hasher.add(track.channels);
  hasher.add(track.gainDb);
  hasher.add(track.pan);
}

bool SpanSound::sounds(int track) const {
  return track == TrackTree::kMain ? !all_.empty() : sounds_[static_cast<std::size_t>(track)] != 0;
}

Digest SpanSound::throughMain(int track) const {
  if (track == TrackTree::kMain) return all_;
  const TrackTree& tree = finder_.tree();
  Hasher hasher;
  hasher.add(digests_[static_cast<std::size_t>(track)]);
  for (int up = tree.parent(track); up != TrackTree::kMain; up = tree.parent(up))
    addStrip(hasher, finder_.session().tracks[static_cast<std::size_t>(up)]);
  return hasher.digest();
}

Digest SpanSound::fingerprint(int track, Frame frames, int channels, Encoding encoding) const {
  const Session& session = finder_.session();
  Hasher hasher;
  hasher.add(kEngineVersion);
  hasher.add(session.rate);
  hasher.add(throughMain(track));
  hasher.add(session.main.channels);
  hasher.add(session.main.gainDb);
  hasher.add(frames);
  hasher.add(channels);
  hasher.add(encodingInfo(encoding).name);
  return hasher.digest();
}

}  // namespace octaphon
