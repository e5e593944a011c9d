// Plug-ins in a graph.
#pragma once

#include <functional>
#include <memory>
#include <vector>

#include "plugin/plugin_world.h"
#include "signal/graph.h"

namespace octaphon {

class PluginInstance;

/// Instances that a pass leaves for the next: of plug-ins that forget everything when they are reset, as a
/// check has shown (EffectInfo::resets). Not thread-safe.
class InstancePool {
 public:
  InstancePool();
  ~InstancePool();

  /// One that was given under this key, reset; null where there is none.
  std::unique_ptr<PluginInstance> take(const std::string& key);
  void give(const std::string& key, std::unique_ptr<PluginInstance> instance);
  /// Between passes: frees what the pass before had no use for.
  void endPass();

 private:
  struct Kept;
  std::vector<Kept> kept_;
  int pass_ = 0;
};

/// Makes inserts of a graph sound.
class Lv2Host : public PluginHost {
 public:
  /// Told the id of the insert whose plug-in is being made or runs, and an empty text after it: for whoever
  /// has to say which one it was that took the process with it.
  using Watch = std::function<void(const std::string& insert)>;
  /// All must outlive the processors.
  Lv2Host(PluginWorld& world, InstancePool& pool, Watch watch)
      : world_(world), pool_(pool), watch_(std::move(watch)) {}
  Result<std::unique_ptr<Processor>> make(const RecipeNode& node, EffectSetting setting,
                                          int keyChannels) override;

 private:
  PluginWorld& world_;
  InstancePool& pool_;
  Watch watch_;
};

}  // namespace octaphon
