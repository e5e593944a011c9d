#include "formats/encoding.h"

namespace octaphon {

const EncodingInfo& encodingInfo(Encoding encoding) { return kEncodings[static_cast<std::size_t>(encoding)]; }

std::uint64_t dataBytes(Encoding encoding, Frame frames, int channels) {
  return static_cast<std::uint64_t>(frames) * static_cast<std::uint64_t>(channels) *
         static_cast<std::uint64_t>(encodingInfo(encoding).bits / 8);
}

}  // namespace octaphon
