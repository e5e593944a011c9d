// Around plain samples: WAV, RF64 and AIFF.
#pragma once

#include "write/shell.h"

namespace octaphon {

class PcmShell : public Shell {
 public:
  explicit PcmShell(FileForm form) : form_(form) {}
  std::string head(const FileData& data, Frame frames) const override;
  /// What fills the samples up to an even length, and chunks.
  std::string tail(const FileData& data, Frame frames) const override;
  std::optional<std::uint64_t> soundBytes(Frame frames) const override { return dataBytes(form_, frames); }

 protected:
  virtual std::string chunksBehind(const FileData& data) const = 0;
  virtual std::string headOf(const FileData& data, std::uint64_t dataBytes,
                             std::uint64_t behindBytes) const = 0;
  FileForm form_;
};

class WavShell : public PcmShell {
 public:
  using PcmShell::PcmShell;

 private:
  std::string chunksBehind(const FileData& data) const override;
  std::string headOf(const FileData& data, std::uint64_t dataBytes, std::uint64_t behindBytes) const override;
};

class AiffShell : public PcmShell {
 public:
  using PcmShell::PcmShell;

 private:
  std::string chunksBehind(const FileData& data) const override;
  std::string headOf(const FileData& data, std::uint64_t dataBytes, std::uint64_t behindBytes) const override;
};

}  // namespace octaphon
