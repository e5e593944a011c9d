// What differs between the sounds of two files.
#pragma once

#include <initializer_list>
#include <string>

#include "base/frames.h"
#include "base/job_control.h"
#include "base/result.h"

namespace octaphon {

struct FileDifference {
  Frame frames = 0, framesBefore = 0;
  int rate = 0;              ///< Hz, of the later one
  bool isOtherForm = false;  ///< rate or channels are others: samples cannot be held against each other
  double peak = 0;           ///< largest difference of two samples, full scale 1, of the frames both have
  Frame at = -1;             ///< where that is; −1: there is none

  /// Whether every sample of either is one of the other.
  bool isNone() const { return !isOtherForm && frames == framesBefore && peak == 0; }
  Frame longer() const { return frames - framesBefore; }
};

/// Of files that are open, from their beginnings on, whatever their names are by now; `place` and
/// `placeBefore` for messages. MediumUnreadable; Cancelled where any of the jobs,
/// which may be null, is stopped.
Result<FileDifference> differenceOf(int fd, const std::string& place, int fdBefore,
                                    const std::string& placeBefore,
                                    std::initializer_list<const JobControl*> jobs = {});

/// Whether two open files have the same bytes.
Result<bool> haveSameBytes(int fd, int fdBefore, const std::string& place);

/// In words: `differs by −31.4 dBFS at most, at 0:02.481; 12 frames longer`.
std::string differenceText(const FileDifference& difference);

}  // namespace octaphon
