#include "formats/encoding.h"

#include <algorithm>
#include <cstdlib>

namespace octaphon {

const EncodingInfo& encodingInfo(Encoding encoding) { return kEncodings[static_cast<std::size_t>(encoding)]; }

std::string_view containerName(Container container) {
  static constexpr std::array<std::string_view, 6> kNames{"wav", "rf64", "flac", "aiff", "ogg", "mp3"};
  return kNames[static_cast<std::size_t>(container)];
}

std::array<int, kMostFileChannels> channelOrder(Encoding encoding, int channels) {
  if (encodingInfo(encoding).order == ChannelOrder::Vorbis) {
    if (channels == 6) return {0, 2, 1, 4, 5, 3};        // L C R Ls Rs LFE
    if (channels == 8) return {0, 2, 1, 6, 7, 4, 5, 3};  // L C R Ls Rs Lb Rb LFE
  }
  return {0, 1, 2, 3, 4, 5, 6, 7};
}

Container FileForm::container() const { return isLarge ? Container::Rf64 : encodingInfo(encoding).container; }

std::span<const int> mp3BitRates(int rate) {
  static constexpr std::array<int, 14> kMpeg1{32, 40, 48, 56, 64, 80, 96, 112, 128, 160, 192, 224, 256, 320};
  static constexpr std::array<int, 14> kMpeg2{8, 16, 24, 32, 40, 48, 56, 64, 80, 96, 112, 128, 144, 160};
  if (rate >= 32000) return kMpeg1;
  return rate >= 16000 ? std::span<const int>(kMpeg2) : std::span<const int>(kMpeg2).first(8);
}

int bitRateOf(const FileForm& form) {
  if (form.coding.bitRate > 0) return form.coding.bitRate;
  if (form.encoding != Encoding::Mp3) return 64 * form.channels;
  const auto rates = mp3BitRates(form.rate);
  return *std::min_element(rates.begin(), rates.end(), [&](int a, int b) {
    return std::abs(a - 96 * form.channels) < std::abs(b - 96 * form.channels);
  });
}

/// About what Vorbis takes of a channel at 44.1 kHz, in bits a second (Xiph.Org, recommended encoder
/// settings).
static double vorbisBits(double quality) { return 32'000 + 8'000 * std::max(0.0, quality + 1); }

std::uint64_t dataBytes(const FileForm& form, Frame frames) {
  const EncodingInfo& info = encodingInfo(form.encoding);
  const auto count = static_cast<std::uint64_t>(frames);
  if (!info.isLossy())
    return count * static_cast<std::uint64_t>(form.channels) * static_cast<std::uint64_t>(info.bits / 8);
  const double seconds = static_cast<double>(frames) / form.rate;
  if (form.encoding == Encoding::Vorbis)
    return static_cast<std::uint64_t>(seconds * vorbisBits(form.coding.quality) * form.channels / 8);
  return static_cast<std::uint64_t>(seconds * bitRateOf(form) * 125);
}

bool needsRf64(const FileForm& form, Frame frames) {
  return encodingInfo(form.encoding).container == Container::Wav && dataBytes(form, frames) > kWavData;
}

}  // namespace octaphon
