// What each way of writing a file can hold, in one table.
#pragma once

#include <array>
#include <cstdint>
#include <string_view>

#include "base/choices.h"
#include "base/frames.h"

namespace octaphon {

enum class Encoding { Pcm16, Pcm24, Float32 };

struct EncodingInfo {
  Encoding encoding;
  std::string_view name;       ///< in session files and JSON: `pcm24`
  std::string_view text;       ///< for people: `WAV 24 bit`
  std::string_view container;  ///< part of a row's key: `wav`
  std::string_view extension;  ///< with its dot
  int bits;                    ///< of one sample
  bool isInteger;
  std::uint64_t maxBytes;  ///< of sample data: RIFF counts bytes in 32 bits (IBM & Microsoft 1991); room for
                           ///< chunks kept
};

inline constexpr std::uint64_t kWavData = 0xFFFFFFFFu - 0x10000u;
inline constexpr std::array<EncodingInfo, 3> kEncodings{{
    {Encoding::Pcm16, "pcm16", "WAV 16 bit", "wav", ".wav", 16, true, kWavData},
    {Encoding::Pcm24, "pcm24", "WAV 24 bit", "wav", ".wav", 24, true, kWavData},
    {Encoding::Float32, "float32", "WAV 32 bit float", "wav", ".wav", 32, false, kWavData},
}};

const EncodingInfo& encodingInfo(Encoding encoding);
constexpr auto choicesOf(Encoding) {
  std::array<Choice<Encoding>, kEncodings.size()> choices{};
  for (std::size_t i = 0; i < choices.size(); ++i)
    choices[i] = {kEncodings[i].encoding, kEncodings[i].name, kEncodings[i].text};
  return choices;
}

/// Bytes of sample data.
std::uint64_t dataBytes(Encoding encoding, Frame frames, int channels);

}  // namespace octaphon
