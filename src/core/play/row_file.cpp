#include "play/row_file.h"

#include <algorithm>

#include "media/resampler.h"
#include "routing/mixing_law.h"

namespace octaphon {

RowFile::RowFile(const std::filesystem::path& file, Frame start, int rate) : start_(start) {
  auto opened = SoundFile::open(file);
  if (!opened || opened->info().channels > kMaxTapChannels) return;
  channels_ = opened->info().channels;
  file_ = std::make_unique<SoundFile>(std::move(*opened));
  if (file_->info().rate != rate) convert(rate);
}

void RowFile::convert(int rate) {
  constexpr Frame kTurn = 16384;
  auto resampler = Resampler::make(file_->info().rate, rate, channels_);
  const Resampler::Sink sink = [this](const float* interleaved, Frame frames) {
    converted_.insert(converted_.end(), interleaved, interleaved + frames * channels_);
    return Result<>{};
  };
  std::vector<float> in(static_cast<std::size_t>(kTurn * channels_));
  bool isWell = resampler.has_value();
  while (isWell) {
    const Frame got = file_->read(in.data(), kTurn);
    isWell = resampler->process(got > 0 ? in.data() : nullptr, got, sink).has_value();
    if (got == 0) break;
  }
  file_.reset();
}

void RowFile::read(Frame from, Frame frames) {
  interleaved_.assign(static_cast<std::size_t>(frames * channels_), 0.0f);
  if (file_) {
    if (file_->seek(from)) (void)file_->read(interleaved_.data(), frames);
    return;
  }
  const auto all = static_cast<Frame>(converted_.size()) / channels_;
  const Frame count = std::clamp<Frame>(all - from, 0, frames);
  if (count > 0)
    std::copy_n(converted_.begin() + static_cast<std::ptrdiff_t>(from * channels_), count * channels_,
                interleaved_.begin());
}

void RowFile::add(Frame at, Frame frames, float gain, HeardBlock& block) {
  if (!isThere() || at < start_) return;
  read(at - start_, frames);
  planar_.resize(interleaved_.size());
  const float* sound[kMaxTapChannels];
  for (int c = 0; c < channels_; ++c) {
    float* own = planar_.data() + c * frames;
    for (Frame i = 0; i < frames; ++i) own[i] = interleaved_[static_cast<std::size_t>(i * channels_ + c)];
    sound[c] = own;
  }
  block.add(sound, channels_, gain);
}

}  // namespace octaphon
