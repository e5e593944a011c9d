// What a plug-in says of itself: its ports, parameters and presets.
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
#include <set>

#include "base/unicode.h"
#include "plugin/plugin_parts.h"

namespace octaphon {

std::string textOf(const LilvNode* node) {
  return node == nullptr ? std::string() : printable(lilv_node_as_string(node), 80);
}

namespace {

constexpr const char* kSideChain = LV2_CORE_PREFIX "isSideChain";
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

std::string unitOf(const LilvPlugin* plugin, const LilvPort* port, const LilvNode* unitNode) {
  const OwnedNode unit(lilv_port_get(plugin, port, unitNode));
  if (!unit || !lilv_node_is_uri(unit.get())) return {};
  const std::string uri = lilv_node_as_uri(unit.get());
  const auto is = [&](const char* name) { return uri == std::string(LV2_UNITS_PREFIX) + name; };
  return is("db")    ? "dB"
         : is("hz")  ? "Hz"
         : is("khz") ? "kHz"
         : is("ms")  ? "ms"
         : is("s")   ? "s"
         : is("pc")  ? "%"
         : is("bpm") ? "BPM"
                     : "";
}

/// Scale points as names where they count 0, 1, 2 … from the least value on.
std::vector<std::string> choicesOf(const LilvPlugin* plugin, const LilvPort* port, double least) {
  std::map<double, std::string> points;
  LilvScalePoints* all = lilv_port_get_scale_points(plugin, port);
  if (all == nullptr) return {};
  LILV_FOREACH(scale_points, i, all) {
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

class Reader {
 public:
  Reader(PluginWorld::Loaded& loaded, LilvWorld* world)
      : loaded_(loaded), plugin_(loaded.plugin), world_(world) {}

  Result<> read() {
    const OwnedNode name(lilv_plugin_get_name(plugin_));
    EffectInfo& info = loaded_.info;
    info.id = lilv_node_as_uri(lilv_plugin_get_uri(plugin_));
    info.name = textOf(name.get());
    info.isPlugin = true;
    info.linearity = EffectInfo::Linearity::Nonlinear;
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
    LILV_FOREACH(nodes, i, all) {
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
        char* written = lilv_state_to_string(world_, loaded_.world->urids.mapFeature(),
                                             loaded_.world->urids.unmapFeature(), state,
                                             lilv_node_as_uri(preset), nullptr);
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
      taking.preset.values[symbol] =
          number - static_cast<double>(taking.loaded.zeroes[static_cast<std::size_t>(parameter)]);
  }

  OwnedNode uri(const char* text) const { return OwnedNode(lilv_new_uri(world_, text)); }
  bool is(const LilvPort* port, const char* type) const {
    return lilv_port_is_a(plugin_, port, uri(type).get());
  }
  bool has(const LilvPort* port, const char* property) const {
    return lilv_port_has_property(plugin_, port, uri(property).get());
  }

  Result<> checkFeatures() {
    LilvNodes* required = lilv_plugin_get_required_features(plugin_);
    std::string missing;
    LILV_FOREACH(nodes, i, required) {
      const std::string feature = lilv_node_as_uri(lilv_nodes_get(required, i));
      if (!kOffered.contains(feature)) missing = feature;
    }
    lilv_nodes_free(required);
    if (missing.empty()) return {};
    return fail(ErrorCode::Unsupported, loaded_.info.name, "the plug-in asks for " + missing,
                "Use another one");
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
      return fail(ErrorCode::Unsupported, loaded_.info.name, "the plug-in has ports of an unknown kind",
                  "Use another one");
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
    parameter.defaultValue = std::clamp(number(usual, parameter.least) * (usual != nullptr ? rate : 1),
                                        parameter.least, parameter.most);
    parameter.unit = unitOf(plugin_, port, uri(LV2_UNITS__unit).get());
    float first = 0;
    if (has(port, LV2_CORE__toggled)) {
      parameter.scale = Scale::Switch;
    } else if (has(port, LV2_CORE__enumeration)) {
      parameter.choices = choicesOf(plugin_, port, parameter.least);
      if (!parameter.choices.empty()) {
        parameter.scale = Scale::Choice;
        first = static_cast<float>(parameter.least);
        parameter.defaultValue -= parameter.least;
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

}  // namespace

Result<> readPlugin(PluginWorld::Loaded& loaded) { return Reader(loaded, loaded.world->world).read(); }

}  // namespace octaphon
