// Media that are ready to be read at the session's rate: the file itself, or its copy in the cache.
#pragma once

#include <atomic>
#include <functional>
#include <string>
#include <unordered_map>
#include <vector>

#include "base/result.h"
#include "media/media_facts.h"

namespace octaphon {

struct ReadableMedium {
  std::filesystem::path file;       ///< what to open
  FileIdentity identity = {};       ///< of that file when its content was looked at
  std::string name;                 ///< for messages: the path in the session
  std::optional<Error> error = {};  ///< why it cannot be read

  /// Opens it; MediumChanged where it is not what was looked at any more.
  Result<SoundFile> open() const;
  /// What open() would say of that now, without opening it.
  Result<> checkUnchanged() const;
};

class ReadableMedia {
 public:
  /// Converts what needs it, several at a time; calls done() from any thread after each conversion. A medium
  /// that cannot be prepared carries its error.
  static ReadableMedia prepare(const Session& session, const MediaFacts& facts, MediaCache& cache,
                               const std::vector<std::string>& media,
                               const std::atomic<bool>* cancel = nullptr,
                               const std::function<void()>& done = {});

  void set(const std::string& medium, ReadableMedium readable) { media_[medium] = std::move(readable); }
  const ReadableMedium* find(const std::string& medium) const {
    const auto found = media_.find(medium);
    return found == media_.end() ? nullptr : &found->second;
  }

 private:
  std::unordered_map<std::string, ReadableMedium> media_;
};

}  // namespace octaphon
