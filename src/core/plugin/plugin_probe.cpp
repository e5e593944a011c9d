// What a plug-in does, found by trying it with an insert's settings.
#include <algorithm>
#include <cmath>
#include <cstring>
#include <random>

#include "plugin/plugin_parts.h"

namespace octaphon {
namespace {

constexpr double kSplitDb = -100;

using Sound = std::vector<std::vector<float>>;

Sound noise(std::size_t channels, std::size_t frames, unsigned seed) {
  std::mt19937 random(seed);
  Sound sound(channels, std::vector<float>(frames));
  for (auto& channel : sound) {
    float slow = 0;
    for (std::size_t i = 0; i < frames; ++i) {
      slow = 0.6f * slow + 0.4f * (static_cast<float>(random() % 20001) / 10000 - 1);
      channel[i] = slow * (i % 9600 < 4800 ? 0.5f : 0.05f);
    }
  }
  return sound;
}

Sound added(const Sound& a, const Sound& b) {
  Sound sum = a;
  for (std::size_t c = 0; c < a.size(); ++c)
    for (std::size_t i = 0; i < a[c].size(); ++i) sum[c][i] += b[c][i];
  return sum;
}

/// One trial: what goes in, under one key for all.
class Probe {
 public:
  Probe(std::shared_ptr<PluginWorld::Loaded> loaded, const Insert& insert, int rate)
      : loaded_(std::move(loaded)), insert_(insert), rate_(rate) {
    const Frame blocks = rate / kPluginFrames;
    frames_ = static_cast<std::size_t>(blocks * kPluginFrames);
  }

  Result<EffectInfo> run() {
    EffectInfo info = loaded_->info;
    if (info.inputs == 0 || info.outputs == 0) return info;  // nothing to put into a chain
    const auto channels = static_cast<std::size_t>(info.inputs);
    const Sound a = noise(channels, frames_, 1), b = noise(channels, frames_, 2), both = added(a, b);
    for (std::size_t k = 0; k < loaded_->keys.size(); ++k) key_.push_back(both[std::min(k, channels - 1)]);
    OCTAPHON_ASSIGN(auto first, fresh());
    OCTAPHON_ASSIGN(auto second, fresh());
    OCTAPHON_ASSIGN(auto third, fresh());
    const Sound fa = through(*first, a), fb = through(*second, b), fBoth = through(*third, both);
    info.latencyFrames = std::clamp(third->latency(), 0, 10 * rate_);
    if (splits(added(fa, fb), fBoth)) {
      info.linearity = info.hasKey ? EffectInfo::Linearity::Dynamics : EffectInfo::Linearity::Linear;
    } else if (info.hasKey) {
      info.about = loaded_->keySource;  // what a remark names
    }
    second->reset();
    info.resets = isSame(through(*second, a), fa);
    if (!info.resets) {
      OCTAPHON_ASSIGN(auto again, fresh());
      info.repeats = isSame(through(*again, a), fa);
    }
    return info;
  }

 private:
  Result<std::unique_ptr<PluginInstance>> fresh() const {
    OCTAPHON_ASSIGN(auto instance, PluginInstance::make(loaded_, rate_, insert_.state));
    for (std::size_t p = 0; p < loaded_->info.parameters.size(); ++p)
      instance->set(p, valueOf(insert_, loaded_->info.parameters[p]));
    return instance;
  }

  Sound through(PluginInstance& instance, const Sound& in) const {
    Sound out(static_cast<std::size_t>(loaded_->info.outputs), std::vector<float>(frames_));
    for (std::size_t at = 0; at < frames_; at += static_cast<std::size_t>(kPluginFrames)) {
      std::vector<const float*> ins, keys;
      std::vector<float*> outs;
      for (const auto& channel : in) ins.push_back(channel.data() + at);
      for (const auto& channel : key_) keys.push_back(channel.data() + at);
      for (auto& channel : out) outs.push_back(channel.data() + at);
      instance.run(ins.data(), keys.data(), outs.data());
    }
    return out;
  }

  static bool splits(const Sound& sum, const Sound& whole) {
    double residual = 0, loudest = 1e-9;
    for (std::size_t c = 0; c < sum.size(); ++c)
      for (std::size_t i = 0; i < sum[c].size(); ++i) {
        const double difference = std::abs(static_cast<double>(sum[c][i]) - whole[c][i]);
        residual = std::isfinite(difference) ? std::max(residual, difference) : 1e9;
        loudest = std::max(loudest, std::abs(static_cast<double>(whole[c][i])));
      }
    return 20 * std::log10(residual / loudest + 1e-12) < kSplitDb;
  }

  /// Bit by bit.
  static bool isSame(const Sound& one, const Sound& other) {
    for (std::size_t c = 0; c < one.size(); ++c)
      if (std::memcmp(one[c].data(), other[c].data(), one[c].size() * sizeof(float)) != 0) return false;
    return true;
  }

  std::shared_ptr<PluginWorld::Loaded> loaded_;
  const Insert& insert_;
  int rate_;
  std::size_t frames_;
  Sound key_;
};

}  // namespace

Result<EffectInfo> PluginWorld::describe(const Insert& insert, int rate) {
  OCTAPHON_ASSIGN(std::shared_ptr<Loaded> loaded, load(insert.effect));
  return Probe(std::move(loaded), insert, rate).run();
}

}  // namespace octaphon
