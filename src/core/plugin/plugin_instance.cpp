#include <lv2/atom/util.h>
#include <lv2/buf-size/buf-size.h>
#include <lv2/core/lv2.h>
#include <lv2/parameters/parameters.h>
#include <lv2/state/state.h>

#include <algorithm>
#include <cstring>

#include "base/unicode.h"
#include "plugin/plugin_parts.h"

namespace octaphon {

UridMap::UridMap()
    : map_{this,
           [](LV2_URID_Map_Handle self, const char* uri) { return static_cast<UridMap*>(self)->map(uri); }},
      unmap_{this, [](LV2_URID_Unmap_Handle self, LV2_URID urid) {
               return static_cast<UridMap*>(self)->unmap(urid);
             }} {}

LV2_URID UridMap::map(const char* uri) {
  const auto [found, isNew] = numbers_.try_emplace(uri, static_cast<LV2_URID>(uris_.size() + 1));
  if (isNew) uris_.push_back(uri);
  return found->second;
}

const char* UridMap::unmap(LV2_URID urid) const {
  return urid == 0 || urid > uris_.size() ? nullptr : uris_[urid - 1].c_str();
}

Result<std::unique_ptr<PluginInstance>> PluginInstance::make(
    const std::shared_ptr<PluginWorld::Loaded>& loaded, int rate, const std::string& state) {
  PluginWorld::World& world = *loaded->world;
  const std::scoped_lock lock(world.mutex);
  std::unique_ptr<PluginInstance> made(new PluginInstance);
  made->loaded_ = loaded;
  made->sampleRate_ = static_cast<float>(rate);
  made->setFeatures();
  made->instance_ = lilv_plugin_instantiate(loaded->plugin, rate, made->featureList_.data());
  if (made->instance_ == nullptr)
    return fail(ErrorCode::Unsupported, loaded->info.name,
                "the plug-in cannot be started at " + std::to_string(rate) + " Hz", "Use another one");
  made->worker_ = static_cast<const LV2_Worker_Interface*>(
      lilv_instance_get_extension_data(made->instance_, LV2_WORKER__interface));
  made->connectPorts();
  OCTAPHON_TRY(made->restore(state));
  lilv_instance_activate(made->instance_);
  return made;
}

/// What the plug-in may ask of us, in the form that LV2 wants it.
void PluginInstance::setFeatures() {
  UridMap& urids = loaded_->world->urids;
  const auto option = [&](const char* key, const char* type, std::uint32_t size, const void* value) {
    options_.push_back({LV2_OPTIONS_INSTANCE, 0, key == nullptr ? 0 : urids.map(key), size,
                        type == nullptr ? 0 : urids.map(type), value});
  };
  for (const char* key :
       {LV2_BUF_SIZE__minBlockLength, LV2_BUF_SIZE__maxBlockLength, LV2_BUF_SIZE__nominalBlockLength})
    option(key, LV2_ATOM__Int, sizeof(std::int32_t), &blockLength_);
  option(LV2_BUF_SIZE__sequenceSize, LV2_ATOM__Int, sizeof(std::int32_t), &sequenceSize_);
  option(LV2_PARAMETERS__sampleRate, LV2_ATOM__Float, sizeof(float), &sampleRate_);
  option(nullptr, nullptr, 0, nullptr);
  scheduleFeature_ = {this, schedule};
  features_ = {{LV2_URID__map, urids.mapFeature()},       {LV2_URID__unmap, urids.unmapFeature()},
               {LV2_OPTIONS__options, options_.data()},   {LV2_BUF_SIZE__boundedBlockLength, nullptr},
               {LV2_BUF_SIZE__fixedBlockLength, nullptr}, {LV2_BUF_SIZE__powerOf2BlockLength, nullptr},
               {LV2_WORKER__schedule, &scheduleFeature_}, {LV2_STATE__loadDefaultState, nullptr}};
  for (const LV2_Feature& feature : features_) featureList_.push_back(&feature);
  featureList_.push_back(nullptr);
}

/// All ports but those of sound, which change from block to block.
void PluginInstance::connectPorts() {
  controls_.resize(loaded_->parameters.size());
  for (std::size_t p = 0; p < loaded_->parameters.size(); ++p) {
    controls_[p] = static_cast<float>(loaded_->info.parameters[p].defaultValue) + loaded_->zeroes[p];
    lilv_instance_connect_port(instance_, loaded_->parameters[p], &controls_[p]);
  }
  ignored_.resize(loaded_->others.size());
  for (std::size_t i = 0; i < loaded_->others.size(); ++i)
    lilv_instance_connect_port(
        instance_, loaded_->others[i],
        static_cast<int>(loaded_->others[i]) == loaded_->latencyPort ? &latency_ : &ignored_[i]);
  for (const std::uint32_t port : loaded_->events) {
    auto& atom = atoms_.emplace_back(static_cast<std::size_t>(sequenceSize_), 0);
    lilv_instance_connect_port(instance_, port, atom.data());
  }
  for (const std::uint32_t port : loaded_->voltages) {
    auto& voltage = voltages_.emplace_back(static_cast<std::size_t>(kPluginFrames), 0.0f);
    lilv_instance_connect_port(instance_, port, voltage.data());
  }
  silence_.assign(static_cast<std::size_t>(kPluginFrames), 0.0f);
}

Result<> PluginInstance::restore(const std::string& state) {
  if (state.empty()) return {};
  PluginWorld::World& world = *loaded_->world;
  LilvState* restored = lilv_state_new_from_string(world.world, world.urids.mapFeature(), state.c_str());
  if (restored == nullptr)
    return fail(ErrorCode::BadValue, loaded_->info.name, "its state cannot be understood",
                "Choose a preset again");
  lilv_state_restore(restored, instance_, nullptr, nullptr, 0, featureList_.data());
  lilv_state_free(restored);
  return {};
}

PluginInstance::~PluginInstance() {
  if (instance_ == nullptr) return;
  lilv_instance_deactivate(instance_);
  lilv_instance_free(instance_);
}

void PluginInstance::reset() {
  const std::scoped_lock lock(loaded_->world->mutex);
  lilv_instance_deactivate(instance_);
  work_.clear();
  responses_.clear();
  clearEvents();
  latency_ = 0;
  lilv_instance_activate(instance_);
}

/// No events in, room for events out.
void PluginInstance::clearEvents() {
  for (auto& atom : atoms_) {
    auto* sequence = reinterpret_cast<LV2_Atom_Sequence*>(atom.data());
    sequence->atom.type = loaded_->world->urids.map(LV2_ATOM__Sequence);
    sequence->atom.size = sizeof(LV2_Atom_Sequence_Body);
    sequence->body = {0, 0};
  }
}

LV2_Worker_Status PluginInstance::schedule(LV2_Worker_Schedule_Handle self, uint32_t size, const void* data) {
  static_cast<PluginInstance*>(self)->work_.emplace_back(static_cast<const char*>(data), size);
  return LV2_WORKER_SUCCESS;
}

LV2_Worker_Status PluginInstance::respond(LV2_Worker_Respond_Handle self, uint32_t size, const void* data) {
  static_cast<PluginInstance*>(self)->responses_.emplace_back(static_cast<const char*>(data), size);
  return LV2_WORKER_SUCCESS;
}

void PluginInstance::run(const float* const* in, const float* const* key, float* const* out) {
  // What was put off in the run before is done now, so that it does not depend on the clock.
  const LV2_Handle handle = lilv_instance_get_handle(instance_);
  for (; worker_ != nullptr && !work_.empty(); work_.pop_front())
    worker_->work(handle, respond, this, static_cast<uint32_t>(work_.front().size()), work_.front().data());
  for (; worker_ != nullptr && !responses_.empty(); responses_.pop_front())
    if (worker_->work_response != nullptr)
      worker_->work_response(handle, static_cast<uint32_t>(responses_.front().size()),
                             responses_.front().data());

  const auto connect = [&](std::uint32_t port, const float* to) {
    lilv_instance_connect_port(instance_, port, const_cast<float*>(to));
  };
  for (std::size_t c = 0; c < loaded_->inputs.size(); ++c) connect(loaded_->inputs[c], in[c]);
  for (std::size_t c = 0; c < loaded_->outputs.size(); ++c) connect(loaded_->outputs[c], out[c]);
  for (std::size_t k = 0; k < loaded_->keys.size(); ++k)
    connect(loaded_->keys[k], key == nullptr ? silence_.data() : key[k]);
  clearEvents();
  lilv_instance_run(instance_, static_cast<uint32_t>(kPluginFrames));
  if (worker_ != nullptr && worker_->end_run != nullptr) worker_->end_run(handle);
}

}  // namespace octaphon
