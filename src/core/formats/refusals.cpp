#include "formats/refusals.h"

#include <algorithm>
#include <cstdlib>

#include "base/unicode.h"

namespace octaphon {
namespace {

std::string kilohertz(int rate) { return plainNumber(rate / 1000.0); }

std::string listedRates(std::span<const int> rates) {
  std::vector<std::string> texts;
  for (const int rate : rates) texts.push_back(kilohertz(rate));
  return "one of " + listed(texts) + " kHz";
}

std::optional<Refusal> rateRefusal(const FileForm& form, const EncodingInfo& info) {
  if (info.rates.empty() || std::find(info.rates.begin(), info.rates.end(), form.rate) != info.rates.end())
    return std::nullopt;
  return Refusal{RefusalKind::Rate, std::string(info.text) + " has no rate of " + kilohertz(form.rate) +
                                        " kHz. Choose " + listedRates(info.rates) +
                                        " for this file, or another format"};
}

std::optional<Refusal> channelRefusal(const FileForm& form, const EncodingInfo& info) {
  if (form.isStacked && form.channels > 2 && info.order == ChannelOrder::Vorbis)
    return Refusal{RefusalKind::Channels, std::string(info.text) +
                                              " holds channels for loudspeakers, not sources beside each "
                                              "other. Write all sources in one file as WAV or FLAC"};
  const bool isWav = info.container == Container::Wav;
  const int most = form.isStacked && isWav ? kMostWavChannels : info.mostChannels;
  if (form.channels <= most) return std::nullopt;
  return Refusal{RefusalKind::Channels,
                 std::string(info.text) + " holds " + std::to_string(most) +
                     " channels at most, and this file has " + std::to_string(form.channels) +
                     ". Choose stereo for it, a file for each channel, or another format"};
}

std::optional<Refusal> lengthRefusal(const FileForm& form, const EncodingInfo& info, Frame frames) {
  const bool isFlac = info.container == Container::Flac;
  if (dataBytes(form, frames) <= info.maxBytes && (!isFlac || frames <= kFlacFrames)) return std::nullopt;
  return Refusal{RefusalKind::Length,
                 std::string("The file would be larger than ") +
                     (isFlac ? "FLAC counts (2^36 frames)" : "an AIFF file can be (2 GB)") +
                     ". Make the span or its tail shorter, or write it as WAV"};
}

std::optional<Refusal> bitRateRefusal(const FileForm& form) {
  const int asked = bitRateOf(form);
  if (form.encoding == Encoding::Mp3) {
    const auto rates = mp3BitRates(form.rate);
    if (std::find(rates.begin(), rates.end(), asked) != rates.end()) return std::nullopt;
    const int near = *std::min_element(
        rates.begin(), rates.end(), [&](int a, int b) { return std::abs(a - asked) < std::abs(b - asked); });
    return Refusal{RefusalKind::BitRate, "MP3 at " + kilohertz(form.rate) + " kHz has no bit rate of " +
                                             std::to_string(asked) + " kbit/s. The nearest is " +
                                             std::to_string(near)};
  }
  if (form.encoding != Encoding::Opus) return std::nullopt;
  const int least = 6, most = 256 * form.channels;
  if (asked >= least && asked <= most) return std::nullopt;
  return Refusal{RefusalKind::BitRate, "Opus of " +
                                           counted(static_cast<std::size_t>(form.channels), "channel") +
                                           " has bit rates from " + std::to_string(least) + " to " +
                                           std::to_string(most) + " kbit/s, and " + std::to_string(asked) +
                                           " is asked for. Choose one of those, or 0 for the usual one"};
}

std::optional<Refusal> seamlessRefusal(const FileForm& form, const EncodingInfo& info, bool isLap) {
  if (!isLap) return std::nullopt;
  if (!info.isGapless)
    return Refusal{
        RefusalKind::Seamless,
        std::string(info.text) +
            " puts silence before and behind the sound that players may not take off, so it cannot "
            "be played over and over without a gap. Write the loop as WAV, FLAC or Ogg Vorbis"};
  if (form.encoding == Encoding::Opus && form.rate != 48000)
    return Refusal{RefusalKind::Seamless,
                   "Opus is played at 48 kHz, and at " + kilohertz(form.rate) +
                       " kHz its loop does not end on a frame. Choose 48 kHz for this file"};
  return std::nullopt;
}

}  // namespace

std::optional<Refusal> refusalOf(const FileForm& form, Frame frames, bool isLap) {
  const EncodingInfo& info = encodingInfo(form.encoding);
  if (auto refusal = rateRefusal(form, info)) return refusal;
  if (auto refusal = channelRefusal(form, info)) return refusal;
  if (auto refusal = bitRateRefusal(form)) return refusal;
  if (auto refusal = lengthRefusal(form, info, frames)) return refusal;
  return seamlessRefusal(form, info, isLap);
}

}  // namespace octaphon
