// Work that is done once and kept between runs, below one folder: media converted to a session's rate, hashes
// of media, overviews. Everything in it can be deleted at any time.
//
// Place: $OCTAPHON_CACHE, else $XDG_CACHE_HOME/octaphon, else ~/.cache/octaphon. Size: 10 GB, or
// $OCTAPHON_CACHE_MB megabytes; what was used longest ago goes first. Thread-safe.
#pragma once

#include <array>
#include <atomic>
#include <filesystem>
#include <map>
#include <memory>
#include <mutex>
#include <optional>
#include <string>

#include "base/files.h"
#include "base/hash.h"
#include "base/job_control.h"
#include "base/result.h"
#include "media/flaw.h"

namespace octaphon {

/// What is in a file.
struct MediumContent {
  Digest digest;  ///< of all bytes
  MediumFlaw flaw = MediumFlaw::None;
  FileIdentity identity;  ///< of the file when it was read
};

/// A copy in the cache, and what it was when its checksum was right.
struct ConvertedFile {
  std::filesystem::path file;
  FileIdentity identity;
};

/// Ending of the overviews of waveforms that are kept in a cache.
inline constexpr const char* kOverview = ".overview";

/// What lies in a cache.
struct KeptInCache {
  std::uint64_t bytes = 0;
  std::size_t media = 0;      ///< converted to the rate of a session
  std::size_t overviews = 0;  ///< of waveforms

  /// `2 converted media, 15 overviews`
  std::string words() const;
};

class MediaCache {
 public:
  explicit MediaCache(std::filesystem::path folder, std::uint64_t maxBytes = defaultSize());
  ~MediaCache();

  static std::filesystem::path defaultFolder();
  static std::uint64_t defaultSize();

  const std::filesystem::path& folder() const { return folder_; }
  std::uint64_t limit() const { return maxBytes_; }
  /// Counts from the next file on; shrinkTo() makes it so at once.
  void setLimit(std::uint64_t bytes) { maxBytes_ = bytes; }

  /// What is in a file, from memory where it has not changed since. MediumChanged where it changes meanwhile,
  /// Cancelled where the job was stopped.
  Result<MediumContent> contentOf(const std::filesystem::path& file, const JobControl* job = nullptr);

  /// The medium as float at `rate`, as convertMedium() makes it; made when it is not there, or not as it was
  /// made. MediumChanged where the file is not what `identity` says.
  Result<ConvertedFile> converted(const std::filesystem::path& file, const FileIdentity& identity,
                                  const Digest& content, int rate, const std::atomic<bool>* cancel = nullptr);

  /// Path of a small file of another kind; the folder is made.
  std::filesystem::path pathFor(const Digest& content, const std::string& ending) const;

  /// Where trials of plug-ins are kept.
  std::filesystem::path pluginTrials() const { return folder_ / "plug-ins.json"; }

  /// Writes down what was found about files; also done at destruction.
  void saveContents();
  KeptInCache kept() const;
  /// Deletes the files used longest ago until the rest takes `bytes` at most.
  void shrinkTo(std::uint64_t bytes);
  /// Deletes everything in it; gives the bytes freed.
  std::uint64_t clear();

 private:
  void loadContents();
  std::optional<ConvertedFile> wholeCopy(const std::filesystem::path& copy);

  std::filesystem::path folder_;
  std::atomic<std::uint64_t> maxBytes_;
  std::mutex mutex_;
  std::map<FileIdentity, MediumContent> contents_;
  bool contentsChanged_ = false;
  std::array<std::mutex, 16> converting_;  // by content: one copy is made once
};

}  // namespace octaphon
