// Room for sound that waits: memory up to a budget that all of it shares, then a file without a name.
#pragma once

#include <cstdlib>
#include <functional>
#include <memory>
#include <mutex>
#include <vector>

#include "base/pending_file.h"
#include "base/result.h"

namespace octaphon {

/// Memory up to so many bytes, in pieces of one size. What is given back is taken again: new memory costs
/// more than what is done with it. Any thread.
class MemoryBudget {
 public:
  static constexpr std::size_t kPieceSamples = 8192;

  explicit MemoryBudget(std::size_t bytes) : left_(bytes) {}
  /// Null where there is none left.
  float* take();
  void giveBack(float* piece);

 private:
  struct Free {
    void operator()(float* slab) const { std::free(slab); }
  };
  void addSlab();

  std::mutex mutex_;
  std::size_t left_;  // bytes that no slab has
  std::vector<std::unique_ptr<float, Free>> slabs_;
  std::vector<float*> unused_;
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
