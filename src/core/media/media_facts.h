// What planning and rendering need to know of each medium, as a value.
#pragma once

#include <filesystem>
#include <memory>
#include <string>
#include <unordered_map>
#include <vector>

#include "base/hash.h"
#include "base/job_control.h"
#include "media/media_cache.h"
#include "media/sound_file.h"
#include "session/session.h"

namespace octaphon {

struct MediumFact {
  enum class State {
    Ready,
    Missing,
    Unreadable,
    Different,  ///< readable, and of another length or rate than the session remembers
  };
  State state = State::Missing;
  std::string problem;                 ///< why it is not ready, naming the file
  MediumFlaw flaw = MediumFlaw::None;  ///< of a medium that is ready
  std::filesystem::path file;          ///< in full
  FileIdentity identity;               ///< of the file when it was looked at
  SoundInfo info;                      ///< as the file is
  Digest content;                      ///< of the file's bytes
  Frame frames = 0;                    ///< at the session's rate
  bool needsCache = false;             ///< another rate, or lossy: read through MediaCache::converted()
};

/// By id of the medium.
class MediaFacts {
 public:
  const MediumFact* find(const std::string& medium) const {
    const auto found = facts_.find(medium);
    return found == facts_.end() ? nullptr : &found->second;
  }
  void set(const std::string& medium, MediumFact fact) { facts_[medium] = std::move(fact); }

 private:
  std::unordered_map<std::string, MediumFact> facts_;
};

/// Looks at every medium of the session, several at a time; hashes those whose hash is not known. Never
/// fails: what is wrong with a medium stands in its fact. A part of the job is a medium; those it did not
/// come to before it was stopped are Unreadable.
std::shared_ptr<const MediaFacts> gatherFacts(const Session& session, MediaCache& cache,
                                              JobControl* job = nullptr);

}  // namespace octaphon
