// Ogg (RFC 3533) with Vorbis (Vorbis I) or Opus (RFC 7845).
#include <algorithm>

#include "formats/facts_readers.h"
#include "formats/ogg_packets.h"

namespace octaphon {
namespace {

/// Where the last page of a stream says that its sound ends; −1 where there is none.
std::int64_t lastPosition(const ByteSource& source, std::uint32_t serial) {
  constexpr std::uint64_t kLargestPage = 65'307;  // RFC 3533, 6
  const std::uint64_t from = source.size - std::min(source.size, 2 * kLargestPage);
  const std::string end = source.upTo(from, source.size - from);
  for (std::size_t at = end.rfind("OggS"); at != std::string::npos;
       at = at == 0 ? std::string::npos : end.rfind("OggS", at - 1)) {
    Bytes page(std::string_view(end).substr(at));
    if (!page.has(27)) continue;
    page.take(6);
    const auto position = static_cast<std::int64_t>(page.little(8));
    if (page.little(4) == serial && position >= 0) return position;
  }
  return -1;
}

void takeVorbis(const OggPackets& read, FileFacts& facts) {
  Bytes head(read.packets[0]);
  head.take(11);
  facts.encoding = "vorbis";
  facts.channels = static_cast<int>(head.little(1));
  facts.rate = static_cast<int>(std::min<std::uint64_t>(head.little(4), 0x7FFFFFFF));
  if (read.packets.size() > 1 && read.packets[1].starts_with("\x03vorbis"))
    takeComments(facts, std::string_view(read.packets[1]).substr(7), facts.rate);
}

/// Gives the frames that players leave out.
std::int64_t takeOpus(const OggPackets& read, FileFacts& facts) {
  Bytes head(read.packets[0]);
  head.take(9);
  facts.encoding = "opus";
  facts.rate = 48000;
  facts.channels = static_cast<int>(head.little(1));
  const auto skipped = static_cast<std::int64_t>(head.little(2));
  if (read.packets.size() > 1 && read.packets[1].starts_with("OpusTags"))
    takeComments(facts, std::string_view(read.packets[1]).substr(8), facts.rate);
  return skipped;
}

}  // namespace

Result<> readOggFacts(const ByteSource& source, FileFacts& facts) {
  facts.container = Container::Ogg;
  const std::string begin = source.upTo(0, kMostPartBytes);
  const OggPackets read = oggPackets(begin, 3);
  if (read.packets.empty()) return {};
  const bool isVorbis = read.packets[0].starts_with("\x01vorbis") && read.packets[0].size() >= 30;
  const bool isOpus = read.packets[0].starts_with("OpusHead") && read.packets[0].size() >= 19;
  std::int64_t skipped = 0;
  if (isVorbis) takeVorbis(read, facts);
  if (isOpus) skipped = takeOpus(read, facts);
  static constexpr std::array<const char*, 3> kNames{"identification", "comments", "setup"};
  const std::size_t headers = isVorbis ? 3 : isOpus ? 2 : 0;
  for (std::size_t i = 0; i < std::min(headers, read.packets.size()); ++i)
    facts.parts.push_back({kNames[i], read.packets[i].size()});
  if (headers == 0) return {};
  facts.soundAt = oggPackets(begin, headers).bytes;
  if (const std::int64_t position = lastPosition(source, read.serial); position >= skipped)
    facts.frames = position - skipped;
  return {};
}

}  // namespace octaphon
