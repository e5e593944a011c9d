#include "plugin/plugin_world.h"

#include <lv2/atom/atom.h>
#include <lv2/buf-size/buf-size.h>
#include <lv2/core/lv2.h>
#include <lv2/options/options.h>
#include <lv2/port-groups/port-groups.h>
#include <lv2/port-props/port-props.h>
#include <lv2/presets/presets.h>
#include <lv2/state/state.h>
#include <lv2/units/units.h>
#include <lv2/urid/urid.h>
#include <lv2/worker/worker.h>

#include <algorithm>
#include <cmath>
#include <random>
#include <set>

#include "base/unicode.h"
#include "plugin/plugin_parts.h"

namespace octaphon {
namespace {

constexpr const char* kSideChain = LV2_CORE_PREFIX "isSideChain";
constexpr double kSplitDb = -100;
constexpr std::size_t kMostPresets = 200;

const std::set<std::string> kOffered{LV2_URID__map,
                                     LV2_URID__unmap,
                                     LV2_OPTIONS__options,
                                     LV2_BUF_SIZE__boundedBlockLength,
                                     LV2_BUF_SIZE__fixedBlockLength,
                                     LV2_BUF_SIZE__powerOf2BlockLength,
                                     LV2_WORKER__schedule,
                                     LV2_STATE__loadDefaultState,
                                     LV2_CORE__isLive,
                                     LV2_CORE__inPlaceBroken,
                                     LV2_CORE__hardRTCapable};

std::string textOf(const LilvNode* node) { return node == nullptr ? std::string() : printable(lilv_node_as_string(node), 80); }

std::string unitOf(const LilvPlugin* plugin, const LilvPort* port, const LilvNode* unitNode) {
  const OwnedNode unit(lilv_port_get(plugin, port, unitNode));
  if (!unit || !lilv_node_is_uri(unit.get())) return {};
  const std::string uri = lilv_node_as_uri(unit.get());
  const auto is = [&](const char* name) { return uri == std::string(LV2_UNITS_PREFIX) + name; };
  return is("db") ? "dB" : is("hz") ? "Hz" : is("khz") ? "kHz" : is("ms") ? "ms" : is("s") ? "s" : is("pc") ? "%" : is("bpm") ? "BPM" : "";
}

/// Scale points as names where they count 0, 1, 2 … from the least value on.
std::vector<std::string> choicesOf(const LilvPlugin* plugin, const LilvPort* port, double least) {
  std::map<double, std::string> points;
  LilvScalePoints* all = lilv_port_get_scale_points(plugin, port);
  if (all == nullptr) return {};
  LILV_FOREACH (scale_points, i, all) {
    const LilvScalePoint* point = lilv_scale_points_get(all, i);
    points[lilv_node_as_float(lilv_scale_point_get_value(point))] = textOf(lilv_scale_point_get_label(point));
  }
  lilv_scale_points_free(all);
  std::vector<std::string> names;
  for (const auto& [value, name] : points) {
    if (value != least + static_cast<double>(names.size())) return {};
    names.push_back(name);
  }
  return names;
}

bool looksLikeKeySource(std::string name) {
  std::transform(name.begin(), name.end(), name.begin(), [](unsigned char c) { return std::tolower(c); });
  return name.find("sidechain") != std::string::npos || name.find("side-chain") != std::string::npos ||
         name.find("key") != std::string::npos || name.find("external") != std::string::npos;
}

class Describer {
 public:
  Describer(PluginWorld::Loaded& loaded, LilvWorld* world) : loaded_(loaded), plugin_(loaded.plugin), world_(world) {}

  Result<> read() {
    const OwnedNode name(lilv_plugin_get_name(plugin_));
    EffectInfo& info = loaded_.info;
    info.id = lilv_node_as_uri(lilv_plugin_get_uri(plugin_));
    info.name = textOf(name.get());
    info.isPlugin = true;
    info.sort = EffectInfo::Sort::Nonlinear;
    OCTAPHON_TRY(checkFeatures());
    for (std::uint32_t i = 0; i < lilv_plugin_get_num_ports(plugin_); ++i)
      OCTAPHON_TRY(readPort(i, lilv_plugin_get_port_by_index(plugin_, i)));
    info.inputs = static_cast<int>(loaded_.inputs.size());
    info.outputs = static_cast<int>(loaded_.outputs.size());
    info.keyChannels = static_cast<int>(loaded_.keys.size());
    info.hasKey = info.keyChannels > 0;
    readPresets();
    if (lilv_plugin_has_latency(plugin_))
      loaded_.latencyPort = static_cast<int>(lilv_plugin_get_latency_port_index(plugin_));
    return {};
  }

 private:
  void readPresets() {
    LilvNodes* all = lilv_plugin_get_related(plugin_, uri(LV2_PRESETS__Preset).get());
    LILV_FOREACH (nodes, i, all) {
      const LilvNode* preset = lilv_nodes_get(all, i);
      lilv_world_load_resource(world_, preset);
      LilvState* state = lilv_state_new_from_world(world_, loaded_.world->urids.mapFeature(), preset);
      if (state == nullptr || loaded_.info.presets.size() >= kMostPresets) continue;
      EffectPreset made;
      const char* label = lilv_state_get_label(state);
      made.name = label == nullptr ? textOf(preset) : printable(label, 80);
      Taking taking{loaded_, made, loaded_.world->urids.map(LV2_ATOM__Float)};
      lilv_state_emit_port_values(state, takeValue, &taking);
      if (lilv_state_get_num_properties(state) > 0) {
        char* written = lilv_state_to_string(world_, loaded_.world->urids.mapFeature(), loaded_.world->urids.unmapFeature(),
                                             state, lilv_node_as_uri(preset), nullptr);
        if (written != nullptr) made.state = written;
        lilv_free(written);
      }
      lilv_state_free(state);
      loaded_.info.presets.push_back(std::move(made));
    }
    lilv_nodes_free(all);
    std::sort(loaded_.info.presets.begin(), loaded_.info.presets.end(),
              [](const EffectPreset& a, const EffectPreset& b) { return a.name < b.name; });
  }

  struct Taking {
    PluginWorld::Loaded& loaded;
    EffectPreset& preset;
    LV2_URID floats;
  };
  static void takeValue(const char* symbol, void* data, const void* value, uint32_t size, uint32_t type) {
    auto& taking = *static_cast<Taking*>(data);
    const int parameter = taking.loaded.info.find(symbol);
    if (parameter < 0 || type != taking.floats || size != sizeof(float)) return;
    const double number = static_cast<double>(*static_cast<const float*>(value));
    if (std::isfinite(number))
      taking.preset.values[symbol] = number - static_cast<double>(taking.loaded.zeroes[static_cast<std::size_t>(parameter)]);
  }

  OwnedNode uri(const char* text) const { return OwnedNode(lilv_new_uri(world_, text)); }
  bool is(const LilvPort* port, const char* type) const { return lilv_port_is_a(plugin_, port, uri(type).get()); }
  bool has(const LilvPort* port, const char* property) const {
    return lilv_port_has_property(plugin_, port, uri(property).get());
  }

  Result<> checkFeatures() {
    LilvNodes* required = lilv_plugin_get_required_features(plugin_);
    std::string missing;
    LILV_FOREACH (nodes, i, required) {
      const std::string feature = lilv_node_as_uri(lilv_nodes_get(required, i));
      if (!kOffered.contains(feature)) missing = feature;
    }
    lilv_nodes_free(required);
    if (missing.empty()) return {};
    return fail(ErrorCode::Unsupported, loaded_.info.name, "the plug-in asks for " + missing, "Use another one");
  }

  Result<> readPort(std::uint32_t index, const LilvPort* port) {
    const bool isInput = is(port, LV2_CORE__InputPort);
    if (is(port, LV2_CORE__AudioPort)) {
      (isInput ? isKey(port) ? loaded_.keys : loaded_.inputs : loaded_.outputs).push_back(index);
    } else if (is(port, LV2_CORE__ControlPort)) {
      if (isInput)
        readParameter(index, port);
      else
        loaded_.others.push_back(index);
    } else if (is(port, LV2_ATOM__AtomPort)) {
      loaded_.events.push_back(index);
    } else if (is(port, LV2_CORE__CVPort)) {
      loaded_.voltages.push_back(index);
    } else if (!has(port, LV2_CORE__connectionOptional)) {
      return fail(ErrorCode::Unsupported, loaded_.info.name, "the plug-in has ports of an unknown kind", "Use another one");
    }
    return {};
  }

  /// By port property, or because its group is said to be the side chain of another.
  bool isKey(const LilvPort* port) const {
    if (has(port, kSideChain)) return true;
    const OwnedNode group(lilv_port_get(plugin_, port, uri(LV2_PORT_GROUPS__group).get()));
    if (!group) return false;
    const OwnedNode of(lilv_world_get(world_, group.get(), uri(LV2_PORT_GROUPS__sideChainOf).get(), nullptr));
    return of != nullptr;
  }

  void readParameter(std::uint32_t index, const LilvPort* port) {
    LilvNode *usual = nullptr, *least = nullptr, *most = nullptr;
    lilv_port_get_range(plugin_, port, &usual, &least, &most);
    const OwnedNode ownUsual(usual), ownLeast(least), ownMost(most);
    const auto number = [](const LilvNode* node, double otherwise) {
      const double value = node != nullptr && (lilv_node_is_float(node) || lilv_node_is_int(node))
                               ? static_cast<double>(lilv_node_as_float(node))
                               : otherwise;
      return std::isfinite(value) ? std::clamp(value, -kMaxParameter, kMaxParameter) : otherwise;
    };
    ParameterInfo parameter;
    parameter.key = textOf(lilv_port_get_symbol(plugin_, port));
    const OwnedNode name(lilv_port_get_name(plugin_, port));
    parameter.name = textOf(name.get());
    const double rate = has(port, LV2_CORE__sampleRate) ? 48000 : 1;
    parameter.least = number(least, 0) * rate;
    parameter.most = std::max(number(most, 1) * rate, parameter.least);
    parameter.usual = std::clamp(number(usual, parameter.least) * (usual != nullptr ? rate : 1), parameter.least, parameter.most);
    parameter.unit = unitOf(plugin_, port, uri(LV2_UNITS__unit).get());
    float first = 0;
    if (has(port, LV2_CORE__toggled)) {
      parameter.scale = Scale::Switch;
    } else if (has(port, LV2_CORE__enumeration)) {
      parameter.choices = choicesOf(plugin_, port, parameter.least);
      if (!parameter.choices.empty()) {
        parameter.scale = Scale::Choice;
        first = static_cast<float>(parameter.least);
        parameter.usual -= parameter.least;
        parameter.most = static_cast<double>(parameter.choices.size() - 1);
        parameter.least = 0;
      }
    } else if (has(port, LV2_PORT_PROPS__logarithmic) && parameter.least > 0) {
      parameter.scale = Scale::Ratio;
    }
    if (loaded_.keySource.empty() && looksLikeKeySource(parameter.name)) loaded_.keySource = parameter.name;
    loaded_.info.parameters.push_back(std::move(parameter));
    loaded_.parameters.push_back(index);
    loaded_.zeroes.push_back(first);
  }

  PluginWorld::Loaded& loaded_;
  const LilvPlugin* plugin_;
  LilvWorld* world_;
};

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

}  // namespace

PluginWorld::PluginWorld() : world_(std::make_unique<World>()) {
  world_->world = lilv_world_new();
  lilv_world_load_all(world_->world);
}

PluginWorld::~PluginWorld() {
  world_->loaded.clear();
  lilv_world_free(world_->world);
}

std::vector<PluginName> PluginWorld::list() const {
  const std::scoped_lock lock(world_->mutex);
  const LilvPlugins* all = lilv_world_get_all_plugins(world_->world);
  const OwnedNode audio = world_->node(LV2_CORE__AudioPort), input = world_->node(LV2_CORE__InputPort),
                  output = world_->node(LV2_CORE__OutputPort);
  std::vector<PluginName> names;
  LILV_FOREACH (plugins, i, all) {
    const LilvPlugin* plugin = lilv_plugins_get(all, i);
    const auto ins = lilv_plugin_get_num_ports_of_class(plugin, audio.get(), input.get(), nullptr);
    const auto outs = lilv_plugin_get_num_ports_of_class(plugin, audio.get(), output.get(), nullptr);
    if (ins == 0 || outs == 0 || ins < outs) continue;
    const OwnedNode name(lilv_plugin_get_name(plugin));
    names.push_back({lilv_node_as_uri(lilv_plugin_get_uri(plugin)), textOf(name.get()),
                     textOf(lilv_plugin_class_get_label(lilv_plugin_get_class(plugin)))});
  }
  std::sort(names.begin(), names.end(), [](const PluginName& a, const PluginName& b) { return a.name < b.name; });
  return names;
}

Result<std::shared_ptr<PluginWorld::Loaded>> PluginWorld::load(const std::string& uri) {
  const std::scoped_lock lock(world_->mutex);
  std::shared_ptr<Loaded>& loaded = world_->loaded[uri];
  if (loaded) return loaded;
  const OwnedNode node = world_->node(uri.c_str());
  const LilvPlugin* plugin =
      node ? lilv_plugins_get_by_uri(lilv_world_get_all_plugins(world_->world), node.get()) : nullptr;
  if (plugin == nullptr)
    return fail(ErrorCode::NotFound, printable(uri, 120), "the plug-in is not installed", "Install it, or take it out");
  auto made = std::make_shared<Loaded>();
  made->world = world_.get();
  made->plugin = plugin;
  OCTAPHON_TRY(Describer(*made, world_->world).read());
  loaded = std::move(made);
  return loaded;
}

Result<EffectInfo> PluginWorld::describe(const Insert& insert, int rate) {
  OCTAPHON_ASSIGN(const std::shared_ptr<Loaded> loaded, load(insert.effect));
  EffectInfo info = loaded->info;
  if (info.inputs == 0 || info.outputs == 0) return info;  // nothing to put into a chain
  const std::size_t frames = static_cast<std::size_t>(rate) / static_cast<std::size_t>(kPluginFrames) * static_cast<std::size_t>(kPluginFrames);
  const auto channels = static_cast<std::size_t>(info.inputs);
  const Sound a = noise(channels, frames, 1), b = noise(channels, frames, 2), both = added(a, b);
  Sound key(static_cast<std::size_t>(info.keyChannels));
  for (std::size_t k = 0; k < key.size(); ++k) key[k] = both[std::min(k, channels - 1)];
  const auto through = [&](const Sound& in) -> Result<Sound> {
    OCTAPHON_ASSIGN(const auto instance, PluginInstance::make(loaded, rate, insert.state));
    for (std::size_t p = 0; p < info.parameters.size(); ++p)
      instance->set(p, static_cast<float>(valueOf(insert, info.parameters[p])) + loaded->zeroes[p]);
    Sound out(static_cast<std::size_t>(info.outputs), std::vector<float>(frames));
    for (std::size_t at = 0; at < frames; at += static_cast<std::size_t>(kPluginFrames)) {
      std::vector<const float*> ins, keys;
      std::vector<float*> outs;
      for (const auto& channel : in) ins.push_back(channel.data() + at);
      for (const auto& channel : key) keys.push_back(channel.data() + at);
      for (auto& channel : out) outs.push_back(channel.data() + at);
      instance->run(ins.data(), keys.data(), outs.data());
    }
    info.latencyFrames = std::clamp(instance->latency(), 0, 10 * rate);
    return out;
  };
  OCTAPHON_ASSIGN(const Sound fa, through(a));
  OCTAPHON_ASSIGN(const Sound fb, through(b));
  OCTAPHON_ASSIGN(const Sound fBoth, through(both));
  const Sound sum = added(fa, fb);
  double residual = 0, loudest = 1e-9;
  for (std::size_t c = 0; c < sum.size(); ++c)
    for (std::size_t i = 0; i < frames; ++i) {
      const double difference = std::abs(static_cast<double>(sum[c][i]) - fBoth[c][i]);
      residual = std::isfinite(difference) ? std::max(residual, difference) : 1e9;
      loudest = std::max(loudest, std::abs(static_cast<double>(fBoth[c][i])));
    }
  const bool splits = 20 * std::log10(residual / loudest + 1e-12) < kSplitDb;
  if (splits) info.sort = info.hasKey ? EffectInfo::Sort::Dynamics : EffectInfo::Sort::Linear;
  if (!splits && info.hasKey) info.about = loaded->keySource;  // what a remark names
  return info;
}

// --- in a graph

namespace {

class Lv2Processor : public Processor {
 public:
  Lv2Processor(EffectSetting setting, std::shared_ptr<PluginWorld::Loaded> loaded,
               std::vector<std::unique_ptr<PluginInstance>> instances, int keyChannels, const Lv2Host::Watch& watch,
               std::string insert)
      : Processor(std::move(setting)),
        loaded_(std::move(loaded)),
        instances_(std::move(instances)),
        keyChannels_(keyChannels),
        watch_(watch),
        insert_(std::move(insert)) {
    buffers_.resize(static_cast<std::size_t>(2 * setting_.channels + keyChannels_),
                    std::vector<float>(static_cast<std::size_t>(kPluginFrames), 0.0f));
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
      for (std::size_t p = 0; p < setting_.values.size(); ++p)
        instances_[i]->set(p, static_cast<float>(setting_.at(p, at)) + loaded_->zeroes[p]);
      const float* main[kMaxMixChannels];
      const float* key[kMaxMixChannels];
      float* result[kMaxMixChannels];
      for (std::size_t c = 0; c < width; ++c) {
        main[c] = buffers_[i * width + c].data();
        result[c] = buffers_[inputs + i * width + c].data();
      }
      for (std::size_t k = 0; k < loaded_->keys.size() && keyChannels_ > 0; ++k)
        key[k] = buffers_[channels + std::min<std::size_t>(i * width + k, static_cast<std::size_t>(keyChannels_) - 1)].data();
      watch_(insert_);
      instances_[i]->run(main, keyChannels_ > 0 ? key : nullptr, result);
      watch_({});
      if (instances_[i]->latency() != setting_.info->latencyFrames)
        problem_ = "its latency changed from " + std::to_string(setting_.info->latencyFrames) + " to " +
                   std::to_string(instances_[i]->latency()) + " frames";
    }
    for (std::size_t c = 0; c < channels; ++c) std::copy_n(buffers_[inputs + c].begin(), frames, out[c]);
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
  std::vector<std::vector<float>> buffers_;
  std::string problem_;
};

}  // namespace

Result<std::unique_ptr<Processor>> Lv2Host::make(const RecipeNode& node, EffectSetting setting, int keyChannels) {
  watch_(node.insert->id);
  OCTAPHON_ASSIGN(std::shared_ptr<PluginWorld::Loaded> loaded, world_.load(node.insert->effect));
  std::vector<std::unique_ptr<PluginInstance>> instances;
  const int copies = setting.channels / std::max(1, static_cast<int>(loaded->inputs.size()));
  for (int i = 0; i < copies; ++i) {
    OCTAPHON_ASSIGN(auto instance, PluginInstance::make(loaded, setting.rate, node.insert->state));
    instances.push_back(std::move(instance));
  }
  watch_({});
  return std::make_unique<Lv2Processor>(std::move(setting), std::move(loaded), std::move(instances), keyChannels, watch_,
                                        node.insert->id);
}

}  // namespace octaphon
