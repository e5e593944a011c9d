#include "plugin/plugin_world.h"

#include <lv2/core/lv2.h>

#include <algorithm>

#include "base/unicode.h"
#include "plugin/plugin_parts.h"

namespace octaphon {

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
  LILV_FOREACH(plugins, i, all) {
    const LilvPlugin* plugin = lilv_plugins_get(all, i);
    const auto ins = lilv_plugin_get_num_ports_of_class(plugin, audio.get(), input.get(), nullptr);
    const auto outs = lilv_plugin_get_num_ports_of_class(plugin, audio.get(), output.get(), nullptr);
    if (ins == 0 || outs == 0 || ins < outs) continue;
    const OwnedNode name(lilv_plugin_get_name(plugin));
    names.push_back({lilv_node_as_uri(lilv_plugin_get_uri(plugin)), textOf(name.get()),
                     textOf(lilv_plugin_class_get_label(lilv_plugin_get_class(plugin)))});
  }
  std::sort(names.begin(), names.end(),
            [](const PluginName& a, const PluginName& b) { return a.name < b.name; });
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
    return fail(ErrorCode::NotFound, printable(uri, 120), "the plug-in is not installed",
                "Install it, or take it out");
  auto made = std::make_shared<Loaded>();
  made->world = world_.get();
  made->plugin = plugin;
  OCTAPHON_TRY(readPlugin(*made));
  loaded = std::move(made);
  return loaded;
}

}  // namespace octaphon
