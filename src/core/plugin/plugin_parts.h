// Inside the LV2 folder: the world of URIs, a plug-in's ports, and one instance.
#pragma once

#include <lilv/lilv.h>
#include <lv2/atom/atom.h>
#include <lv2/options/options.h>
#include <lv2/urid/urid.h>
#include <lv2/worker/worker.h>

#include <deque>
#include <map>
#include <memory>
#include <mutex>
#include <string>
#include <vector>

#include "plugin/plugin_world.h"

namespace octaphon {

struct FreeNode {
  void operator()(LilvNode* node) const { lilv_node_free(node); }
};
using OwnedNode = std::unique_ptr<LilvNode, FreeNode>;

/// Numbers for URIs, as plug-ins ask for them.
class UridMap {
 public:
  UridMap();
  LV2_URID map(const char* uri);
  const char* unmap(LV2_URID urid) const;
  LV2_URID_Map* mapFeature() { return &map_; }
  LV2_URID_Unmap* unmapFeature() { return &unmap_; }

 private:
  std::map<std::string, LV2_URID> numbers_;
  std::deque<std::string> uris_;
  LV2_URID_Map map_;
  LV2_URID_Unmap unmap_;
};

struct PluginWorld::World {
  LilvWorld* world = nullptr;
  UridMap urids;
  std::mutex mutex;
  std::map<std::string, std::shared_ptr<Loaded>> loaded;
  OwnedNode node(const char* uri) const { return OwnedNode(lilv_new_uri(world, uri)); }
};

/// A plug-in's ports, sorted by what they are for.
struct PluginWorld::Loaded {
  World* world = nullptr;
  const LilvPlugin* plugin = nullptr;
  EffectInfo info;
  std::vector<std::uint32_t> inputs, outputs, keys;  // audio
  std::vector<std::uint32_t> parameters;             // control inputs, as info.parameters
  std::vector<float> zeroes;                         // value of a Choice's first name, by parameter
  std::vector<std::uint32_t> others;                 // control outputs
  std::vector<std::uint32_t> events, voltages;       // atom and CV ports
  int latencyPort = -1;
  std::string keySource;  // name of the parameter that looks as if it chose the key
};

std::string textOf(const LilvNode* node);

/// Fills in what the plug-in's own description says. Unsupported where it asks for what is not offered.
Result<> readPlugin(PluginWorld::Loaded& loaded);

/// One running copy. Not thread-safe.
class PluginInstance {
 public:
  static Result<std::unique_ptr<PluginInstance>> make(const std::shared_ptr<PluginWorld::Loaded>& loaded,
                                                      int rate, const std::string& state);
  ~PluginInstance();

  /// A parameter, as EffectInfo counts it.
  void set(std::size_t parameter, double value) {
    controls_[parameter] = static_cast<float>(value) + loaded_->zeroes[parameter];
  }
  /// kPluginFrames frames: main inputs and key inputs into main outputs.
  void run(const float* const* in, const float* const* key, float* const* out);
  /// What the latency port says now; 0 without one.
  int latency() const { return static_cast<int>(latency_); }
  /// Stops and starts it anew; whether it has forgotten everything then is another question
  /// (EffectInfo::resets).
  void reset();

 private:
  void setFeatures();
  void connectPorts();
  Result<> restore(const std::string& state);
  PluginInstance() = default;
  void clearEvents();
  static LV2_Worker_Status schedule(LV2_Worker_Schedule_Handle self, uint32_t size, const void* data);
  static LV2_Worker_Status respond(LV2_Worker_Respond_Handle self, uint32_t size, const void* data);

  std::shared_ptr<PluginWorld::Loaded> loaded_;
  LilvInstance* instance_ = nullptr;
  const LV2_Worker_Interface* worker_ = nullptr;
  LV2_Worker_Schedule scheduleFeature_{};
  std::vector<LV2_Options_Option> options_;
  std::vector<LV2_Feature> features_;
  std::vector<const LV2_Feature*> featureList_;
  std::int32_t blockLength_ = static_cast<std::int32_t>(kPluginFrames);
  std::int32_t sequenceSize_ = 8192;
  float sampleRate_ = 48000;
  std::vector<float> controls_, ignored_;
  float latency_ = 0;
  std::vector<std::vector<std::uint8_t>> atoms_;
  std::vector<std::vector<float>> voltages_;
  std::deque<std::string> work_, responses_;
  std::vector<float> silence_;
};

}  // namespace octaphon
