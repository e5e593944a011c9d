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

struct EncodingInfo {
  Encoding encoding;
  std::string_view name;       ///< in session files and JSON: `pcm24`
  std::string_view text;       ///< for people: `WAV 24 bit`
  Container container;         ///< RF64 instead of WAV where a file may be large
  std::string_view extension;  ///< with its dot
  int bits;                    ///< of one sample; 0: it is lossy, and takes floating point
  bool isInteger;
  int mostChannels;
  ChannelOrder order;
  std::span<const int> rates;  ///< Hz; empty: all
  std::uint64_t maxBytes;      ///< of sample data; larger WAV files are RF64
  Places marks;                ///< how exactly marks and loops stand in it
  bool hasLoops;               ///< it has a place of its own for loop points
  bool isGapless;              ///< every reader gives just the frames that were written

  bool isLossy() const { return bits == 0; }
};

/// RIFF and AIFF count bytes in 32 bits, AIFF with a sign (IBM & Microsoft 1991; Apple 1989); room for chunks
/// kept.
inline constexpr std::uint64_t kWavData = 0xFFFFFFFFu - 0x1000000u;
inline constexpr std::uint64_t kAiffData = 0x7FFFFFFFu - 0x1000000u;
inline constexpr std::uint64_t kNoLimit = ~std::uint64_t{0};
/// FLAC counts frames in 36 bits (RFC 9639, 8.2).
inline constexpr Frame kFlacFrames = (Frame{1} << 36) - 1;

inline constexpr int kMostWavChannels = 32;
inline constexpr std::array<int, 5> kOpusRates{8000, 12000, 16000, 24000, 48000};  // RFC 6716, 2
inline constexpr std::array<int, 9> kMp3Rates{8000,  11025, 12000, 16000, 22050,
                                              24000, 32000, 44100, 48000};  // ISO 11172-3, 13818-3; MPEG 2.5

inline constexpr std::array<EncodingInfo, 13> kEncodings{{
    {Encoding::Pcm8,
     "pcm8",
     "WAV 8 bit",
     Container::Wav,
     ".wav",
     8,
     true,
     8,
     ChannelOrder::Wave,
     {},
     kNoLimit,
     Places::Frames,
     true,
     true},
    {Encoding::Pcm16,
     "pcm16",
     "WAV 16 bit",
     Container::Wav,
     ".wav",
     16,
     true,
     8,
     ChannelOrder::Wave,
     {},
     kNoLimit,
     Places::Frames,
     true,
     true},
    {Encoding::Pcm24,
     "pcm24",
     "WAV 24 bit",
     Container::Wav,
     ".wav",
     24,
     true,
     8,
     ChannelOrder::Wave,
     {},
     kNoLimit,
     Places::Frames,
     true,
     true},
    {Encoding::Pcm32,
     "pcm32",
     "WAV 32 bit whole numbers",
     Container::Wav,
     ".wav",
     32,
     true,
     8,
     ChannelOrder::Wave,
     {},
     kNoLimit,
     Places::Frames,
     true,
     true},
    {Encoding::Float32,
     "float32",
     "WAV 32 bit float",
     Container::Wav,
     ".wav",
     32,
     false,
     8,
     ChannelOrder::Wave,
     {},
     kNoLimit,
     Places::Frames,
     true,
     true},
    {Encoding::Flac16,
     "flac16",
     "FLAC 16 bit",
     Container::Flac,
     ".flac",
     16,
     true,
     8,
     ChannelOrder::Wave,
     {},
     kNoLimit,
     Places::Frames,
     true,
     true},
    {Encoding::Flac24,
     "flac24",
     "FLAC 24 bit",
     Container::Flac,
     ".flac",
     24,
     true,
     8,
     ChannelOrder::Wave,
     {},
     kNoLimit,
     Places::Frames,
     true,
     true},
    {Encoding::Aiff16,
     "aiff16",
     "AIFF 16 bit",
     Container::Aiff,
     ".aif",
     16,
     true,
     2,
     ChannelOrder::Wave,
     {},
     kAiffData,
     Places::Frames,
     true,
     true},
    {Encoding::Aiff24,
     "aiff24",
     "AIFF 24 bit",
     Container::Aiff,
     ".aif",
     24,
     true,
     2,
     ChannelOrder::Wave,
     {},
     kAiffData,
     Places::Frames,
     true,
     true},
    {Encoding::AiffFloat32,
     "aiff-float32",
     "AIFF 32 bit float",
     Container::Aiff,
     ".aif",
     32,
     false,
     2,
     ChannelOrder::Wave,
     {},
     kAiffData,
     Places::Frames,
     true,
     true},
    {Encoding::Vorbis,
     "vorbis",
     "Ogg Vorbis",
     Container::Ogg,
     ".ogg",
     0,
     false,
     8,
     ChannelOrder::Vorbis,
     {},
     kNoLimit,
     Places::Milliseconds,
     false,
     true},
    {Encoding::Opus, "opus", "Opus", Container::Ogg, ".opus", 0, false, 8, ChannelOrder::Vorbis, kOpusRates,
     kNoLimit, Places::Milliseconds, false, true},
    {Encoding::Mp3, "mp3", "MP3", Container::Mp3, ".mp3", 0, false, 2, ChannelOrder::Wave, kMp3Rates,
     kNoLimit, Places::Milliseconds, false, false},
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
