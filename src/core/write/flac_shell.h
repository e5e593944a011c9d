// Before the frames of a FLAC file.
#pragma once

#include "write/shell.h"

namespace octaphon {

class FlacShell : public Shell {
 public:
  explicit FlacShell(FileForm form);
  std::string head(const FileData& data, Frame frames) const override;
  Result<> take(const std::string& head, const std::string& place) override;
  /// What its encoder says of the stream: 34 bytes.
  void setStreamInfo(std::string info) { streamInfo_ = std::move(info); }

 private:
  FileForm form_;
  std::string streamInfo_;
};

}  // namespace octaphon
