// The bytes of a file that is written: a head that is whole only at the end, sound, and what stands behind
// it.
#pragma once

#include <string>
#include <string_view>

#include "base/hash.h"
#include "base/safe_folder.h"

namespace octaphon {

/// Belongs to one thread at a time.
class FileBytes {
 public:
  /// `file` must live as long.
  explicit FileBytes(const PendingFile& file) : fd_(file.fd()), place_(file.place()) {}

  const std::string& place() const { return place_; }
  int fd() const { return fd_; }
  std::uint64_t headSize() const { return head_; }

  /// As far as the head is known. Once, before all else.
  Result<> begin(const std::string& head);
  Result<> append(std::string_view bytes);
  /// Bytes of the sound that were written before, from `at` after the head on.
  Result<> replace(std::uint64_t at, std::string_view bytes);
  /// So many bytes of another file, from `from` on. BadValue where it is shorter.
  Result<> copy(int file, std::uint64_t from, std::uint64_t bytes);
  /// In the place of the one that it began with; where it has another length, all behind it moves.
  Result<> setHead(const std::string& head);
  /// Someone else has written into it.
  void wasChanged() { isHashed_ = false; }
  /// As digestOf() gives it.
  Result<Digest> digest();

 private:
  Result<> writeAt(std::uint64_t at, std::string_view bytes) const;
  Result<> move(std::uint64_t to);

  int fd_;
  std::string place_;
  std::uint64_t head_ = 0, size_ = 0;
  std::string headBytes_;
  bool isHashed_ = true;  // hasher_ has all that stands behind the head
  Hasher hasher_;
};

}  // namespace octaphon
