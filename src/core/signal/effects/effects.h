// The makers of the built-in effects; a file each.
#pragma once

#include "signal/effects/processor.h"

namespace octaphon {

std::unique_ptr<Processor> makeTrim(EffectSetting setting);
std::unique_ptr<Processor> makeEqualiser(EffectSetting setting);
std::unique_ptr<Processor> makeSaturation(EffectSetting setting);
std::unique_ptr<Processor> makeEcho(EffectSetting setting);
std::unique_ptr<Processor> makeReverb(EffectSetting setting);
/// Computers of gain.
std::unique_ptr<Processor> makeCompressor(EffectSetting setting, int gainChannels);
std::unique_ptr<Processor> makeLimiter(EffectSetting setting);

}  // namespace octaphon
