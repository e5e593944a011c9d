#include "formats/broadcast.h"

#include "base/letters.h"
#include "formats/riff_bytes.h"

namespace octaphon {
namespace {

constexpr std::uint16_t kNotSet = 0x7FFF;  // of loudness

/// A text of a fixed size, filled with zeros.
void putText(std::string& out, const std::string& text, std::size_t size) {
  bool isLost = false;
  std::string ascii = asciiText(text, Spelling::Plain, isLost);
  ascii.resize(size, '\0');
  out += ascii;
}

}  // namespace

std::string broadcastData(const FileData& data) {
  std::string bytes;
  const bool saysMore = !data.isPlain;
  const std::string& reference = data.text(Tag::Reference);
  putText(bytes, saysMore ? data.text(Tag::Description) : "", 256);
  putText(bytes, saysMore ? data.text(Tag::Originator) : "", 32);
  putText(bytes, saysMore ? (reference.empty() ? data.rowMark : reference) : "", 32);
  putText(bytes, saysMore ? data.date : "", 10);
  putText(bytes, saysMore && !data.date.empty() ? "00:00:00" : "", 8);
  putNumber(bytes, static_cast<std::uint64_t>(data.timeReference), 8);
  putNumber(bytes, 2, 2);  // version
  putText(bytes, "", 64);  // UMID
  for (int i = 0; i < 5; ++i) putNumber(bytes, kNotSet, 2);
  putText(bytes, "", 180);
  return bytes;
}

}  // namespace octaphon
