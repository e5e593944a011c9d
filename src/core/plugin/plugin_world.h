// LV2 plug-ins (lv2plug.in), through lilv: what there is, and instances that sound. Only the worker program
// uses this folder: a plug-in that crashes takes the process with it. Everything that loads or makes plug-ins
// goes through one lock; instances run one at a time.
#pragma once

#include <memory>
#include <string>
#include <vector>

#include "base/result.h"
#include "routing/effect_info.h"

namespace octaphon {

/// Frames that a plug-in gets at once, always: many change their sound with it.
inline constexpr Frame kPluginFrames = 512;

struct PluginName {
  std::string uri;
  std::string name;
  std::string kind;  ///< class, for people: `Compressor`
};

class PluginWorld {
 public:
  PluginWorld();
  ~PluginWorld();
  PluginWorld(const PluginWorld&) = delete;
  PluginWorld& operator=(const PluginWorld&) = delete;

  /// Plug-ins that could be inserts: as many main inputs as outputs, by name.
  std::vector<PluginName> list() const;

  /// What an insert's plug-in is, with these values: its parameters and channels, its latency after the first
  /// run, and whether it can be split among layers, by two seeded signals a and b: f(a) + f(b) = f(a + b)
  /// within −100 dB, under the key a + b where it has a key input; whether it repeats itself, and whether it
  /// forgets. NotFound where it is not installed, Unsupported where it asks for what is not offered.
  Result<EffectInfo> describe(const Insert& insert, int rate);

  struct Loaded;
  struct World;
  /// NotFound, Unsupported.
  Result<std::shared_ptr<Loaded>> load(const std::string& uri);

 private:
  std::unique_ptr<World> world_;
};

}  // namespace octaphon
