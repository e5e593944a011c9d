// The sounds of Tidewheel, a made-up clockwork harbour. All are computed, from a fixed seed.
#pragma once

#include <string>
#include <vector>

namespace octaphon::demo {

struct Sound {
  int rate = 48000;
  int channels = 1;
  std::vector<float> samples;  ///< interleaved, full scale ±1
};

/// A recording holds takes one after the other, each in a slot of the same length.
struct Recording {
  std::string file;  ///< `media/gear.wav`; the sound goes by the name, whichever the format
  int rate;
  int channels;
  int takes;
  double slotSeconds;
};

const std::vector<Recording>& recordings();

/// The whole recording; the same samples at every call.
Sound synthesise(const Recording& recording);

}  // namespace octaphon::demo
