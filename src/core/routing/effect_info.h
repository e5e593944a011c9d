// What an effect is, as data: its parameters with unit, range, default and smoothing, and what it does to a
// sum. Built-in effects stand in one table; plug-ins are described by whoever has looked at them.
#pragma once

#include <map>
#include <span>
#include <string>
#include <string_view>
#include <vector>

#include "base/frames.h"
#include "session/session.h"

namespace octaphon {

enum class Scale {
  Linear,
  Ratio,   ///< equal steps are equal ratios: frequencies, times
  Switch,  ///< 0 or 1
  Choice,  ///< whole numbers, each with a name
};

struct ParameterInfo {
  std::string key;   ///< in session files
  std::string name;  ///< for people
  std::string unit;  ///< `dB`, `Hz`, `ms`, `s`, `%`, `:1`, or empty
  double least = 0, most = 1, defaultValue = 0;
  Scale scale = Scale::Linear;
  std::vector<std::string> choices = {};
  double smoothingMs = 0;   ///< a jump in a curve is spread over this time, from the jump on
  bool automatable = true;  ///< whether curves can move it
  bool isDelay = false;     ///< of built-in effects: ms after which the sound comes again
  bool operator==(const ParameterInfo&) const = default;
};

/// A setting that comes with a plug-in.
struct EffectPreset {
  std::string name;
  std::map<std::string, double> values;
  std::string state;  ///< as Insert::state
};

/// What built-in effects judge only now and then (silence, curves) is judged at whole multiples of so many
/// session frames.
inline constexpr Frame kEffectCell = 256;

struct EffectInfo {
  enum class Linearity {
    Linear,     ///< f(a) + f(b) = f(a + b): layers pass one by one
    Dynamics,   ///< a gain over time, worked out of a key: layers add up under a common key
    Nonlinear,  ///< cannot be split among layers
  };
  std::string id;     ///< in session files; a plug-in's URI
  std::string name;   ///< for people
  std::string about;  ///< one line
  Linearity linearity = Linearity::Linear;
  bool isPlugin = false;
  bool hasKey = false;    ///< has a key (side-chain) input
  int latencyFrames = 0;  ///< of a built-in effect: plus latencySeconds at the session's rate
  double latencySeconds = 0;
  std::vector<ParameterInfo> parameters;
  // Of plug-ins: main channels in and out, and of the key input. 0: as many as the track has.
  int inputs = 0, outputs = 0, keyChannels = 0;
  std::vector<EffectPreset> presets = {};
  int revision = 1;     ///< bumped whenever the same input would sound different; of plug-ins their own
  bool repeats = true;  ///< of plug-ins: the same sound twice from the same input
  bool resets = false;  ///< of plug-ins: as good as new, to the bit, when it is stopped and started

  Frame latency(int rate) const;
  /// Index of a parameter; −1 where there is none.
  int find(std::string_view key) const;
};

/// The built-in effects, in the order in which they are offered.
std::span<const EffectInfo> builtInEffects();
const EffectInfo* builtInEffect(std::string_view id);

/// The value of a parameter in an insert, inside its range.
double valueOf(const Insert& insert, const ParameterInfo& parameter);

/// For how long it may give sound after its input has ended, down to −126 dB, by its settings; where curves
/// move them, by the longest they allow. Of plug-ins a guess.
double ringSeconds(const Insert& insert, const EffectInfo& info);

/// What is known of plug-ins as inserts have set them: what can be split among layers depends on the
/// settings. Values only: nothing is loaded here.
class PluginCatalogue {
 public:
  /// Plug-ins were tried at this rate, in Hz.
  explicit PluginCatalogue(int rate = 48000) : rate_(rate) {}
  int rate() const { return rate_; }

  void add(const Insert& insert, EffectInfo info) { plugins_[keyOf(insert)] = std::move(info); }
  void addProblem(const Insert& insert, std::string why) { problems_[keyOf(insert)] = std::move(why); }
  /// Null where nothing is known of it.
  const EffectInfo* find(const Insert& insert) const;
  /// Why it cannot be used; empty where that is not known.
  std::string problemOf(const Insert& insert) const;
  /// Whether it was asked for already, with these settings.
  bool knows(const Insert& insert) const { return find(insert) != nullptr || !problemOf(insert).empty(); }

 private:
  static std::string keyOf(const Insert& insert);
  int rate_;
  std::map<std::string, EffectInfo> plugins_;
  std::map<std::string, std::string> problems_;
};

/// The inserts of a session that are plug-ins, each setting once.
std::vector<Insert> pluginInserts(const Session& session);

/// A built-in effect or a plug-in of the catalogue; null where neither is known. `plugins` may be null.
const EffectInfo* effectInfo(const Insert& insert, const PluginCatalogue* plugins);
inline bool isPluginUri(std::string_view effect) { return effect.find(':') != std::string_view::npos; }

}  // namespace octaphon
