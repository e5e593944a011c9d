#include "formats/wav_head.h"

#include "formats/riff_bytes.h"

namespace octaphon {
namespace {

constexpr std::uint16_t kPcm = 1, kFloat = 3, kExtensible = 0xFFFE;
constexpr std::uint16_t kNotSet = 0x7FFF;  // of loudness

/// Where each channel is heard: dwChannelMask of WAVEFORMATEXTENSIBLE.
std::uint32_t channelMask(int channels) {
  switch (channels) {
    case 4: return 0x33;   // front left and right, back left and right
    case 6: return 0x60F;  // 5.1 with sides
    case 8: return 0x63F;  // 7.1
    default: return 0;
  }
}

std::string formatData(const WavHead& head) {
  const EncodingInfo& encoding = encodingInfo(head.encoding);
  const std::uint16_t tag = encoding.isInteger ? kPcm : kFloat;
  const bool isWide = head.channels > 2;
  const auto frameBytes = static_cast<std::uint64_t>(head.channels * encoding.bits / 8);
  std::string data;
  putNumber(data, isWide ? kExtensible : tag, 2);
  putNumber(data, static_cast<std::uint64_t>(head.channels), 2);
  putNumber(data, static_cast<std::uint64_t>(head.rate), 4);
  putNumber(data, static_cast<std::uint64_t>(head.rate) * frameBytes, 4);
  putNumber(data, frameBytes, 2);
  putNumber(data, static_cast<std::uint64_t>(encoding.bits), 2);
  if (isWide) {
    putNumber(data, 22, 2);
    putNumber(data, static_cast<std::uint64_t>(encoding.bits), 2);
    putNumber(data, channelMask(head.channels), 4);
    putNumber(data, tag, 4);  // the rest of KSDATAFORMAT_SUBTYPE_…
    data.append("\x00\x00\x10\x00\x80\x00\x00\xAA\x00\x38\x9B\x71", 12);
  } else if (!encoding.isInteger) {
    putNumber(data, 0, 2);
  }
  return data;
}

/// A text of a fixed size, filled with zeros.
void putText(std::string& out, std::string text, std::size_t size) {
  text.resize(size, '\0');
  out += text;
}

/// Description, originator, reference, date and time; time reference, version, UMID, five loudness values,
/// reserve. Date and time belong to the delivery, and stay empty here.
std::string broadcastData(Frame timeReference) {
  std::string data;
  putText(data, "", 256);
  putText(data, "Octaphon", 32);
  putText(data, "", 32 + 10 + 8);
  putNumber(data, static_cast<std::uint64_t>(timeReference), 8);
  putNumber(data, 2, 2);
  putText(data, "", 64);
  for (int i = 0; i < 5; ++i) putNumber(data, kNotSet, 2);
  putText(data, "", 180);
  return data;
}

}  // namespace

std::string WavHead::bytes() const {
  const EncodingInfo& info = encodingInfo(encoding);
  std::string chunks = riffChunk("bext", broadcastData(timeReference)) + riffChunk("fmt ", formatData(*this));
  if (!info.isInteger) {
    std::string frames;
    putNumber(frames, dataBytes / static_cast<std::uint64_t>(channels * info.bits / 8), 4);
    chunks += riffChunk("fact", frames);
  }
  std::string head = "RIFF";
  putNumber(head, 4 + chunks.size() + 8 + dataBytes + dataBytes % 2 + behindBytes, 4);
  head += "WAVE" + chunks + "data";
  putNumber(head, dataBytes, 4);
  return head;
}

}  // namespace octaphon
