#include "check/file_difference.h"

#include <algorithm>
#include <cmath>
#include <string>
#include <vector>

#include "base/decibels.h"
#include "base/denormals.h"
#include "base/unicode.h"
#include "check/opened_sound.h"
#include "media/planar_file.h"

namespace octaphon {
namespace {

/// Goes on to the end of a file whose header only estimates that.
Frame framesLeft(PlanarFile& file) {
  Frame all = 0;
  while (const Frame frames = file.read()) all += frames;
  return all;
}

}  // namespace

Result<FileDifference> differenceOf(int fd, const std::string& place, int fdBefore,
                                    const std::string& placeBefore,
                                    std::initializer_list<const JobControl*> jobs) {
  OCTAPHON_ASSIGN(SoundFile now, openSound(fd, place));
  OCTAPHON_ASSIGN(SoundFile before, openSound(fdBefore, placeBefore));
  FileDifference difference;
  difference.rate = now.info().rate;
  difference.isOtherForm =
      now.info().rate != before.info().rate || now.info().channels != before.info().channels;
  const DenormalGuard guard;
  PlanarFile one(now), other(before);
  Frame frames = 0, otherFrames = 0;
  do {
    if (isAnyStopped(jobs)) return fail(ErrorCode::Cancelled, place);
    frames = one.read();
    otherFrames = other.read();
    const Frame both = std::min(frames, otherFrames);
    if (!difference.isOtherForm) {
      for (int c = 0; c < now.info().channels; ++c)
        for (Frame i = 0; i < both; ++i) {
          const double apart = double{one.channels()[c][i]} - double{other.channels()[c][i]};
          if (!(std::fabs(apart) <= difference.peak)) {
            difference.peak = std::isfinite(apart) ? std::fabs(apart) : HUGE_VAL;
            difference.at = difference.frames + i;
          }
        }
    }
    difference.frames += frames;
    difference.framesBefore += otherFrames;
  } while (frames > 0 && otherFrames > 0);
  difference.frames += framesLeft(one);
  difference.framesBefore += framesLeft(other);
  return difference;
}

Result<bool> haveSameBytes(int fd, int fdBefore, const std::string& place) {
  const auto now = stampOf(fd), before = stampOf(fdBefore);
  if (!now || !before) return fail(ErrorCode::NotReadable, place);
  if (now->size != before->size) return false;
  OCTAPHON_ASSIGN(const Digest digest, digestOf(fd, place));
  OCTAPHON_ASSIGN(const Digest digestBefore, digestOf(fdBefore, place));
  return digest == digestBefore;
}

std::string differenceText(const FileDifference& difference) {
  std::vector<std::string> parts;
  if (difference.isOtherForm) parts.emplace_back("another rate, or other channels");
  if (difference.peak > 0)
    parts.push_back("differs by " + decibelText(decibelsOf(difference.peak)) + " dBFS at most, at " +
                    timeText(difference.at, difference.rate));
  if (const Frame longer = difference.isOtherForm ? 0 : difference.longer(); longer != 0)
    parts.push_back(counted(static_cast<std::size_t>(std::abs(longer)), "frame") +
                    (longer > 0 ? " longer" : " shorter"));
  if (parts.empty()) return "sounds the same";
  std::string text = parts.front();
  for (std::size_t i = 1; i < parts.size(); ++i) text += "; " + parts[i];
  return text;
}

}  // namespace octaphon
