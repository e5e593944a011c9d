// An encoder whose file has its data around the sound: what is the same for all formats.
#pragma once

#include "write/encoder.h"
#include "write/file_bytes.h"
#include "write/shell.h"

namespace octaphon {

class ShelledEncoder : public Encoder {
 public:
  Result<WrittenSound> finish(const FileData& data) final;
  // Formats take one of the two.
  Result<> write(const std::int32_t* const* channels, Frame frames) override;
  Result<> write(const float* const* channels, Frame frames) override;

 protected:
  ShelledEncoder(const PendingFile& file, const FileForm& form, std::unique_ptr<Shell> shell)
      : bytes_(file), form_(form), shell_(std::move(shell)) {}
  Result<> begin(const FileData& planned) { return bytes_.begin(shell_->head(planned, 0)); }
  /// What was held back.
  virtual Result<> end() { return {}; }
  Error lacks(const std::string& what) const;

  FileBytes bytes_;
  FileForm form_;
  std::unique_ptr<Shell> shell_;
  Frame written_ = 0;
};

/// The rest of a file whose sound is there.
Result<WrittenSound> closeFile(FileBytes& bytes, const Shell& shell, const FileData& data, Frame frames);

}  // namespace octaphon
