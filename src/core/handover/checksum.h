// SHA-256 (FIPS 180-4) of files, and lists of it as `sha256sum -c` of GNU coreutils takes them.
#pragma once

#include <string>

#include "base/job_control.h"
#include "base/result.h"
#include "handover/delivery.h"

namespace octaphon {

/// 64 small hexadecimal digits of all bytes of an open file. MediumUnreadable; Cancelled.
Result<std::string> sha256Of(int fd, const std::string& place, const JobControl* job = nullptr);

/// A line a file, relative to the base folder; of files that are there.
std::string checksumList(const Delivery& delivery);

}  // namespace octaphon
