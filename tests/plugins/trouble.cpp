// Plug-ins that misbehave once a sample is louder than 0.95, each in its way; one that is late and says so,
// one that never gets ready; and some that remember: until they are started anew, for ever, or differently
// each time they are made.
#include <lv2/core/lv2.h>

#include <unistd.h>
#if defined(__SSE__)
#include <xmmintrin.h>
#endif
#include <cmath>
#include <csignal>
#include <cstdlib>
#include <cstring>
#include <vector>

namespace {

constexpr int kLatency = 100;

struct Plugin {
  const char* uri;
  float* ports[3] = {};  // in, out, latency
  std::vector<float> waiting = std::vector<float>(kLatency, 0.0f);
  bool isTroubled = false;
  float memory = 0, drift = 0;
};

constexpr int kMostForgetful = 4;  // of those that forget; more of them in one process crash
int forgetful = 0, drifting = 0;

bool is(const Plugin& plugin, const char* name) { return std::strstr(plugin.uri, name) != nullptr; }

LV2_Handle make(const LV2_Descriptor* descriptor, double, const char*, const LV2_Feature* const*) {
  auto* plugin = new Plugin;
  plugin->uri = descriptor->URI;
  if (is(*plugin, "forgets") && ++forgetful > kMostForgetful) std::raise(SIGSEGV);
  if (is(*plugin, "sleeps"))
    for (;;) ::pause();
  if (is(*plugin, "drifts")) plugin->drift = 0.001f * static_cast<float>(++drifting);
  return plugin;
}

void connect(LV2_Handle handle, uint32_t port, void* data) {
  static_cast<Plugin*>(handle)->ports[port] = static_cast<float*>(data);
}

void start(LV2_Handle handle) {
  auto* plugin = static_cast<Plugin*>(handle);
  if (is(*plugin, "forgets")) plugin->memory = 0;
}

void misbehave(Plugin& plugin) {
  plugin.isTroubled = true;
  if (is(plugin, "crash")) std::raise(SIGSEGV);
  if (is(plugin, "hang"))
    for (;;) ::pause();
  if (is(plugin, "memory"))
    for (;;) std::memset(new char[1u << 28], 1, 4096);
}

/// Gives numbers too small to matter, and lets the thread no longer flush them.
void whisper(Plugin& plugin, uint32_t frames) {
#if defined(__SSE__)
  _mm_setcsr(_mm_getcsr() & ~0x8040u);
#endif
  for (uint32_t i = 0; i < frames; ++i) plugin.ports[1][i] = 1e-40f;
}

void run(LV2_Handle handle, uint32_t frames) {
  Plugin& plugin = *static_cast<Plugin*>(handle);
  if (is(plugin, "whisper")) return whisper(plugin, frames);
  const bool isLate = is(plugin, "late"), remembers = is(plugin, "forgets") || is(plugin, "keeps");
  for (uint32_t i = 0; i < frames; ++i) {
    const float in = plugin.ports[0][i];
    if (std::fabs(in) > 0.95f && !plugin.isTroubled) misbehave(plugin);
    if (isLate) plugin.waiting.push_back(in);
    plugin.ports[1][i] = isLate ? plugin.waiting[i] : in;
    if (remembers) plugin.ports[1][i] = plugin.memory = 0.999f * plugin.memory + 0.1f * in;
    plugin.ports[1][i] += plugin.drift * in;
    if (plugin.isTroubled && is(plugin, "nan")) plugin.ports[1][i] = std::nanf("");
  }
  if (isLate) plugin.waiting.erase(plugin.waiting.begin(), plugin.waiting.begin() + frames);
  *plugin.ports[2] = is(plugin, "shifty") && plugin.isTroubled ? 64 : isLate ? kLatency : 0;
}

void clean(LV2_Handle handle) {
  auto* plugin = static_cast<Plugin*>(handle);
  if (plugin->isTroubled && is(*plugin, "parting")) std::raise(SIGSEGV);
  delete plugin;
}

const LV2_Descriptor kPlugins[]{
    {"urn:octaphon:test:crash", make, connect, start, run, nullptr, clean, nullptr},
    {"urn:octaphon:test:hang", make, connect, start, run, nullptr, clean, nullptr},
    {"urn:octaphon:test:memory", make, connect, start, run, nullptr, clean, nullptr},
    {"urn:octaphon:test:nan", make, connect, start, run, nullptr, clean, nullptr},
    {"urn:octaphon:test:shifty", make, connect, start, run, nullptr, clean, nullptr},
    {"urn:octaphon:test:late", make, connect, start, run, nullptr, clean, nullptr},
    {"urn:octaphon:test:parting", make, connect, start, run, nullptr, clean, nullptr},
    {"urn:octaphon:test:forgets", make, connect, start, run, nullptr, clean, nullptr},
    {"urn:octaphon:test:keeps", make, connect, start, run, nullptr, clean, nullptr},
    {"urn:octaphon:test:whisper", make, connect, start, run, nullptr, clean, nullptr},
    {"urn:octaphon:test:sleeps", make, connect, start, run, nullptr, clean, nullptr},
    {"urn:octaphon:test:drifts", make, connect, start, run, nullptr, clean, nullptr},
};

}  // namespace

LV2_SYMBOL_EXPORT const LV2_Descriptor* lv2_descriptor(uint32_t index) {
  return index < std::size(kPlugins) ? &kPlugins[index] : nullptr;
}
