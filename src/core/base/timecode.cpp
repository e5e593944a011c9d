#include "base/timecode.h"

#include <array>
#include <cstdio>

namespace octaphon {
namespace {

struct Named {
  std::string_view name;
  PictureRate rate;
};
constexpr std::array<Named, 10> kRates{{
    {"23.976", {24000, 1001, 24, false}},
    {"24", {24, 1, 24, false}},
    {"25", {25, 1, 25, false}},
    {"29.97", {30000, 1001, 30, false}},
    {"29.97df", {30000, 1001, 30, true}},
    {"30", {30, 1, 30, false}},
    {"48", {48, 1, 48, false}},
    {"50", {50, 1, 50, false}},
    {"59.94", {60000, 1001, 60, false}},
    {"59.94df", {60000, 1001, 60, true}},
}};
constexpr Named kSixty{"60", {60, 1, 60, false}};

/// Numbers left out at the start of each minute but every tenth.
Frame dropped(const PictureRate& rate) { return rate.drop ? rate.nominal / 15 : 0; }

Frame perTenMinutes(const PictureRate& rate) { return Frame{rate.nominal} * 600 - 9 * dropped(rate); }

}  // namespace

Result<PictureRate> parsePictureRate(std::string_view text) {
  for (const Named& named : kRates)
    if (named.name == text) return named.rate;
  if (text == kSixty.name) return kSixty.rate;
  return fail(ErrorCode::BadValue, "picture rate", "'" + std::string(text) + "' is not a picture frame rate",
              "Use 23.976, 24, 25, 29.97, 29.97df, 30, 48, 50, 59.94, 59.94df or 60");
}

std::string pictureRateText(const PictureRate& rate) {
  for (const Named& named : kRates)
    if (named.rate == rate) return std::string(named.name);
  return std::string(kSixty.name);
}

Result<Frame> parseTimecode(std::string_view text, const PictureRate& rate) {
  const auto wrong = [&](const char* why) {
    return fail(ErrorCode::BadValue, "timecode", "'" + std::string(text) + "' " + why,
                "Write it as hh:mm:ss:ff");
  };
  if (text.size() != 11) return wrong("is not a timecode");
  std::array<int, 4> field{};
  for (std::size_t i = 0; i < text.size(); ++i) {
    const bool separator = i % 3 == 2;
    if (separator ? !(text[i] == ':' || (i == 8 && text[i] == ';')) : !(text[i] >= '0' && text[i] <= '9'))
      return wrong("is not a timecode");
    if (!separator) field[i / 3] = field[i / 3] * 10 + (text[i] - '0');
  }
  const auto [hours, minutes, seconds, pictures] = field;
  if (hours > 23 || minutes > 59 || seconds > 59 || pictures >= rate.nominal) return wrong("is out of range");
  if (rate.drop && minutes % 10 != 0 && seconds == 0 && pictures < dropped(rate))
    return wrong("is a number that drop-frame timecode leaves out");
  const Frame allMinutes = Frame{hours} * 60 + minutes;
  const Frame counted = (allMinutes * 60 + seconds) * rate.nominal + pictures;
  return counted - dropped(rate) * (allMinutes - allMinutes / 10);
}

Frame picturesADay(const PictureRate& rate) { return perTenMinutes(rate) * 144; }

std::string timecodeText(Frame pictureFrames, const PictureRate& rate) {
  const Frame day = picturesADay(rate);
  const Frame count = ((pictureFrames % day) + day) % day;
  const Frame tens = count / perTenMinutes(rate);
  const Frame inTen = count % perTenMinutes(rate);
  const Frame firstMinute = Frame{rate.nominal} * 60;
  const Frame minute = firstMinute - dropped(rate);
  const Frame skippedMinutes = inTen < firstMinute ? 0 : (inTen - firstMinute) / minute + 1;
  const Frame number = count + dropped(rate) * (9 * tens + skippedMinutes);
  const Frame seconds = number / rate.nominal;
  char text[64];
  std::snprintf(text, sizeof text, "%02d:%02d:%02d%c%02d", static_cast<int>(seconds / 3600),
                static_cast<int>(seconds / 60 % 60), static_cast<int>(seconds % 60), rate.drop ? ';' : ':',
                static_cast<int>(number % rate.nominal));
  return text;
}

Frame nearestAudioFrame(Frame pictureFrame, const PictureRate& rate, int sampleRate) {
  return roundOf(WideFrame{pictureFrame} * rate.denominator * sampleRate, rate.numerator);
}

Frame audioFrameOf(Frame pictureFrame, const PictureRate& rate, int sampleRate) {
  const auto wide = WideFrame{pictureFrame} * rate.denominator * sampleRate;
  return static_cast<Frame>((wide + rate.numerator - 1) / rate.numerator);
}

Frame pictureFrameAt(Frame audioFrame, const PictureRate& rate, int sampleRate) {
  const auto wide = WideFrame{audioFrame} * rate.numerator;
  return static_cast<Frame>(wide / (WideFrame{rate.denominator} * sampleRate));
}

}  // namespace octaphon
