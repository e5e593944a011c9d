#include "write/encoder.h"

#include "write/wav_encoder.h"

namespace octaphon {

Result<std::unique_ptr<Encoder>> openEncoder(const PendingFile& file, Encoding encoding, int channels,
                                             int rate) {
  switch (encoding) {
    case Encoding::Pcm16:
    case Encoding::Pcm24:
    case Encoding::Float32: return WavEncoder::open(file, encoding, channels, rate);
  }
  return fail(ErrorCode::Unsupported, file.place());
}

bool saysTheSame(int file, const WrittenForm& form, const FileData& data) {
  return WavEncoder::saysTheSame(file, form, data);
}

Result<WrittenSound> rewrite(int file, const WrittenForm& form, const FileData& data, const PendingFile& to) {
  return WavEncoder::rewrite(file, form, data, to);
}

}  // namespace octaphon
