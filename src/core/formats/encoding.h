// What each way of writing a file can hold, in one table: plan, window, command line and tests read it.
#pragma once

#include <array>
#include <cstdint>
#include <span>
#include <string_view>

#include "base/choices.h"
#include "base/frames.h"

namespace octaphon {

enum class Container { Wav, Rf64, Flac, Aiff, Ogg, Mp3 };

enum class Encoding {
  Pcm8,
  Pcm16,
  Pcm24,
  Pcm32,
  Float32,
  Flac16,
  Flac24,
  Aiff16,
  Aiff24,
  AiffFloat32,
  Vorbis,
  Opus,
  Mp3
};

/// How exactly a place in the sound can be said.
enum class Places { Frames, Milliseconds };

/// In what order a format has channels: ours (mixing_law.h), or that of Vorbis I, 4.3.9.
enum class ChannelOrder { Wave, Vorbis };

inline constexpr std::uint64_t kNoLimit = ~std::uint64_t{0};

/// What all encodings of a family have in common.
struct FormatFamily {
  Container container;         ///< RF64 instead of WAV where a file may be large
  std::string_view extension;  ///< with its dot
  int mostChannels = 8;
  ChannelOrder order = ChannelOrder::Wave;
  std::span<const int> rates = {};    ///< Hz; empty: all
  std::uint64_t maxBytes = kNoLimit;  ///< of sample data; larger WAV files are RF64
  Places marks = Places::Frames;      ///< how exactly marks and loops stand in it
  bool hasLoops = true;               ///< it has a place of its own for loop points
  bool isGapless = true;              ///< every reader gives just the frames that were written
};

struct EncodingInfo : FormatFamily {
  Encoding encoding;
  std::string_view name;  ///< in session files and JSON: `pcm24`
  std::string_view text;  ///< for people: `WAV 24 bit`
  int bits;               ///< of one sample; 0: it is lossy, and takes floating point
  bool isInteger;

  bool isLossy() const { return bits == 0; }
};

/// RIFF and AIFF count bytes in 32 bits, AIFF with a sign (IBM & Microsoft 1991; Apple 1989); room for chunks
/// kept.
inline constexpr std::uint64_t kWavData = 0xFFFFFFFFu - 0x1000000u;
inline constexpr std::uint64_t kAiffData = 0x7FFFFFFFu - 0x1000000u;
/// FLAC counts frames in 36 bits (RFC 9639, 8.2).
inline constexpr Frame kFlacFrames = (Frame{1} << 36) - 1;

inline constexpr int kMostWavChannels = 32;
inline constexpr std::array<int, 5> kOpusRates{8000, 12000, 16000, 24000, 48000};  // RFC 6716, 2
inline constexpr std::array<int, 9> kMp3Rates{8000,  11025, 12000, 16000, 22050,
                                              24000, 32000, 44100, 48000};  // ISO 11172-3, 13818-3; MPEG 2.5

inline constexpr FormatFamily kWavFamily{.container = Container::Wav, .extension = ".wav"};
inline constexpr FormatFamily kFlacFamily{.container = Container::Flac, .extension = ".flac"};
inline constexpr FormatFamily kAiffFamily{
    .container = Container::Aiff, .extension = ".aif", .mostChannels = 2, .maxBytes = kAiffData};
inline constexpr FormatFamily kVorbisFamily{.container = Container::Ogg,
                                            .extension = ".ogg",
                                            .order = ChannelOrder::Vorbis,
                                            .marks = Places::Milliseconds,
                                            .hasLoops = false};
inline constexpr FormatFamily kOpusFamily{.container = Container::Ogg,
                                          .extension = ".opus",
                                          .order = ChannelOrder::Vorbis,
                                          .rates = kOpusRates,
                                          .marks = Places::Milliseconds,
                                          .hasLoops = false};
inline constexpr FormatFamily kMp3Family{.container = Container::Mp3,
                                         .extension = ".mp3",
                                         .mostChannels = 2,
                                         .rates = kMp3Rates,
                                         .marks = Places::Milliseconds,
                                         .hasLoops = false,
                                         .isGapless = false};

inline constexpr std::array<EncodingInfo, 13> kEncodings{{
    {kWavFamily, Encoding::Pcm8, "pcm8", "WAV 8 bit", 8, true},
    {kWavFamily, Encoding::Pcm16, "pcm16", "WAV 16 bit", 16, true},
    {kWavFamily, Encoding::Pcm24, "pcm24", "WAV 24 bit", 24, true},
    {kWavFamily, Encoding::Pcm32, "pcm32", "WAV 32 bit whole numbers", 32, true},
    {kWavFamily, Encoding::Float32, "float32", "WAV 32 bit float", 32, false},
    {kFlacFamily, Encoding::Flac16, "flac16", "FLAC 16 bit", 16, true},
    {kFlacFamily, Encoding::Flac24, "flac24", "FLAC 24 bit", 24, true},
    {kAiffFamily, Encoding::Aiff16, "aiff16", "AIFF 16 bit", 16, true},
    {kAiffFamily, Encoding::Aiff24, "aiff24", "AIFF 24 bit", 24, true},
    {kAiffFamily, Encoding::AiffFloat32, "aiff-float32", "AIFF 32 bit float", 32, false},
    {kVorbisFamily, Encoding::Vorbis, "vorbis", "Ogg Vorbis", 0, false},
    {kOpusFamily, Encoding::Opus, "opus", "Opus", 0, false},
    {kMp3Family, Encoding::Mp3, "mp3", "MP3", 0, false},
}};

const EncodingInfo& encodingInfo(Encoding encoding);
constexpr auto choicesOf(Encoding) {
  std::array<Choice<Encoding>, kEncodings.size()> choices{};
  for (std::size_t i = 0; i < choices.size(); ++i)
    choices[i] = {kEncodings[i].encoding, kEncodings[i].name, kEncodings[i].text};
  return choices;
}
std::string_view containerName(Container container);  ///< in JSON: `wav`

inline constexpr int kMostFileChannels = 8;
/// For each channel of a file, which of ours it is (mixing_law.h), from 0.
std::array<int, kMostFileChannels> channelOrder(Encoding encoding, int channels);

inline constexpr int kMostFlacLevel = 8;
inline constexpr double kLeastVorbisQuality = -1, kMostVorbisQuality = 10;
inline constexpr int kMostBitRate = 2048;  ///< kbit/s that can be asked for

/// What is asked of an encoder; each reads its own.
struct Coding {
  int level = 5;          ///< FLAC: 0 (quick) … 8 (small)
  double quality = 6;     ///< Vorbis: kLeastVorbisQuality … kMostVorbisQuality
  int bitRate = 0;        ///< Opus and MP3: kbit/s of all channels; 0: as usual (bitRateOf)
  bool variable = false;  ///< MP3: as needed, `bitRate` on average
  bool operator==(const Coding&) const = default;
};

/// How a file is written.
struct FileForm {
  Encoding encoding = Encoding::Pcm24;
  int channels = 2;  ///< in our order
  int rate = 48000;  ///< Hz
  Coding coding = {};
  bool isLarge = false;    ///< RF64 instead of WAV
  bool isStacked = false;  ///< channels are sources, not places around a listener

  Container container() const;
};

/// kbit/s of Opus and MP3: what is asked for, or 64 a channel in Opus, 96 in MP3, as near as MP3 can.
int bitRateOf(const FileForm& form);
/// The bit rates that MP3 has at a rate, in kbit/s (ISO 11172-3, 2.4.2.3; 13818-3; MPEG 2.5).
std::span<const int> mp3BitRates(int rate);

/// Bytes of sample data: of lossless files the most, of lossy ones about.
std::uint64_t dataBytes(const FileForm& form, Frame frames);

/// Whether a WAV file of so many frames could pass what RIFF counts: then it is RF64 (EBU Tech 3306).
bool needsRf64(const FileForm& form, Frame frames);

}  // namespace octaphon
