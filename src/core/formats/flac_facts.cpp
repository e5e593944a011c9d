// FLAC (RFC 9639).
#include "base/unicode.h"
#include "formats/facts_readers.h"

namespace octaphon {
namespace {

std::string nameOfBlock(unsigned kind) {
  static constexpr std::array<const char*, 7> kNames{"STREAMINFO",     "PADDING",  "APPLICATION", "SEEKTABLE",
                                                     "VORBIS_COMMENT", "CUESHEET", "PICTURE"};
  return kind < kNames.size() ? kNames[kind] : "block " + std::to_string(kind);
}

void takeStreamInfo(Bytes bytes, FileFacts& facts) {
  if (!bytes.has(34)) return;
  bytes.take(10);
  const std::uint64_t packed = bytes.big(8);
  facts.rate = static_cast<int>(packed >> 44);
  facts.channels = static_cast<int>(packed >> 41 & 7) + 1;
  facts.bits = static_cast<int>(packed >> 36 & 31) + 1;
  facts.encoding = "flac" + std::to_string(facts.bits);
  if (const auto frames = static_cast<Frame>(packed & ((std::uint64_t{1} << 36) - 1)); frames > 0)
    facts.frames = frames;
}

}  // namespace

Result<> readFlacFacts(const ByteSource& source, const std::string& place, std::uint64_t at,
                       FileFacts& facts) {
  facts.container = Container::Flac;
  RiffData data(facts);
  at += 4;
  for (bool isLast = false; !isLast && at < source.size;) {
    const std::string head = source.upTo(at, 4);
    if (head.size() < 4) return wrongFile(place, "a metadata block cannot be read");
    Bytes bytes(head);
    const std::uint64_t kind = bytes.big(1), size = bytes.big(3);
    isLast = (kind & 0x80) != 0;
    if (facts.parts.size() == kMostParts) return wrongFile(place, "there are too many metadata blocks");
    if (size > source.size - at - 4) return wrongFile(place, "a metadata block is longer than the file");
    const std::string content = kind % 128 == 1 ? std::string() : source.upTo(at + 4, size);
    std::string name = nameOfBlock(static_cast<unsigned>(kind & 0x7F));
    if ((kind & 0x7F) == 0) takeStreamInfo(Bytes(content), facts);
    if ((kind & 0x7F) == 4) takeComments(facts, content, facts.rate);
    if ((kind & 0x7F) == 2 && content.starts_with("riff") && content.size() >= 12) {
      const std::string id = content.substr(4, 4);
      name += " riff " + printable(id, 16);
      data.take(id, content.substr(12));
    }
    facts.parts.push_back({std::move(name), size});
    at += 4 + size;
  }
  data.finish();
  facts.soundAt = at;
  return {};
}

}  // namespace octaphon
