#include "loop_bits.h"

#include <bit>
#include <optional>
#include <random>

#include "base/hash.h"
#include "base/samples.h"
#include "finish/quantise.h"
#include "level/level_meter.h"
#include "signal/effects/effects.h"

// Compiled twice: as the program is, and with loops for narrow registers alone, in a namespace of its own.
namespace octaphon {
namespace {

constexpr Frame kFrames = 48000;

/// Noise with silence, full scale and a slow part in it.
std::vector<float> hostile(unsigned seed) {
  std::mt19937 random(seed);
  std::vector<float> sound(kFrames);
  float slow = 0;
  for (std::size_t i = 0; i < sound.size(); ++i) {
    const float white = static_cast<float>(random()) / 2147483648.0f - 1;
    slow = 0.999f * slow + 0.02f * white;
    sound[i] = i % 9000 < 700 ? 0 : i % 5000 < 40 ? std::copysign(1.0f, white) : slow + 0.2f * white;
  }
  return sound;
}

class Bits {
 public:
  void add(const std::string& what) {
    bits_.emplace_back(what, hasher_->digest().hex());
    hasher_.emplace();
  }
  template <class T>
  void take(const std::vector<T>& values) {
    hasher_->bytes(values.data(), values.size() * sizeof(T));
  }
  void take(double value) { hasher_->bytes(&value, sizeof value); }
  test::LoopBits done() { return std::move(bits_); }

 private:
  std::optional<Hasher> hasher_{std::in_place};
  test::LoopBits bits_;
};

void loops(Bits& bits, const std::vector<float>& in) {
  std::vector<float> scaled(in.size());
  scaleSamples(in.data(), 0.7071f, scaled.data(), kFrames);
  bits.take(scaled);
  std::vector<double> sum(in.size(), 0.1);
  addSamples(sum.data(), scaled.data(), kFrames);
  const float* many[]{in.data(), scaled.data(), in.data(), scaled.data(), in.data()};
  addSamples(sum.data(), many, 5, kFrames);
  subtractSamples(sum.data(), in.data(), kFrames);
  bits.take(sum);
  roundSamples(sum.data(), scaled.data(), kFrames);
  bits.take(scaled);
  bits.take(sumOfSamples(in.data(), kFrames - 3));
  bits.take(productOfSamples(in.data(), scaled.data(), kFrames - 5));
  bits.take(largestMagnitudeBits(in.data(), kFrames));
  floatsOf24(reinterpret_cast<const unsigned char*>(in.data()), scaled.data(), kFrames);
  bits.take(scaled);
  floatsOf16(reinterpret_cast<const unsigned char*>(in.data()), scaled.data(), kFrames);
  bits.take(scaled);
  bits.add("loops");
}

void quantising(Bits& bits, const std::vector<float>& in, int width) {
  std::vector<std::int32_t> out(in.size());
  Level level;
  Quantiser(width, "key", 1).run(in.data(), 0, kFrames, out.data(), level);
  bits.take(out);
  bits.take(static_cast<double>(level.clipped));
  bits.add("dither to " + std::to_string(width) + " bits");
}

void levels(Bits& bits, const std::vector<std::vector<float>>& in, int rate) {
  LevelMeter meter(static_cast<int>(in.size()), rate, {true, true});
  std::vector<const float*> channels;
  for (const auto& channel : in) channels.push_back(channel.data());
  meter.take(channels.data(), kFrames);
  meter.end();
  const Levels found = meter.levels();
  for (const auto& level : {found.peakDb, found.truePeakDb, found.lufs}) bits.take(level.value_or(1));
  bits.add(std::to_string(in.size()) + " channels at " + std::to_string(rate) + " Hz");
}

void effect(Bits& bits, const std::vector<std::vector<float>>& in, const char* name) {
  EffectSetting setting;
  setting.info = builtInEffect(name);
  for (const auto& parameter : setting.info->parameters) setting.values.emplace_back(parameter.defaultValue);
  const auto processor = std::string(name) == "reverb" ? makeReverb(setting) : makeLimiter(setting);
  std::vector<std::vector<float>> out(2, std::vector<float>(in[0].size()));
  for (Frame at = 0; at + 512 <= kFrames; at += 512) {
    const float* from[]{in[0].data() + at, in[1].data() + at};
    float* to[]{out[0].data() + at, out[1].data() + at};
    processor->process(from, to, at, 512);
  }
  for (const auto& channel : out) bits.take(channel);
  bits.add(name);
}

}  // namespace
}  // namespace octaphon

namespace octaphon::test {

LoopBits OCTAPHON_LOOP_BITS() {
  Bits bits;
  const std::vector<std::vector<float>> sound{hostile(1), hostile(2), hostile(3)};
  loops(bits, sound[0]);
  for (const int width : {8, 16, 24}) quantising(bits, sound[1], width);
  for (const int rate : {8000, 44100, 48000, 192000}) levels(bits, sound, rate);
  effect(bits, sound, "reverb");
  effect(bits, sound, "limiter");
  return bits.done();
}

}  // namespace octaphon::test
