// Bytes at random access, and numbers out of them.
#pragma once

#include <algorithm>
#include <cstdint>
#include <functional>
#include <string>
#include <string_view>

namespace octaphon {

/// `read(at, to, size)` gives false where they are not all there.
struct ByteSource {
  std::uint64_t size = 0;
  std::function<bool(std::uint64_t at, void* to, std::size_t size)> read;

  /// Up to `most` bytes from a place on; fewer where it ends, none where they cannot be read.
  std::string upTo(std::uint64_t at, std::uint64_t most) const {
    std::string bytes(static_cast<std::size_t>(at >= size ? 0 : std::min(most, size - at)), '\0');
    return read(at, bytes.data(), bytes.size()) ? bytes : std::string();
  }
};
/// Of an open file, which must live as long.
ByteSource bytesOfFile(int fd, std::uint64_t size);

/// Numbers out of a piece of memory; nothing is read past its end: has() is asked before.
class Bytes {
 public:
  explicit Bytes(std::string_view data) : data_(data) {}
  std::size_t left() const { return data_.size() - at_; }
  bool has(std::size_t bytes) const { return left() >= bytes; }
  std::uint64_t little(int bytes) {
    std::uint64_t value = 0;
    for (int i = bytes - 1; i >= 0; --i) value = value << 8 | at(static_cast<std::size_t>(i));
    at_ += static_cast<std::size_t>(bytes);
    return value;
  }
  std::uint64_t big(int bytes) {
    std::uint64_t value = 0;
    for (int i = 0; i < bytes; ++i) value = value << 8 | at(static_cast<std::size_t>(i));
    at_ += static_cast<std::size_t>(bytes);
    return value;
  }
  /// Fewer where it ends.
  std::string_view take(std::size_t bytes) {
    const std::string_view part = data_.substr(at_, bytes);
    at_ += part.size();
    return part;
  }

 private:
  unsigned char at(std::size_t i) const { return static_cast<unsigned char>(data_[at_ + i]); }
  std::string_view data_;
  std::size_t at_ = 0;
};

}  // namespace octaphon
