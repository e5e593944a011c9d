#include "write/flac_shell.h"

#include <FLAC/format.h>

#include "formats/flac_head.h"

namespace octaphon {

FlacShell::FlacShell(FileForm form) : form_(form), streamInfo_(kFlacStreamInfo, '\0') {}

std::string FlacShell::head(const FileData& data, Frame) const {
  return flacHead(streamInfo_, FLAC__VENDOR_STRING, data, form_);
}

Result<> FlacShell::take(const std::string& head, const std::string& place) {
  constexpr std::size_t kAt = 8;
  if (head.size() < kAt + kFlacStreamInfo || !head.starts_with("fLaC"))
    return fail(ErrorCode::BadValue, place, "the file that was made is no FLAC any more");
  streamInfo_ = head.substr(kAt, kFlacStreamInfo);
  return {};
}

}  // namespace octaphon
