// FLAC through libFLAC (RFC 9639).
#pragma once

#include <FLAC/stream_encoder.h>

#include "write/flac_shell.h"
#include "write/shelled_encoder.h"

namespace octaphon {

class FlacEncoder : public ShelledEncoder {
 public:
  static Result<std::unique_ptr<Encoder>> open(const PendingFile& file, const FileForm& form,
                                               const FileData& planned);
  using ShelledEncoder::write;
  Result<> write(const std::int32_t* const* channels, Frame frames) override;

 private:
  struct Delete {
    void operator()(FLAC__StreamEncoder* encoder) const { FLAC__stream_encoder_delete(encoder); }
  };
  FlacEncoder(const PendingFile& file, const FileForm& form, std::unique_ptr<FlacShell> shell)
      : ShelledEncoder(file, form, nullptr), flacShell_(shell.get()) {
    shell_ = std::move(shell);
  }
  Result<> setUp();
  Result<> end() override;
  Error mistake() const;
  static FLAC__StreamEncoderWriteStatus take(const FLAC__StreamEncoder*, const FLAC__byte* bytes, size_t size,
                                             std::uint32_t frames, std::uint32_t frame, void* self);
  static void takeInfo(const FLAC__StreamEncoder*, const FLAC__StreamMetadata* info, void* self);

  FlacShell* flacShell_;
  std::unique_ptr<FLAC__StreamEncoder, Delete> encoder_;
  Result<> outcome_;  // of what was written last
};

}  // namespace octaphon
