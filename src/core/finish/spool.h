// Room for sound that waits: memory up to a budget that all of it shares, then a file without a name.
#pragma once

#include <atomic>
#include <functional>
#include <memory>
#include <mutex>

#include "base/pending_file.h"
#include "base/result.h"

namespace octaphon {

/// How many bytes of memory may be taken. Any thread.
class MemoryBudget {
 public:
  explicit MemoryBudget(std::size_t bytes) : left_(static_cast<std::int64_t>(bytes)) {}
  bool take(std::size_t bytes);
  void giveBack(std::size_t bytes) { left_ += static_cast<std::int64_t>(bytes); }

 private:
  std::atomic<std::int64_t> left_;
};

/// Any thread.
class Spool {
 public:
  /// `open` makes the file, once there is no memory left: on the file system that files go to. `budget` must
  /// live as long.
  Spool(MemoryBudget& budget, std::function<Result<PendingFile>()> open)
      : budget_(budget), open_(std::move(open)) {}

  MemoryBudget& budget() { return budget_; }
  /// Its place in the file. DiskFull, or what else keeps it from being written.
  Result<std::uint64_t> write(const void* bytes, std::size_t size);
  Result<> read(std::uint64_t place, void* bytes, std::size_t size);
  /// Nobody reads it any more.
  void forget(std::uint64_t place, std::size_t size);

 private:
  Result<int> file();

  MemoryBudget& budget_;
  std::function<Result<PendingFile>()> open_;
  std::mutex mutex_;
  std::optional<PendingFile> file_;
  std::uint64_t end_ = 0;
};

}  // namespace octaphon
