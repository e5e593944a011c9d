#include "write/pcm_encoder.h"

#include <bit>
#include <cstring>

namespace octaphon {
namespace {

enum class ByteOrder { Little, Big };

/// Bytes of whole numbers, channels interleaved.
template <int kWidth, ByteOrder kOrder, class Sample>
void packBytes(const Sample* const* channels, int count, Frame frames, std::uint8_t* out) {
  for (Frame i = 0; i < frames; ++i)
    for (int c = 0; c < count; ++c) {
      const auto bits = std::bit_cast<std::uint32_t>(channels[c][i]);
      for (int b = 0; b < kWidth; ++b)
        *out++ = static_cast<std::uint8_t>(bits >> (8 * (kOrder == ByteOrder::Little ? b : kWidth - 1 - b)));
    }
}

/// Bytes of WAV are whole numbers without a sign.
void packOffset(const std::int32_t* const* channels, int count, Frame frames, std::uint8_t* out) {
  for (Frame i = 0; i < frames; ++i)
    for (int c = 0; c < count; ++c) *out++ = static_cast<std::uint8_t>(channels[c][i] + 128);
}

/// Stereo of 24 bits, the usual case: four frames at once, in three stores of 8 bytes.
void packPairs(const std::int32_t* left, const std::int32_t* right, Frame frames, std::uint8_t* out) {
  Frame i = 0;
  if constexpr (std::endian::native == std::endian::little) {
    const auto bits = [](std::int32_t sample) { return static_cast<std::uint64_t>(sample) & 0xFFFFFF; };
    for (; i + 4 <= frames; i += 4, out += 24) {
      const std::uint64_t l1 = bits(left[i + 1]), r2 = bits(right[i + 2]);
      const std::uint64_t packed[]{bits(left[i]) | bits(right[i]) << 24 | l1 << 48,
                                   l1 >> 16 | bits(right[i + 1]) << 8 | bits(left[i + 2]) << 32 | r2 << 56,
                                   r2 >> 8 | bits(left[i + 3]) << 16 | bits(right[i + 3]) << 40};
      std::memcpy(out, packed, sizeof packed);
    }
  }
  const std::int32_t* rest[]{left + i, right + i};
  packBytes<3, ByteOrder::Little>(rest, 2, frames - i, out);
}

template <ByteOrder kOrder>
void packIntegers(int width, const std::int32_t* const* channels, int count, Frame frames,
                  std::uint8_t* out) {
  switch (width) {
    case 2: return packBytes<2, kOrder>(channels, count, frames, out);
    case 3: return packBytes<3, kOrder>(channels, count, frames, out);
    default: return packBytes<4, kOrder>(channels, count, frames, out);
  }
}

}  // namespace

Result<std::unique_ptr<Encoder>> PcmEncoder::open(const PendingFile& file, const FileForm& form,
                                                  const FileData& planned) {
  std::unique_ptr<PcmEncoder> encoder(new PcmEncoder(file, form, makeShell(form)));
  OCTAPHON_TRY(encoder->begin(planned));
  return encoder;
}

std::size_t PcmEncoder::sizeOf(Frame frames) const {
  return static_cast<std::size_t>(dataBytes(form_, frames));
}

Result<> PcmEncoder::writePacked(Frame frames) {
  written_ += frames;
  return bytes_.append({reinterpret_cast<const char*>(packed_.data()), packed_.size()});
}

Result<> PcmEncoder::write(const std::int32_t* const* channels, Frame frames) {
  packed_.resize(sizeOf(frames));
  const int width = encodingInfo(form_.encoding).bits / 8;
  const bool isAiff = form_.container() == Container::Aiff;
  if (isAiff)
    packIntegers<ByteOrder::Big>(width, channels, form_.channels, frames, packed_.data());
  else if (width == 1)
    packOffset(channels, form_.channels, frames, packed_.data());
  else if (form_.channels == 2 && width == 3)
    packPairs(channels[0], channels[1], frames, packed_.data());
  else
    packIntegers<ByteOrder::Little>(width, channels, form_.channels, frames, packed_.data());
  return writePacked(frames);
}

Result<> PcmEncoder::write(const float* const* channels, Frame frames) {
  packed_.resize(sizeOf(frames));
  if (form_.container() == Container::Aiff)
    packBytes<4, ByteOrder::Big>(channels, form_.channels, frames, packed_.data());
  else
    packBytes<4, ByteOrder::Little>(channels, form_.channels, frames, packed_.data());
  return writePacked(frames);
}

}  // namespace octaphon
