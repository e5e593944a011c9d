// Fingerprints: XXH3, 128 bits. Fast and even; no protection against forgery is meant.
#pragma once

#include <cstdint>
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
/// "a","bc".
class Hasher {
 public:
  Hasher();
  ~Hasher();
  Hasher(const Hasher&) = delete;
  Hasher& operator=(const Hasher&) = delete;
  Hasher(Hasher&&) noexcept;

  void reset();
  void bytes(const void* data, std::size_t size);
  template <class T>
  requires std::is_arithmetic_v<T> || std::is_enum_v<T>
  void add(T value) { bytes(&value, sizeof value); }
  void add(std::string_view text);
  void add(const Digest& digest);
  Digest digest() const;

 private:
  struct State;
  std::unique_ptr<State> state_;
};

/// 64 bits of a text, for keys of random streams.
std::uint64_t hash64(std::string_view text);

}  // namespace octaphon
