#include "edit/silence.h"

#include <algorithm>
#include <cmath>

#include "media/sound_file.h"

namespace octaphon {

void SoundFinder::add(const float* interleaved, int channels, Frame frames) {
  for (Frame i = 0; i < frames; ++i, ++at_) {
    bool loud = false;
    for (int c = 0; c < channels; ++c) loud |= std::fabs(interleaved[i * channels + c]) >= threshold_;
    if (!loud) continue;
    if (begin_ >= 0 && at_ - lastLoud_ >= shortest_) close();
    if (begin_ < 0) begin_ = at_;
    lastLoud_ = at_ + 1;
  }
}

void SoundFinder::close() {
  if (begin_ >= 0) sounds_.push_back({begin_, lastLoud_ - begin_});
  begin_ = -1;
}

std::vector<TimeSpan> SoundFinder::finish() {
  close();
  return std::move(sounds_);
}

Result<std::vector<TimeSpan>> soundsOf(const Clip& clip, const ReadableMedia& media, double threshold,
                                       Frame shortest, const std::atomic<bool>* cancel) {
  const ReadableMedium* medium = media.find(clip.medium);
  if (medium == nullptr) return fail(ErrorCode::MediumMissing, clip.medium);
  if (medium->error) return tl::unexpected(*medium->error);
  OCTAPHON_ASSIGN(SoundFile file, SoundFile::open(medium->file));
  const int channels = file.info().channels;
  constexpr Frame kTurn = 16384;
  std::vector<float> turn(static_cast<std::size_t>(kTurn * channels));
  SoundFinder finder(threshold, shortest);
  Frame left = std::min(clip.length, file.info().frames - clip.offset);
  if (left > 0 && !file.seek(clip.offset))
    return fail(ErrorCode::MediumUnreadable, medium->name, "a place in the file cannot be found");
  while (left > 0) {
    if (cancel != nullptr && *cancel) return fail(ErrorCode::Cancelled, medium->name);
    const Frame got = file.read(turn.data(), std::min(kTurn, left));
    if (got <= 0) break;
    finder.add(turn.data(), channels, got);
    left -= got;
  }
  std::vector<TimeSpan> sounds = finder.finish();
  for (TimeSpan& sound : sounds) sound.start += clip.start;
  return sounds;
}

}  // namespace octaphon
