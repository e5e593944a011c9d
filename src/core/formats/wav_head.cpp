#include "formats/wav_head.h"

#include <algorithm>

#include "formats/broadcast.h"
#include "formats/riff_bytes.h"

namespace octaphon {
namespace {

/// Where each channel is heard: dwChannelMask of WAVEFORMATEXTENSIBLE.
std::uint32_t channelMask(int channels) {
  switch (channels) {
    case 4: return 0x33;   // front left and right, back left and right
    case 6: return 0x60F;  // 5.1 with sides
    case 8: return 0x63F;  // 7.1
    default: return 0;
  }
}

std::uint64_t frameBytes(const FileForm& form) {
  return static_cast<std::uint64_t>(form.channels * encodingInfo(form.encoding).bits / 8);
}

std::string formatData(const FileForm& form) {
  const EncodingInfo& encoding = encodingInfo(form.encoding);
  const std::uint16_t tag = encoding.isInteger ? kWavePcm : kWaveFloat;
  const bool isWide = form.channels > 2;
  std::string data;
  putNumber(data, isWide ? kWaveExtensible : tag, 2);
  putNumber(data, static_cast<std::uint64_t>(form.channels), 2);
  putNumber(data, static_cast<std::uint64_t>(form.rate), 4);
  putNumber(data, static_cast<std::uint64_t>(form.rate) * frameBytes(form), 4);
  putNumber(data, frameBytes(form), 2);
  putNumber(data, static_cast<std::uint64_t>(encoding.bits), 2);
  if (isWide) {
    putNumber(data, 22, 2);
    putNumber(data, static_cast<std::uint64_t>(encoding.bits), 2);
    putNumber(data, form.isStacked ? 0 : channelMask(form.channels), 4);
    putNumber(data, tag, 4);  // the rest of KSDATAFORMAT_SUBTYPE_…
    data.append("\x00\x00\x10\x00\x80\x00\x00\xAA\x00\x38\x9B\x71", 12);
  } else if (!encoding.isInteger) {
    putNumber(data, 0, 2);
  }
  return data;
}

/// Sizes in 64 bits: of all, of the samples, how many frames; no others.
std::string largeSizes(std::uint64_t riffBytes, const WavHead& head) {
  std::string data;
  putNumber(data, riffBytes, 8);
  putNumber(data, head.dataBytes, 8);
  putNumber(data, head.dataBytes / frameBytes(head.form), 8);
  putNumber(data, 0, 4);
  return data;
}

}  // namespace

std::string WavHead::bytes(const FileData& data) const {
  constexpr std::uint64_t kLargeSizes = 8 + 28;
  std::string chunks = riffChunk("bext", broadcastData(data)) + riffChunk("fmt ", formatData(form));
  const std::uint64_t frames = dataBytes / frameBytes(form);
  if (!encodingInfo(form.encoding).isInteger) {
    std::string counted;
    putNumber(counted, std::min(frames, kSizeElsewhere), 4);
    chunks += riffChunk("fact", counted);
  }
  const std::uint64_t all =
      4 + (form.isLarge ? kLargeSizes : 0) + chunks.size() + 8 + dataBytes + dataBytes % 2 + behindBytes;
  std::string head = form.isLarge ? "RF64" : "RIFF";
  putNumber(head, form.isLarge ? kSizeElsewhere : all, 4);
  head += "WAVE";
  if (form.isLarge) head += riffChunk("ds64", largeSizes(all, *this));
  head += chunks + "data";
  putNumber(head, form.isLarge ? kSizeElsewhere : dataBytes, 4);
  return head;
}

}  // namespace octaphon
