// Work that is done once and kept between runs, below one folder: media converted to a session's rate, hashes
// of media, overviews. Everything in it can be deleted at any time.
//
// Place: $OCTAPHON_CACHE, else $XDG_CACHE_HOME/octaphon, else ~/.cache/octaphon. Size: 10 GB, or
// $OCTAPHON_CACHE_MB megabytes; what was used longest ago goes first. Thread-safe.
#pragma once

#include <atomic>
#include <filesystem>
#include <map>
#include <memory>
#include <mutex>
#include <string>

#include "base/files.h"
#include "base/hash.h"
#include "base/result.h"

namespace octaphon {

class MediaCache {
 public:
  explicit MediaCache(std::filesystem::path folder, std::uint64_t maxBytes = defaultSize());
  ~MediaCache();

  static std::filesystem::path defaultFolder();
  static std::uint64_t defaultSize();

  const std::filesystem::path& folder() const { return folder_; }
  std::uint64_t limit() const { return maxBytes_; }

  /// Hash of a file's bytes, from memory where the file has not changed since.
  Result<Digest> contentOf(const std::filesystem::path& file);

  /// The medium as float at `rate`, decoded from its start and converted with SOXR_VHQ when needed; made when
  /// it is not there. Gives the file to read. Its length is atRate(frames, its rate, rate).
  Result<std::filesystem::path> converted(const std::filesystem::path& file, const Digest& content, int rate,
                                          const std::atomic<bool>* cancel = nullptr);

  /// Path of a small file of another kind; the folder is made.
  std::filesystem::path pathFor(const Digest& content, const std::string& ending) const;

  /// Writes the hashes that were found; also done at destruction.
  void saveHashes();
  std::uint64_t size() const;
  /// Deletes the files used longest ago until the rest takes `bytes` at most.
  void shrinkTo(std::uint64_t bytes);
  /// Deletes everything in it; gives the bytes freed.
  std::uint64_t clear();

 private:
  void loadHashes();

  std::filesystem::path folder_;
  std::uint64_t maxBytes_;
  std::mutex mutex_;
  std::map<std::string, Digest> hashes_;  // by device, inode, size and time
  bool hashesChanged_ = false;
};

}  // namespace octaphon
