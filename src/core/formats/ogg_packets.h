// The first packets of an Ogg stream (RFC 3533), through libogg.
#pragma once

#include <cstdint>
#include <string>
#include <string_view>
#include <vector>

namespace octaphon {

struct OggPackets {
  std::uint32_t serial = 0;
  std::vector<std::string> packets;  ///< whole ones, in order
  std::uint64_t bytes = 0;           ///< of the pages that hold them
};

/// Of the first stream in `bytes`, so many at most; fewer where the bytes end before or are damaged.
OggPackets oggPackets(std::string_view bytes, std::size_t most);

}  // namespace octaphon
