// Packets of sound as pages of an Ogg stream (RFC 3533), through libogg.
#pragma once

#include <cstdint>

#include <ogg/ogg.h>

#include "write/file_bytes.h"

namespace octaphon {

class OggWriter {
 public:
  OggWriter(std::uint32_t serial, FileBytes& bytes);
  ~OggWriter();
  OggWriter(const OggWriter&) = delete;
  OggWriter& operator=(const OggWriter&) = delete;

  /// Pages go on from this number; before the first packet.
  void beginAt(std::uint32_t page) { stream_.pageno = static_cast<long>(page); }
  Result<> add(ogg_packet packet);
  /// What is left.
  Result<> flush();

 private:
  Result<> write(const ogg_page& page);

  ogg_stream_state stream_;
  FileBytes& bytes_;
};

/// Of a stream, out of the key of its row: the same each time, and hardly the same for two rows.
std::uint32_t oggSerial(std::string_view key);

}  // namespace octaphon
