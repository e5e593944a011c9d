// What a sound is written as: one of a brief's files of each sound.
#pragma once

#include <array>
#include <string>
#include <vector>

#include "base/choices.h"
#include "formats/encoding.h"

namespace octaphon {

/// Channels that files can be given, in the order of mixing_law.h.
enum class OutputChannels { AsTapped, Mono, Stereo, Quad, Surround, WideSurround };
constexpr auto choicesOf(OutputChannels) {
  return std::array<Choice<OutputChannels>, 6>{
      {{OutputChannels::AsTapped, "as-tapped", "channels as tapped", "Channels as tapped"},
       {OutputChannels::Mono, "mono", "mono", "Mono"},
       {OutputChannels::Stereo, "stereo", "stereo", "Stereo"},
       {OutputChannels::Quad, "quad", "quad", "Quad"},
       {OutputChannels::Surround, "5.1", "5.1", "5.1"},
       {OutputChannels::WideSurround, "7.1", "7.1", "7.1"}}};
}
/// How many; 0: as tapped.
constexpr int channelsOf(OutputChannels channels) {
  constexpr std::array<int, 6> kCounts{0, 1, 2, 4, 6, 8};
  return kCounts[static_cast<std::size_t>(channels)];
}

/// Rates that files may have besides the session's, in Hz.
inline constexpr std::array<int, 13> kFileRates{8000,  11025, 12000, 16000, 22050,  24000, 32000,
                                                44100, 48000, 88200, 96000, 176400, 192000};

struct Output {
  Encoding encoding = Encoding::Pcm24;
  int rate = 0;  ///< Hz, one of kFileRates; 0: the brief's
  OutputChannels channels = OutputChannels::AsTapped;
  bool split = false;       ///< a file for each channel
  bool together = false;    ///< one file of all sources of a span, their channels behind each other
  std::string suffix = {};  ///< behind the name
  std::string folder = {};  ///< below the brief's folder; empty: in it
  Coding coding = {};
  std::string unknownKeys = {};
  bool operator==(const Output&) const = default;
};

inline constexpr std::size_t kMaxOutputs = 64;

/// The format of each output as keys of rows have it: its container's name; where an output before has that,
/// its encoding's, with a number where that is there too.
std::vector<std::string> outputKeys(const std::vector<Output>& outputs);

}  // namespace octaphon
