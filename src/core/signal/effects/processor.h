// What every effect is to the graph. A processor's state is a value: clone() copies it, and from equal states
// equal sounds follow, whatever the blocks.
#pragma once

#include <memory>
#include <string>
#include <vector>

#include "routing/effect_info.h"
#include "signal/curve.h"

namespace octaphon {

/// The parameters of one insert over time, in the order of its EffectInfo.
struct EffectSetting {
  const EffectInfo* info = nullptr;
  int rate = 48000;  ///< Hz
  int channels = 2;
  std::vector<ValueCurve> values;

  double at(std::size_t parameter, Frame frame) const { return values[parameter].at(frame); }
  bool isConstant() const;
};

/// What is not louder than this is nothing: −200 dBFS.
inline constexpr double kRest = 1e-10;
/// Curves of parameters that are costly to follow are looked at this often, at whole multiples of session
/// frames.
inline constexpr Frame kControlCell = 16;

class Processor {
 public:
  explicit Processor(EffectSetting setting) : setting_(std::move(setting)) {}
  virtual ~Processor() = default;
  Processor(const Processor&) = default;
  Processor& operator=(const Processor&) = delete;

  /// Planar in and out, `channels` each, which may be the same buffers; `at` is the session frame of the
  /// first input sample. A gain computer gives gains (factors) on as many channels as `gainChannels`.
  virtual void process(const float* const* in, float* const* out, Frame at, Frame frames) = 0;
  /// Whether silence in gives silence out from now on, or for gain computers always the same gain.
  virtual bool isAtRest() const = 0;
  /// Forgets everything.
  virtual void reset() = 0;
  virtual std::unique_ptr<Processor> clone() const = 0;
  /// Why its sound is not to be trusted any more; empty where it is.
  virtual std::string problem() const { return {}; }

 protected:
  EffectSetting setting_;
};

/// A built-in effect; of dynamics the computer of their gain, of a key with `setting.channels` channels. With
/// `gainChannels` 1 the channels are linked.
std::unique_ptr<Processor> makeProcessor(EffectSetting setting, int gainChannels = 1);

}  // namespace octaphon
