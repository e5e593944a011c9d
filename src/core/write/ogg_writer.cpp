#include "write/ogg_writer.h"

#include "base/hash.h"

namespace octaphon {

std::uint32_t oggSerial(std::string_view key) { return static_cast<std::uint32_t>(hash64(key)); }

OggWriter::OggWriter(std::uint32_t serial, FileBytes& bytes) : bytes_(bytes) {
  ogg_stream_init(&stream_, static_cast<int>(serial));
  stream_.b_o_s = 1;  // that page is among the headers
}

OggWriter::~OggWriter() { ogg_stream_clear(&stream_); }

Result<> OggWriter::write(const ogg_page& page) {
  OCTAPHON_TRY(
      bytes_.append({reinterpret_cast<const char*>(page.header), static_cast<std::size_t>(page.header_len)}));
  return bytes_.append({reinterpret_cast<const char*>(page.body), static_cast<std::size_t>(page.body_len)});
}

Result<> OggWriter::add(ogg_packet packet) {
  if (ogg_stream_packetin(&stream_, &packet) != 0)
    return fail(ErrorCode::NotWritable, bytes_.place(), "there is no memory for its sound");
  ogg_page page;
  while (ogg_stream_pageout(&stream_, &page) != 0) OCTAPHON_TRY(write(page));
  return {};
}

Result<> OggWriter::flush() {
  ogg_page page;
  while (ogg_stream_flush(&stream_, &page) != 0) OCTAPHON_TRY(write(page));
  return {};
}

}  // namespace octaphon
