#include "write/shelled_encoder.h"

namespace octaphon {

Result<> ShelledEncoder::write(const std::int32_t* const*, Frame) {
  return fail(ErrorCode::Unsupported, bytes_.place());
}
Result<> ShelledEncoder::write(const float* const*, Frame) {
  return fail(ErrorCode::Unsupported, bytes_.place());
}

Error ShelledEncoder::lacks(const std::string& what) const {
  return {ErrorCode::NotWritable, bytes_.place(), "its encoder says: " + what,
          "Write it in another format, or once more when there is memory"};
}

Result<WrittenSound> ShelledEncoder::finish(const FileData& data) {
  OCTAPHON_TRY(end());
  return closeFile(bytes_, *shell_, data, written_);
}

Result<WrittenSound> closeFile(FileBytes& bytes, const Shell& shell, const FileData& data, Frame frames) {
  OCTAPHON_TRY(bytes.append(shell.tail(data, frames)));
  OCTAPHON_TRY(bytes.setHead(shell.head(data, frames)));
  OCTAPHON_ASSIGN(const bool isChanged, shell.settle(bytes.fd(), bytes.headSize(), bytes.place()));
  if (isChanged) bytes.wasChanged();
  OCTAPHON_ASSIGN(const Digest content, bytes.digest());
  return WrittenSound{content, bytes.headSize(), frames};
}

}  // namespace octaphon
