// A session of what was delivered: its files on tracks, in order, where they were, named, coloured and
// grouped as in the session they come from, with that one's regions, markers and tempo. Originals are not
// needed.
#pragma once

#include <filesystem>

#include "handover/delivery.h"
#include "session/session.h"

namespace octaphon {

struct ResultsSession {
  Session session;
  std::size_t files = 0;         ///< that have a clip
  std::vector<Error> left = {};  ///< files that could not be placed, with the reason
};

/// `file`: where it will be saved; media are named relative to its folder. Its rate is the files' most common
/// one. Each brief comes back as one, or one for each format, which prints every clip as it is. Where a file
/// begins before the session's start, all of it lies later by whole seconds. NotFound where no file is there.
Result<ResultsSession> sessionOfResults(const Delivery& delivery, const std::filesystem::path& file);

}  // namespace octaphon
