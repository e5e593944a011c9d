// Sounds of files that are open, whatever their names lead to by now.
#pragma once

#include <algorithm>
#include <initializer_list>
#include <string>

#include "base/job_control.h"
#include "media/sound_file.h"

namespace octaphon {

/// A path that leads to an open file.
inline std::string pathOf(int fd) { return "/proc/self/fd/" + std::to_string(fd); }

/// From its beginning on; `place` for messages.
inline Result<SoundFile> openSound(int fd, const std::string& place) {
  auto file = SoundFile::open(pathOf(fd));
  if (!file) file.error().place = place;
  return file;
}

/// Each of them, which may be null, can stop what is done for all.
using Jobs = std::initializer_list<const JobControl*>;
inline bool isAnyStopped(Jobs jobs) {
  return std::any_of(jobs.begin(), jobs.end(), [](const JobControl* job) { return isStopped(job); });
}

}  // namespace octaphon
