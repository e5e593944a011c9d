#include "plan/fingerprint.h"

namespace octaphon {
namespace {

void addFade(Hasher& hasher, const Fade& fade) {
  hasher.add(fade.length);
  if (fade.length > 0) hasher.add(fade.shape);
}

void addClip(Hasher& hasher, const HeardClip& heard, const Clip& clip, const MediaFacts& facts, Frame origin) {
  hasher.add(heard.from - origin);
  hasher.add(heard.to - origin);
  hasher.add(heard.endFade);
  hasher.add(heard.from - clip.start + clip.offset);  // where in the medium it begins
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
    : finder_(finder) {
  const TrackTree& tree = finder.tree();
  const Session& session = finder.session();
  Hasher hasher;
  std::vector<int> active;  // tracks that sound and the groups around them, each once
  for (std::size_t i = 0; i < heard.size();) {
    const int track = heard[i].track;
    hasher.reset();
    for (; i < heard.size() && heard[i].track == track; ++i)
      addClip(hasher, heard[i], finder.clipOf(heard[i]), facts, span.start);
    addStrip(hasher, session.tracks[static_cast<std::size_t>(track)]);
    digests_[track] = hasher.digest();
    active.push_back(track);
    for (int up = tree.parent(track); up != TrackTree::kMain && digests_.try_emplace(up).second; up = tree.parent(up))
      active.push_back(up);
  }
  // Deepest first, in track order among equals: a group's children are done before it.
  std::sort(active.begin(), active.end(), [&](int a, int b) { return tree.place(a) > tree.place(b); });
  std::unordered_map<int, std::vector<int>> childrenOf;
  for (auto it = active.rbegin(); it != active.rend(); ++it) childrenOf[tree.parent(*it)].push_back(*it);
  for (const int track : active) {
    const auto children = childrenOf.find(track);
    if (children == childrenOf.end()) continue;
    hasher.reset();
    for (const int child : children->second) hasher.add(digests_.at(child));
    addStrip(hasher, session.tracks[static_cast<std::size_t>(track)]);
    digests_[track] = hasher.digest();
  }
  hasher.reset();
  for (const int child : childrenOf[TrackTree::kMain]) hasher.add(digests_.at(child));
  all_ = hasher.digest();
}

void SpanSound::addStrip(Hasher& hasher, const Track& track) const {
  hasher.add(track.channels);
  hasher.add(track.gainDb);
  hasher.add(track.pan);
}

bool SpanSound::sounds(int track) const {
  return track == TrackTree::kMain ? !digests_.empty() : digests_.contains(track);
}

Digest SpanSound::throughMain(int track) const {
  if (track == TrackTree::kMain) return all_;
  const TrackTree& tree = finder_.tree();
  Hasher hasher;
  const auto found = digests_.find(track);
  hasher.add(found == digests_.end() ? Digest{} : found->second);
  for (int up = tree.parent(track); up != TrackTree::kMain; up = tree.parent(up))
    addStrip(hasher, finder_.session().tracks[static_cast<std::size_t>(up)]);
  return hasher.digest();
}

Digest SpanSound::fingerprint(int track, Frame frames, int channels, Encoding encoding) {
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
