#include "signal/effects/processor.h"

#include <algorithm>

#include "signal/effects/effects.h"

namespace octaphon {

bool EffectSetting::isConstant() const {
  return std::all_of(values.begin(), values.end(),
                     [](const ValueCurve& value) { return value.isConstant(); });
}

std::unique_ptr<Processor> makeProcessor(EffectSetting setting, int gainChannels) {
  const std::string& id = setting.info->id;
  if (id == "trim") return makeTrim(std::move(setting));
  if (id == "equaliser") return makeEqualiser(std::move(setting));
  if (id == "compressor") return makeCompressor(std::move(setting), gainChannels);
  if (id == "limiter") return makeLimiter(std::move(setting));
  if (id == "saturation") return makeSaturation(std::move(setting));
  if (id == "echo") return makeEcho(std::move(setting));
  if (id == "reverb") return makeReverb(std::move(setting));
  return nullptr;
}

}  // namespace octaphon
