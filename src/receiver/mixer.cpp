#include "receiver/mixer.h"

#include <algorithm>

namespace octaphon::receiver {

namespace {
constexpr std::size_t kAvoided = 3;
constexpr float kFadeSeconds = 0.01f;
}  // namespace

std::size_t VariationChoice::next(std::size_t count) {
  if (count < 2) return 0;
  while (last_.size() > std::min(kAvoided, count - 1)) last_.pop_front();
  std::vector<std::size_t> free;
  for (std::size_t i = 0; i < count; ++i)
    if (std::find(last_.begin(), last_.end(), i) == last_.end()) free.push_back(i);
  const std::size_t chosen = free[random_() % free.size()];
  last_.push_back(chosen);
  if (last_.size() > std::min(kAvoided, count - 1)) last_.pop_front();
  return chosen;
}

int Mixer::play(const std::vector<std::shared_ptr<const Decoded>>& together) {
  const std::scoped_lock lock(mutex_);
  ++last_;
  for (const auto& what : together) {
    voices_.push_back({last_, what});
    if (what->play == Play::Restart) restarts_.push_back({last_, what, what->loopEnd - what->loopStart});
  }
  return last_;
}

void Mixer::stop(int sound) {
  const std::scoped_lock lock(mutex_);
  stopLocked(sound);
}

void Mixer::stopLocked(int sound) {
  std::erase_if(restarts_, [&](const Restart& restart) { return restart.sound == sound; });
  for (Voice& voice : voices_)
    if (voice.sound == sound && voice.what->play != Play::Restart) voice.isEnding = true;
}

void Mixer::stopAll() {
  const std::scoped_lock lock(mutex_);
  restarts_.clear();
  for (Voice& voice : voices_) voice.isEnding = true;
}

void Mixer::fill(float* samples, std::size_t frames) {
  const std::scoped_lock lock(mutex_);
  std::fill(samples, samples + frames * 2, 0.0f);
  while (frames > 0) {
    std::size_t stretch = frames;
    for (const Restart& restart : restarts_)
      stretch = std::min(stretch, static_cast<std::size_t>(std::max<std::int64_t>(restart.in, 0)));
    fillStretch(samples, stretch);
    samples += stretch * 2;
    frames -= stretch;
    for (Restart& restart : restarts_) {
      restart.in -= static_cast<std::int64_t>(stretch);
      if (restart.in > 0) continue;
      voices_.push_back({restart.sound, restart.what});
      restart.in = std::max<std::int64_t>(1, restart.what->loopEnd - restart.what->loopStart);
    }
  }
}

void Mixer::fillStretch(float* samples, std::size_t frames) {
  const float fadeStep = 1 / (kFadeSeconds * static_cast<float>(rate_));
  std::erase_if(voices_, [&](Voice& voice) { return mix(voice, samples, frames, fadeStep) < frames; });
}

/// Fewer frames than asked for: it is over.
std::size_t Mixer::mix(Voice& voice, float* samples, std::size_t frames, float fadeStep) {
  const Decoded& what = *voice.what;
  for (std::size_t i = 0; i < frames; ++i) {
    if (what.play == Play::Points && !voice.isEnding && voice.at == what.loopEnd) voice.at = what.loopStart;
    if (voice.at >= what.frames || voice.fade <= 0) return i;
    const float* sample = &what.samples[static_cast<std::size_t>(voice.at) * 2];
    samples[2 * i] += sample[0] * voice.fade;
    samples[2 * i + 1] += sample[1] * voice.fade;
    if (voice.isEnding) voice.fade -= fadeStep;
    ++voice.at;
  }
  return frames;
}

std::vector<Voice> Mixer::voices() const {
  const std::scoped_lock lock(mutex_);
  return voices_;
}

}  // namespace octaphon::receiver
