// Timecode: hours, minutes, seconds and picture frames of a day. Drop-frame as in SMPTE ST 12-1.
#pragma once

#include <array>
#include <string>
#include <string_view>

#include "base/frames.h"
#include "base/result.h"

namespace octaphon {

/// Picture frames a second as a fraction; nominal is what the last field counts to.
struct PictureRate {
  int numerator = 25;
  int denominator = 1;
  int nominal = 25;
  bool drop = false;
  bool operator==(const PictureRate&) const = default;
};

/// The rates there are, by name; `df` is drop-frame.
inline constexpr std::array<std::string_view, 11> kPictureRates{
    "23.976", "24", "25", "29.97", "29.97df", "30", "48", "50", "59.94", "59.94df", "60"};

/// One of kPictureRates.
Result<PictureRate> parsePictureRate(std::string_view text);
std::string pictureRateText(const PictureRate& rate);

/// `hh:mm:ss:ff`, or `hh:mm:ss;ff` for drop-frame (either separator is read). Below 24 hours; a number that
/// drop-frame leaves out is refused. Gives picture frames since midnight.
Result<Frame> parseTimecode(std::string_view text, const PictureRate& rate);
std::string timecodeText(Frame pictureFrames, const PictureRate& rate);

/// Picture frames from midnight to midnight.
Frame picturesADay(const PictureRate& rate);
/// The audio frame nearest to the beginning of a picture frame; either side of 0. At 48 kHz and 29.97 Hz
/// picture frames have 1602, 1601, 1602, 1601, 1602 frames in turn, the sequence of SMPTE ST 272 (from
/// memory).
Frame nearestAudioFrame(Frame pictureFrame, const PictureRate& rate, int sampleRate);
/// First audio frame at or after the beginning of a picture frame.
Frame audioFrameOf(Frame pictureFrame, const PictureRate& rate, int sampleRate);
/// The picture frame showing at an audio frame.
Frame pictureFrameAt(Frame audioFrame, const PictureRate& rate, int sampleRate);

}  // namespace octaphon
