// Little-endian numbers and chunks, as RIFF has them.
#pragma once

#include <cstdint>
#include <string>
#include <string_view>

namespace octaphon {

/// wFormatTag of `fmt ` (IBM & Microsoft 1991, 1994).
inline constexpr std::uint16_t kWavePcm = 1, kWaveFloat = 3, kWaveExtensible = 0xFFFE;
/// A size in 32 bits that stands in `ds64` (EBU Tech 3306).
inline constexpr std::uint64_t kSizeElsewhere = 0xFFFFFFFF;

inline void putNumber(std::string& out, std::uint64_t value, int bytes) {
  for (int i = 0; i < bytes; ++i) out.push_back(static_cast<char>(value >> (8 * i)));
}

/// `name` has four letters; filled up to an even length.
inline std::string riffChunk(std::string_view name, const std::string& data) {
  std::string made(name);
  putNumber(made, data.size(), 4);
  return made + data + std::string(data.size() % 2, '\0');
}

}  // namespace octaphon
