#include "write/file_bytes.h"

#include <unistd.h>

#include <algorithm>
#include <cerrno>

#include "base/files.h"

namespace octaphon {

static constexpr std::uint64_t kTurn = 1 << 20;  // bytes copied at once

/// All of them, or an error; BadValue where the file ends before.
static Result<> readAt(int fd, std::uint64_t at, std::string& to, const std::string& place) {
  for (std::size_t done = 0; done < to.size();) {
    const ssize_t got = ::pread(fd, to.data() + done, to.size() - done, static_cast<off_t>(at + done));
    if (got < 0 && errno == EINTR) continue;
    if (got < 0) return tl::unexpected(systemError(errno, place, ErrorCode::NotReadable));
    if (got == 0) return fail(ErrorCode::BadValue, place, "the file that was made is shorter than it was");
    done += static_cast<std::size_t>(got);
  }
  return {};
}

Result<> FileBytes::writeAt(std::uint64_t at, std::string_view bytes) const {
  for (std::size_t done = 0; done < bytes.size();) {
    const ssize_t wrote =
        ::pwrite(fd_, bytes.data() + done, bytes.size() - done, static_cast<off_t>(at + done));
    if (wrote < 0 && errno == EINTR) continue;
    if (wrote <= 0) return tl::unexpected(systemError(errno, place_, ErrorCode::NotWritable));
    done += static_cast<std::size_t>(wrote);
  }
  return {};
}

Result<> FileBytes::begin(const std::string& head) {
  headBytes_ = head;
  head_ = size_ = head.size();
  return writeAll(fd_, head, place_);
}

Result<> FileBytes::append(std::string_view bytes) {
  if (bytes.empty()) return {};
  OCTAPHON_TRY(writeAt(size_, bytes));
  size_ += bytes.size();
  if (isHashed_) hasher_.bytes(bytes.data(), bytes.size());
  return {};
}

Result<> FileBytes::replace(std::uint64_t at, std::string_view bytes) {
  isHashed_ = false;
  return writeAt(head_ + at, bytes);
}

Result<> FileBytes::copy(int file, std::uint64_t from, std::uint64_t bytes) {
  std::string part;
  for (std::uint64_t done = 0; done < bytes; done += part.size()) {
    part.resize(static_cast<std::size_t>(std::min(kTurn, bytes - done)));
    OCTAPHON_TRY(readAt(file, from + done, part, place_));
    OCTAPHON_TRY(append(part));
  }
  return {};
}

/// What stands behind the head, so that it begins at `to`: from the end on where it goes back, so that
/// nothing is written over before it is read.
Result<> FileBytes::move(std::uint64_t to) {
  const std::uint64_t all = size_ - head_;
  std::string part;
  for (std::uint64_t done = 0; done < all; done += part.size()) {
    part.resize(static_cast<std::size_t>(std::min(kTurn, all - done)));
    const std::uint64_t at = to > head_ ? all - done - part.size() : done;
    OCTAPHON_TRY(readAt(fd_, head_ + at, part, place_));
    OCTAPHON_TRY(writeAt(to + at, part));
  }
  head_ = to;
  size_ = to + all;
  if (::ftruncate(fd_, static_cast<off_t>(size_)) != 0)
    return tl::unexpected(systemError(errno, place_, ErrorCode::NotWritable));
  return {};
}

Result<> FileBytes::setHead(const std::string& head) {
  if (head.size() != head_) OCTAPHON_TRY(move(head.size()));
  headBytes_ = head;
  return writeAt(0, head);
}

Result<Digest> FileBytes::digest() {
  if (!isHashed_) return digestOf(fd_, place_, head_);
  hasher_.bytes(headBytes_.data(), headBytes_.size());
  return hasher_.digest();
}

}  // namespace octaphon
