#include "formats/encoding.h"

namespace octaphon {

const EncodingInfo& encodingInfo(Encoding encoding) { return kEncodings[static_cast<std::size_t>(encoding)]; }

std::optional<Encoding> parseEncoding(std::string_view name) {
  for (const EncodingInfo& info : kEncodings)
    if (info.name == name) return info.encoding;
  return std::nullopt;
}

std::uint64_t dataBytes(Encoding encoding, Frame frames, int channels) {
  return static_cast<std::uint64_t>(frames) * static_cast<std::uint64_t>(channels) *
         static_cast<std::uint64_t>(encodingInfo(encoding).bits / 8);
}

}  // namespace octaphon
