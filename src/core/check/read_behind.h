// Reads files back behind whoever makes them: on a thread of its own, while others are still made. What they
// replaced is held against them.
#pragma once

#include <atomic>
#include <condition_variable>
#include <map>
#include <memory>
#include <mutex>
#include <queue>
#include <string>
#include <thread>
#include <vector>

#include "base/job_control.h"
#include "check/file_difference.h"
#include "check/read_backs.h"

namespace octaphon {

/// A file that has got its name.
struct WrittenFile {
  FolderPath base;
  std::string file;  ///< relative to it
  std::string row;   ///< its key
  ReadBackAsked asked = {};
  std::string before = {};                    ///< the name that it had; empty: the same
  bool hasReplaced = false;                   ///< a file
  std::shared_ptr<FileHandle> replaced = {};  ///< that, where it is held
};

/// What is otherwise than in the last delivery.
struct FileChange {
  FolderPath base;
  std::string file, row;
  std::string before;                             ///< its name then; empty: the same
  std::optional<FileDifference> difference = {};  ///< nothing: its sound is the same file's
  bool isSameBytes = false;
  std::shared_ptr<FileHandle> replaced = {};  ///< what it was, to be heard; null where it is not held
  Levels levelsBefore = {};                   ///< of what is held
};

/// Keeps what it was open, with its levels.
void holdOpen(FileChange& change, std::shared_ptr<FileHandle> before);

/// In words: `was a.wav; differs by −31.4 dBFS at most, at 0:02.481`.
std::string changeText(const FileChange& change);

class ReadBehind {
 public:
  /// So many files that were replaced stay open, to be heard.
  explicit ReadBehind(std::size_t mostHeld = 0);
  ~ReadBehind();  ///< stops

  /// From any thread; waits for nothing.
  void take(WrittenFile file);
  /// How many have not been read yet.
  std::size_t waiting() const { return job_.all - job_.done; }
  JobControl& job() { return job_; }

  struct Outcome {
    std::map<FolderPath, std::shared_ptr<const ReadBacks>> reads;
    std::vector<FileChange> changes;
    std::size_t notCompared = 0;  ///< files that replaced others, which were not held
  };
  /// Waits until all were read, or it was stopped. `waiter`, which may be null, is told how far it is, and
  /// stops it, too.
  Outcome finish(JobControl* waiter = nullptr);

 private:
  void work();
  void read(WrittenFile& file);
  void compare(WrittenFile& file);
  bool isToStop() const { return isStopped(&job_) || isStopped(waiter_); }
  const SafeFolder* folderOf(const FolderPath& base);

  std::size_t mostHeld_;
  JobControl job_;
  std::atomic<JobControl*> waiter_{nullptr};
  std::mutex mutex_;
  std::condition_variable wake_;
  std::queue<WrittenFile> files_;
  bool isEnding_ = false;
  // Of its thread, until that has ended:
  std::map<FolderPath, std::optional<SafeFolder>> folders_;
  std::map<FolderPath, std::shared_ptr<ReadBacks>> kept_;
  std::vector<FileChange> changes_;
  std::size_t held_ = 0, notCompared_ = 0;
  std::thread thread_;
};

}  // namespace octaphon
