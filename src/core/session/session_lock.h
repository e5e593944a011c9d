// Tells two programs on one session of each other. The lock is the system's: it goes with the program that
// holds it, however that ends.
#pragma once

#include <filesystem>

#include "base/files.h"

namespace octaphon {

/// Held as long as the object is there. The file `.NAME.lock` beside the session carries it and is removed
/// with it.
class SessionLock {
 public:
  SessionLock() = default;
  ~SessionLock() { release(); }
  SessionLock(SessionLock&&) noexcept = default;
  SessionLock& operator=(SessionLock&& other) noexcept;

  /// Busy where another program has it. Where the folder cannot be written to there is nothing to protect: an
  /// empty lock.
  static Result<SessionLock> take(const std::filesystem::path& session);
  bool isHeld() const { return static_cast<bool>(handle_); }
  void release();

 private:
  FileHandle handle_;
  std::filesystem::path file_;
};

}  // namespace octaphon
