// Before the sound of an Ogg stream (RFC 3533): the pages of its headers.
#pragma once

#include <cstdint>
#include <vector>

#include "write/shell.h"

namespace octaphon {

class OggShell : public Shell {
 public:
  explicit OggShell(FileForm form) : form_(form) {}
  std::string head(const FileData& data, Frame frames) const override;
  Result<> take(const std::string& head, const std::string& place) override;
  /// Pages are numbered on from those of the headers.
  Result<bool> settle(int fd, std::uint64_t head, const std::string& place) const override;

  /// What its encoder begins with: how the stream is decoded, the library's name, for Vorbis its tables.
  void setStream(std::uint32_t serial, std::string identification, std::string vendor, std::string setup);
  /// Pages of a head.
  std::uint32_t pagesOf(const std::string& head) const;

 private:
  FileForm form_;
  std::uint32_t serial_ = 0;
  std::string identification_, vendor_, setup_;
};

}  // namespace octaphon
