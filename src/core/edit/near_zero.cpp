#include "edit/near_zero.h"

#include <algorithm>
#include <vector>

#include "media/sound_file.h"

namespace octaphon {
namespace {

const Clip* clipAtFrame(const Session& session, Frame at, std::optional<Strip> track) {
  for (std::size_t t = 0; t < session.tracks.size(); ++t) {
    if (track && track->track() != t) continue;
    for (const Clip& clip : session.tracks[t].clips)
      if (!clip.mute && clip.start <= at && at <= clip.end() && clip.length > 0) return &clip;
  }
  return nullptr;
}

/// The first channels of each frame, added up.
std::vector<double> sums(const std::vector<float>& samples, int channels, int first) {
  std::vector<double> result(samples.size() / static_cast<std::size_t>(channels), 0);
  for (std::size_t i = 0; i < result.size(); ++i)
    for (int c = std::max(first, 1) - 1; c < (first > 0 ? first : channels); ++c)
      result[i] +=
          static_cast<double>(samples[i * static_cast<std::size_t>(channels) + static_cast<std::size_t>(c)]);
  return result;
}

}  // namespace

std::optional<Frame> nearestZero(const Session& session, const MediaFacts& facts, Frame at,
                                 std::optional<Strip> track, Frame reach) {
  const Clip* clip = clipAtFrame(session, at, track);
  const MediumFact* fact = clip != nullptr ? facts.find(clip->medium) : nullptr;
  if (fact == nullptr || fact->state != MediumFact::State::Ready || fact->needsCache) return std::nullopt;
  auto file = SoundFile::open(fact->file);
  if (!file || clip->channel > file->info().channels) return std::nullopt;
  const Frame origin = clip->start - clip->offset;  // where the medium's first frame lies
  const Frame from = std::max({at - reach, clip->start, origin});
  const Frame to = std::min({at + reach + 1, clip->end(), origin + file->info().frames});
  if (to - from < 2 || !file->seek(from - origin)) return std::nullopt;
  const int channels = file->info().channels;
  std::vector<float> samples(static_cast<std::size_t>((to - from) * channels));
  if (file->read(samples.data(), to - from) < to - from) return std::nullopt;
  const std::vector<double> sum = sums(samples, channels, clip->channel);
  std::optional<Frame> best;
  for (std::size_t i = 1; i < sum.size(); ++i) {
    const bool crosses = (sum[i - 1] < 0) != (sum[i] < 0);
    const Frame here = from + static_cast<Frame>(i);
    if (crosses && (!best || std::abs(here - at) < std::abs(*best - at))) best = here;
  }
  return best;
}

}  // namespace octaphon
