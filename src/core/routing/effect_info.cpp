#include "routing/effect_info.h"

#include <algorithm>
#include <bit>
#include <cmath>
#include <cstdint>
#include <functional>
#include <numbers>
#include <tuple>

namespace octaphon {
namespace {

using Linearity = EffectInfo::Linearity;

ParameterInfo linear(const char* key, const char* name, const char* unit, double least, double most,
                     double usual, double smoothingMs = 10) {
  return {key, name, unit, least, most, usual, Scale::Linear, {}, smoothingMs, true};
}
ParameterInfo ratio(const char* key, const char* name, const char* unit, double least, double most,
                    double usual) {
  return {key, name, unit, least, most, usual, Scale::Ratio, {}, 10, true};
}
ParameterInfo fixed(ParameterInfo info) {
  info.automatable = false;
  info.smoothingMs = 0;
  return info;
}
/// What comes so much later is still of the sound.
ParameterInfo delay(ParameterInfo info) {
  info = fixed(std::move(info));
  info.isDelay = true;
  return info;
}
ParameterInfo toggle(const char* key, const char* name, bool usual) {
  return fixed({key, name, "", 0, 1, usual ? 1.0 : 0.0, Scale::Switch, {}, 0, false});
}
ParameterInfo choice(const char* key, const char* name, std::vector<std::string> choices) {
  const double most = static_cast<double>(choices.size() - 1);
  return {key, name, "", 0, most, 0, Scale::Choice, std::move(choices), 0, false};
}

// The order of parameters is known to the processors in signal/effects.

EffectInfo trim() {
  return {"trim",
          "Trim",
          "Louder or softer",
          Linearity::Linear,
          false,
          false,
          0,
          0,
          {linear("gain", "Gain", "dB", -48, 48, 0)}};
}

EffectInfo equaliser() {
  return {"equaliser",
          "Equaliser",
          "Two cuts, two shelves and two bells",
          Linearity::Linear,
          false,
          false,
          0,
          0,
          {toggle("low_cut", "Low cut", false), ratio("low_cut_freq", "Low cut at", "Hz", 10, 2000, 40),
           ratio("low_freq", "Low shelf at", "Hz", 20, 2000, 120),
           linear("low_gain", "Low shelf", "dB", -24, 24, 0),
           ratio("bell1_freq", "First bell at", "Hz", 20, 20000, 400),
           linear("bell1_gain", "First bell", "dB", -24, 24, 0),
           ratio("bell1_q", "First bell's Q", "", 0.1, 40, 0.9),
           ratio("bell2_freq", "Second bell at", "Hz", 20, 20000, 2500),
           linear("bell2_gain", "Second bell", "dB", -24, 24, 0),
           ratio("bell2_q", "Second bell's Q", "", 0.1, 40, 0.9),
           ratio("high_freq", "High shelf at", "Hz", 500, 20000, 8000),
           linear("high_gain", "High shelf", "dB", -24, 24, 0), toggle("high_cut", "High cut", false),
           ratio("high_cut_freq", "High cut at", "Hz", 200, 22000, 16000)}};
}

EffectInfo compressor() {
  return {"compressor",
          "Compressor",
          "Less where it is loud; its key input can be fed",
          Linearity::Dynamics,
          false,
          true,
          0,
          0,
          {linear("threshold", "Threshold", "dB", -80, 0, -18), ratio("ratio", "Ratio", ":1", 1, 100, 4),
           linear("knee", "Knee", "dB", 0, 24, 6), ratio("attack", "Attack", "ms", 0.05, 500, 10),
           ratio("release", "Release", "ms", 1, 5000, 120), linear("makeup", "Make-up", "dB", -24, 24, 0),
           linear("mix", "Mix", "%", 0, 100, 100), toggle("linked", "Channels linked", true),
           choice("detector", "Hears", {"peaks", "RMS"})}};
}

// Two stages in a row, each looking 1.5 ms ahead: limiter.cpp says how the frames come about.
EffectInfo limiter() {
  EffectInfo info{
      "limiter",
      "Limiter",
      "Never over its ceiling, true peaks counted",
      Linearity::Dynamics,
      false,
      true,
      22,
      0.003,
      {linear("gain", "Gain before", "dB", -24, 24, 0), linear("ceiling", "Ceiling", "dBTP", -24, 0, -1, 0),
       ratio("release", "Release", "ms", 1, 2000, 80)}};
  info.parameters[1] = fixed(info.parameters[1]);
  info.revision = 2;
  return info;
}

EffectInfo saturation() {
  return {"saturation",
          "Saturation",
          "Rounds off what is loud",
          Linearity::Nonlinear,
          false,
          false,
          24,
          0,
          {linear("drive", "Drive", "dB", 0, 36, 6), linear("mix", "Mix", "%", 0, 100, 100),
           linear("output", "Output", "dB", -24, 24, 0)}};
}

EffectInfo echo() {
  return {
      "echo",
      "Echo",
      "Repeats, each softer and duller",
      Linearity::Linear,
      false,
      false,
      0,
      0,
      {delay(ratio("time", "Time", "ms", 1, 4000, 350)), linear("feedback", "Repeats", "%", 0, 95, 35),
       fixed(ratio("damp", "Duller over", "Hz", 500, 20000, 6000)), linear("mix", "Mix", "%", 0, 100, 100)}};
}

EffectInfo reverb() {
  return {
      "reverb",
      "Reverb",
      "A room",
      Linearity::Linear,
      false,
      false,
      0,
      0,
      {fixed(ratio("decay", "Decay (60 dB)", "s", 0.1, 30, 1.8)),
       fixed(linear("size", "Size", "%", 0, 100, 50)),
       delay(linear("predelay", "Delay before", "ms", 0, 250, 10)),
       fixed(ratio("damp", "Duller over", "Hz", 500, 20000, 6000)), linear("mix", "Mix", "%", 0, 100, 100)}};
}

std::vector<EffectInfo> makeTable() {
  return {trim(), equaliser(), compressor(), limiter(), saturation(), echo(), reverb()};
}

const std::vector<EffectInfo>& table() {
  static const std::vector<EffectInfo> made = makeTable();
  return made;
}

}  // namespace

namespace {

constexpr double kRingDb = 126;
constexpr double kNepers = kRingDb * 0.11512925464970229;  // time constants until it is gone
constexpr double kPluginSeconds = 10;

/// A filter of a frequency and Q (R. Bristow-Johnson's): its envelope falls with Q / (π f).
double filterSeconds(double hertz, double q) { return kNepers * q / (std::numbers::pi * hertz); }

double equaliserSeconds(const std::function<double(const char*)>& value) {
  double longest = filterSeconds(value("low_freq"), std::numbers::sqrt2 / 2);
  if (value("low_cut") > 0.5) longest = std::max(longest, filterSeconds(value("low_cut_freq"), 1));
  for (const auto& [hertz, gain, q] :
       {std::tuple("bell1_freq", "bell1_gain", "bell1_q"), std::tuple("bell2_freq", "bell2_gain", "bell2_q")})
    if (value(gain) != 0) longest = std::max(longest, filterSeconds(value(hertz), value(q)));
  return longest;
}

}  // namespace

double ringSeconds(const Insert& insert, const EffectInfo& info) {
  if (info.isPlugin) return kPluginSeconds;
  const std::function<double(const char*)> value = [&](const char* key) {
    return valueOf(insert, info.parameters[static_cast<std::size_t>(info.find(key))]);
  };
  if (info.id == "equaliser") return equaliserSeconds(value);
  if (info.id == "compressor" || info.id == "limiter") return kNepers * value("release") / 1000;
  if (info.id == "reverb") return value("decay") * kRingDb / 60 + value("predelay") / 1000 + 0.2;
  if (info.id == "echo") {
    const double repeats = value("feedback") > 0 ? -kRingDb / (20 * std::log10(value("feedback") / 100)) : 0;
    return value("time") / 1000 * (1 + std::ceil(repeats));
  }
  return 0.01;  // of some frames
}

Frame EffectInfo::latency(int rate) const { return latencyFrames + framesOf(latencySeconds / 2, rate) * 2; }

int EffectInfo::find(std::string_view key) const {
  for (std::size_t i = 0; i < parameters.size(); ++i)
    if (parameters[i].key == key) return static_cast<int>(i);
  return -1;
}

std::span<const EffectInfo> builtInEffects() { return table(); }

const EffectInfo* builtInEffect(std::string_view id) {
  for (const EffectInfo& info : table())
    if (info.id == id) return &info;
  return nullptr;
}

double valueOf(const Insert& insert, const ParameterInfo& parameter) {
  const auto found = insert.values.find(parameter.key);
  const double value = found == insert.values.end() ? parameter.defaultValue : found->second;
  const double inside = std::clamp(value, parameter.least, parameter.most);
  return parameter.scale == Scale::Switch || parameter.scale == Scale::Choice ? std::round(inside) : inside;
}

std::string PluginCatalogue::keyOf(const Insert& insert) {
  std::string key = insert.effect + '\n' + insert.state;
  for (const auto& [parameter, value] : insert.values)  // every bit of it: the plug-in gets them too
    key += '\n' + parameter + '=' + std::to_string(std::bit_cast<std::uint64_t>(value));
  return key;
}

const EffectInfo* PluginCatalogue::find(const Insert& insert) const {
  const auto found = plugins_.find(keyOf(insert));
  return found == plugins_.end() ? nullptr : &found->second;
}

std::string PluginCatalogue::problemOf(const Insert& insert) const {
  const auto found = problems_.find(keyOf(insert));
  return found == problems_.end() ? std::string() : found->second;
}

std::vector<Insert> pluginInserts(const Session& session) {
  std::vector<Insert> plugins;
  const auto add = [&](const std::vector<Insert>& inserts) {
    for (const Insert& insert : inserts) {
      const bool known = std::any_of(plugins.begin(), plugins.end(), [&](const Insert& other) {
        return other.effect == insert.effect && other.values == insert.values && other.state == insert.state;
      });
      if (isPluginUri(insert.effect) && !known) plugins.push_back(insert);
    }
  };
  for (const Track& track : session.tracks) {
    add(track.inserts);
    for (const Clip& clip : track.clips) add(clip.inserts);
  }
  add(session.main.inserts);
  return plugins;
}

const EffectInfo* effectInfo(const Insert& insert, const PluginCatalogue* plugins) {
  if (!isPluginUri(insert.effect)) return builtInEffect(insert.effect);
  return plugins == nullptr ? nullptr : plugins->find(insert);
}

}  // namespace octaphon
