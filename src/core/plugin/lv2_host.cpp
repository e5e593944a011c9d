#include "plugin/lv2_host.h"

#include <algorithm>
#include <bit>
#include <cfloat>
#include <cmath>

#include "base/denormals.h"
#include "plugin/plugin_parts.h"

namespace octaphon {

struct InstancePool::Kept {
  std::string key;
  std::unique_ptr<PluginInstance> instance;
  int pass = 0;  // in which it ran last
};

InstancePool::InstancePool() = default;
InstancePool::~InstancePool() = default;

std::unique_ptr<PluginInstance> InstancePool::take(const std::string& key) {
  const auto found =
      std::find_if(kept_.begin(), kept_.end(), [&](const Kept& kept) { return kept.key == key; });
  if (found == kept_.end()) return nullptr;
  std::unique_ptr<PluginInstance> instance = std::move(found->instance);
  kept_.erase(found);
  instance->reset();
  return instance;
}

void InstancePool::give(const std::string& key, std::unique_ptr<PluginInstance> instance) {
  kept_.push_back({key, std::move(instance), pass_});
}

void InstancePool::endPass() {
  std::erase_if(kept_, [&](const Kept& kept) { return kept.pass != pass_; });
  ++pass_;
}

namespace {

class Lv2Processor : public Processor {
 public:
  Lv2Processor(EffectSetting setting, std::shared_ptr<PluginWorld::Loaded> loaded,
               std::vector<std::unique_ptr<PluginInstance>> instances, int keyChannels,
               const Lv2Host::Watch& watch, std::string insert, InstancePool& pool, std::string poolKey)
      : Processor(std::move(setting)),
        loaded_(std::move(loaded)),
        instances_(std::move(instances)),
        keyChannels_(keyChannels),
        watch_(watch),
        insert_(std::move(insert)),
        pool_(pool),
        poolKey_(std::move(poolKey)) {
    buffers_.resize(2 * static_cast<std::size_t>(setting_.channels) + static_cast<std::size_t>(keyChannels_),
                    std::vector<float>(static_cast<std::size_t>(kPluginFrames), 0.0f));
  }

  ~Lv2Processor() override {
    if (!poolKey_.empty() && problem_.empty() && isFinite_)
      for (auto& instance : instances_) pool_.give(poolKey_, std::move(instance));
  }

  void process(const float* const* in, float* const* out, Frame at, Frame frames) override {
    const std::size_t channels = static_cast<std::size_t>(setting_.channels);
    const std::size_t inputs = channels + static_cast<std::size_t>(keyChannels_);
    for (std::size_t c = 0; c < inputs; ++c) {
      std::copy_n(in[c], frames, buffers_[c].begin());
      std::fill(buffers_[c].begin() + frames, buffers_[c].end(), 0.0f);
    }
    const std::size_t width = loaded_->inputs.size();
    for (std::size_t i = 0; i < instances_.size(); ++i) {
      for (std::size_t p = 0; p < setting_.values.size(); ++p) instances_[i]->set(p, setting_.at(p, at));
      const float* main[kMaxMixChannels];
      const float* key[kMaxMixChannels];
      float* result[kMaxMixChannels];
      for (std::size_t c = 0; c < width; ++c) {
        main[c] = buffers_[i * width + c].data();
        result[c] = buffers_[inputs + i * width + c].data();
      }
      for (std::size_t k = 0; k < loaded_->keys.size() && keyChannels_ > 0; ++k)
        key[k] = buffers_[channels +
                          std::min<std::size_t>(i * width + k, static_cast<std::size_t>(keyChannels_) - 1)]
                     .data();
      watch_(insert_);
      {
        const DenormalGuard guard;  // a plug-in may leave this thread otherwise than it found it
        instances_[i]->run(main, keyChannels_ > 0 ? key : nullptr, result);
      }
      watch_({});
      if (instances_[i]->latency() != setting_.info->latencyFrames)
        problem_ = "its latency changed from " + std::to_string(setting_.info->latencyFrames) + " to " +
                   std::to_string(instances_[i]->latency()) + " frames";
    }
    for (std::size_t c = 0; c < channels; ++c) {
      const auto& result = buffers_[inputs + c];
      for (const float sample : result) isFinite_ = isFinite_ && std::isfinite(sample);
      std::transform(result.begin(), result.begin() + frames, out[c],
                     [](float sample) { return std::fabs(sample) < FLT_MIN ? 0.0f : sample; });
    }
  }

  bool isAtRest() const override { return false; }
  void reset() override {}
  std::unique_ptr<Processor> clone() const override { return nullptr; }
  std::string problem() const override { return problem_; }

 private:
  std::shared_ptr<PluginWorld::Loaded> loaded_;
  std::vector<std::unique_ptr<PluginInstance>> instances_;
  int keyChannels_;
  const Lv2Host::Watch& watch_;
  std::string insert_;
  InstancePool& pool_;
  std::string poolKey_;  // empty: not to be used again
  bool isFinite_ = true;
  std::vector<std::vector<float>> buffers_;
  std::string problem_;
};

/// Instances are only alike with the same settings: those that the check was made with. Empty where curves
/// move them.
std::string poolKeyOf(const Insert& insert, const EffectSetting& setting) {
  if (!setting.info->resets || !setting.isConstant()) return {};
  std::string key = insert.effect + '\n' + std::to_string(setting.rate);
  for (std::size_t p = 0; p < setting.values.size(); ++p)
    key += '\n' + std::to_string(std::bit_cast<std::uint64_t>(setting.at(p, 0)));
  return key + '\n' + insert.state;
}

}  // namespace

Result<std::unique_ptr<Processor>> Lv2Host::make(const RecipeNode& node, EffectSetting setting,
                                                 int keyChannels) {
  watch_(node.insert->id);
  OCTAPHON_ASSIGN(std::shared_ptr<PluginWorld::Loaded> loaded, world_.load(node.insert->effect));
  std::vector<std::unique_ptr<PluginInstance>> instances;
  std::string poolKey = poolKeyOf(*node.insert, setting);
  const int copies = setting.channels / std::max(1, static_cast<int>(loaded->inputs.size()));
  for (int i = 0; i < copies; ++i) {
    std::unique_ptr<PluginInstance> instance = pool_.take(poolKey);
    if (!instance) {
      OCTAPHON_ASSIGN(instance, PluginInstance::make(loaded, setting.rate, node.insert->state));
    }
    instances.push_back(std::move(instance));
  }
  watch_({});
  return std::make_unique<Lv2Processor>(std::move(setting), std::move(loaded), std::move(instances),
                                        keyChannels, watch_, node.insert->id, pool_, std::move(poolKey));
}

}  // namespace octaphon
