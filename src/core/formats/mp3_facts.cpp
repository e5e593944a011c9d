// MP3 (ISO 11172-3, 2.4.1; 13818-3; MPEG 2.5), with the frame that LAME and others put first for length,
// delay and padding (practice, no standard).
#include <algorithm>

#include "formats/facts_readers.h"

namespace octaphon {
namespace {

struct FrameHead {
  int rate = 0, channels = 0, bitRate = 0;  // Hz; kbit/s
  int frames = 0;                           // of sound
  std::size_t bytes = 0, sideBytes = 0;
};

/// Of Layer III, with a bit rate; nothing for others.
std::optional<FrameHead> frameHead(std::string_view four) {
  if (four.size() < 4) return std::nullopt;
  Bytes bytes(four);
  const std::uint64_t bits = bytes.big(4);
  const std::uint64_t version = bits >> 19 & 3, layer = bits >> 17 & 3, rate = bits >> 12 & 15,
                      speed = bits >> 10 & 3, mode = bits >> 6 & 3;
  if (bits >> 21 != 0x7FF || version == 1 || layer != 1 || rate == 0 || rate == 15 || speed == 3)
    return std::nullopt;
  static constexpr std::array<int, 3> kRates{44100, 48000, 32000};
  FrameHead head;
  const bool isFirst = version == 3;
  head.rate = kRates[speed] / (isFirst ? 1 : version == 2 ? 2 : 4);
  head.channels = mode == 3 ? 1 : 2;
  head.bitRate = mp3BitRates(isFirst ? 44100 : 22050)[rate - 1];
  head.frames = isFirst ? 1152 : 576;
  head.sideBytes = isFirst ? (head.channels == 1 ? 17 : 32) : (head.channels == 1 ? 9 : 17);
  head.bytes = static_cast<std::size_t>(head.frames / 8 * head.bitRate * 1000 / head.rate) + (bits >> 9 & 1);
  return head;
}

/// Frames of sound that the first frame speaks of; nothing where it is sound itself.
std::optional<Frame> saidFrames(const std::string& frame, const FrameHead& head) {
  const std::size_t at = 4 + head.sideBytes;
  if (frame.size() < at + 8) return std::nullopt;
  const std::string_view kind = std::string_view(frame).substr(at, 4);
  if (kind != "Xing" && kind != "Info") return std::nullopt;
  Bytes bytes(std::string_view(frame).substr(at + 4));
  const std::uint64_t flags = bytes.big(4);
  if ((flags & 1) == 0 || !bytes.has(4)) return std::nullopt;
  const Frame all = static_cast<Frame>(bytes.big(4)) * head.frames;
  const std::size_t lame = at + 8 + ((flags & 1) != 0 ? 4u : 0u) + ((flags & 2) != 0 ? 4u : 0u) +
                           ((flags & 4) != 0 ? 100u : 0u) + ((flags & 8) != 0 ? 4u : 0u);
  if (frame.size() < lame + 24) return all;
  Bytes padding(std::string_view(frame).substr(lame + 21));
  const std::uint64_t packed = padding.big(3);
  return std::max<Frame>(0, all - static_cast<Frame>(packed >> 12) - static_cast<Frame>(packed & 0xFFF));
}

}  // namespace

bool readMp3Facts(const ByteSource& source, std::uint64_t at, FileFacts& facts) {
  constexpr std::uint64_t kSearched = 64 << 10;
  const std::string begin = source.upTo(at, kSearched);
  for (std::size_t i = 0; i + 4 <= begin.size(); ++i) {
    const auto head = frameHead(std::string_view(begin).substr(i, 4));
    if (!head) continue;
    // One alone may be chance; the file may also end with it.
    const std::uint64_t next = at + i + head->bytes;
    if (next + 4 <= source.size && !frameHead(source.upTo(next, 4))) continue;
    facts.container = Container::Mp3;
    facts.soundAt = at;
    facts.encoding = "mp3";
    facts.rate = head->rate;
    facts.channels = head->channels;
    facts.frames = saidFrames(source.upTo(at + i, head->bytes), *head);
    facts.isEstimated = !facts.frames;
    if (facts.isEstimated)
      facts.frames = static_cast<Frame>((source.size - at - i) * 8 * static_cast<std::uint64_t>(head->rate) /
                                        (static_cast<std::uint64_t>(head->bitRate) * 1000));
    return true;
  }
  return false;
}

}  // namespace octaphon
