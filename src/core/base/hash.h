// Fingerprints: XXH3, 128 bits. Fast and even; no protection against forgery is meant.
#pragma once

#include <array>
#include <cstdint>
#include <cstring>
#include <memory>
#include <string>
#include <string_view>
#include <type_traits>

namespace octaphon {

struct Digest {
  std::uint64_t low = 0;
  std::uint64_t high = 0;
  auto operator<=>(const Digest&) const = default;
  bool empty() const { return low == 0 && high == 0; }
  std::string hex() const;                       ///< 32 small digits
  static Digest fromHex(std::string_view text);  ///< empty where the text is no digest
};

/// A growing hash. Numbers count by their bytes, text with its length, so that "ab","c" differs from
/// "a","bc". What is short costs no allocation.
class Hasher {
 public:
  Hasher();
  ~Hasher();
  Hasher(const Hasher&) = delete;
  Hasher& operator=(const Hasher&) = delete;
  Hasher(Hasher&&) noexcept;

  void reset();
  void bytes(const void* data, std::size_t size) {
    if (size > short_.size() - used_) return spill(data, size);
    std::memcpy(short_.data() + used_, data, size);
    used_ += size;
  }
  template <class T>
  requires std::is_arithmetic_v<T> || std::is_enum_v<T>
  void add(T value) { bytes(&value, sizeof value); }
  void add(std::string_view text);
  void add(const Digest& digest);
  Digest digest() const;

 private:
  struct State;
  void spill(const void* data, std::size_t size);

  std::array<unsigned char, 240> short_;  // not yet in the state; XXH3 has fast ways up to 240 bytes
  std::size_t used_ = 0;
  std::unique_ptr<State> state_;  // made by what does not fit
};

/// 64 bits of a text, for keys of random streams.
std::uint64_t hash64(std::string_view text);

}  // namespace octaphon
