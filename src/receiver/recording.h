// Playing to a file instead of a device, for tests and for hearing it again.
#pragma once

#include <cstdint>
#include <string>
#include <vector>

#include "receiver/manifest.h"

namespace octaphon::receiver {

struct Cue {
  double seconds = 0;
  std::string sound;  ///< its name
  bool isStop = false;
};

/// `NAME@SECONDS`; without, at the beginning.
Cue parseCue(const std::string& text, bool isStop);

struct Recording {
  std::filesystem::path file;  ///< WAV, 32 bit float, two channels
  double seconds = 10;
  int rate = 48000;
  std::uint32_t seed = 1;
  std::vector<Cue> cues;
};

/// Prints a line of JSON for each sound that begins: `{"sound","variation","at"}`, in frames.
Outcome<int> record(const std::vector<Sound>& sounds, const std::filesystem::path& folder,
                    const Recording& recording);

}  // namespace octaphon::receiver
