#include "finish/round.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "base/samples.h"
#include "routing/mixing_law.h"

namespace octaphon {
namespace {

constexpr Frame kTurn = 4096;  // frames written at once: they stay in the processor's cache
static_assert(kTurn % kQuantiseCell == 0);

const float* silence() {
  static const std::vector<float> kZeros(kTurn, 0.0f);
  return kZeros.data();
}

}  // namespace

Round::Round(SampleForm form, SampleSink& sink)
    : form_(std::move(form)),
      sink_(sink),
      hashers_(static_cast<std::size_t>(form_.channels)),
      sums_(static_cast<std::size_t>(form_.channels), 0.0) {
  for (int c = 0; form_.isInteger && c < form_.channels; ++c)
    quantisers_.emplace_back(form_.bits, form_.key, c);
}

Result<> Round::take(const SoundBlock& block) {
  Frame from = 0;
  if (heldFrames_ > 0) {
    from = std::min(block.frames, kQuantiseCell - heldFrames_);
    hold(block, 0, from);
    if (heldFrames_ < kQuantiseCell) return {};
    OCTAPHON_TRY(writeHeld());
  }
  const Frame whole = (block.frames - from) / kQuantiseCell * kQuantiseCell;
  OCTAPHON_TRY(writeTurns(block, from, whole));
  hold(block, from + whole, block.frames - from - whole);
  return {};
}

Result<> Round::end() { return writeHeld(); }

void Round::hold(const SoundBlock& block, Frame from, Frame count) {
  if (count == 0) return;
  held_.resize(static_cast<std::size_t>(form_.channels * kQuantiseCell));
  for (int c = 0; c < form_.channels; ++c) {
    float* const to = held_.data() + c * kQuantiseCell + heldFrames_;
    if (block.isSilent())
      std::fill_n(to, count, 0.0f);
    else
      std::copy_n(block.channels[c] + from, count, to);
  }
  heldFrames_ += count;
}

Result<> Round::writeHeld() {
  if (heldFrames_ == 0) return {};
  std::array<const float*, kMaxTapChannels> channels{};
  for (int c = 0; c < form_.channels; ++c) channels[c] = held_.data() + c * kQuantiseCell;
  return write(channels.data(), std::exchange(heldFrames_, 0));
}

Result<> Round::writeTurns(const SoundBlock& block, Frame from, Frame count) {
  for (Frame done = 0; done < count; done += kTurn) {
    std::array<const float*, kMaxTapChannels> channels{};
    for (int c = 0; c < form_.channels; ++c)
      channels[c] = block.isSilent() ? silence() : block.channels[c] + from + done;
    OCTAPHON_TRY(write(channels.data(), std::min(kTurn, count - done)));
  }
  return {};
}

double Round::offset() const {
  double largest = 0;
  for (const double sum : sums_)
    largest = std::max(largest, std::fabs(sum) / static_cast<double>(std::max<Frame>(1, written_)));
  return largest;
}

void Round::hash(const float* const* channels, Frame frames) {
  thread_local std::array<float, kTurn> same;
  for (std::size_t c = 0; c < hashers_.size(); ++c) {
    const float* samples = channels[c];
    if (hasMinusZero(samples, frames)) {
      std::transform(samples, samples + frames, same.begin(), [](float s) { return s + 0.0f; });
      samples = same.data();
    }
    hashers_[c].bytes(samples, static_cast<std::size_t>(frames) * sizeof(float));
  }
}

Digest Round::samples() const {
  Hasher all;
  for (const Hasher& channel : hashers_) all.add(channel.digest());
  return all.digest();
}

Result<> Round::write(const float* const* channels, Frame frames) {
  hash(channels, frames);
  for (std::size_t c = 0; c < sums_.size(); ++c) sums_[c] += sumOfSamples(channels[c], frames);
  if (form_.isInteger) {
    OCTAPHON_TRY(writeIntegers(channels, frames));
  } else {
    for (int c = 0; c < form_.channels; ++c) measure(channels[c], frames, level_);
    if (level_.finite) OCTAPHON_TRY(sink_.write(channels, frames));
  }
  if (!level_.finite)
    return fail(ErrorCode::NotFinite, form_.place, "the sound out of main is not a number or infinite",
                "Look for a fader or clip gain that is far too high");
  written_ += frames;
  return {};
}

Result<> Round::writeIntegers(const float* const* channels, Frame frames) {
  thread_local std::array<std::array<std::int32_t, kTurn>, kMaxTapChannels> integers;
  std::array<const std::int32_t*, kMaxTapChannels> out{};
  for (std::size_t c = 0; c < quantisers_.size(); ++c) {
    quantisers_[c].run(channels[c], written_, frames, integers[c].data(), level_);
    out[c] = integers[c].data();
  }
  return level_.finite ? sink_.write(out.data(), frames) : Result<>{};
}

}  // namespace octaphon
