#include "base/result.h"

#include <cerrno>
#include <cstring>

namespace octaphon {

std::string_view errorText(ErrorCode code) {
  switch (code) {
    case ErrorCode::NotFound: return "there is no such file or folder";
    case ErrorCode::NotRegularFile: return "this is not a regular file";
    case ErrorCode::NotReadable: return "this cannot be read";
    case ErrorCode::TooLarge: return "this is larger than Octaphon accepts";
    case ErrorCode::Syntax: return "this is damaged or not of the expected format";
    case ErrorCode::BadValue: return "this value is not allowed here";
    case ErrorCode::TooNew: return "this was written by a newer Octaphon";
    case ErrorCode::UnknownName: return "the session has nothing of this name";
    case ErrorCode::OutsideFolder: return "this would lie outside its folder";
    case ErrorCode::Occupied: return "something is there already";
    case ErrorCode::Busy: return "another program is at work here";
    case ErrorCode::DiskFull: return "there is no space left on the disk";
    case ErrorCode::NotWritable: return "this cannot be written";
    case ErrorCode::MediumMissing: return "this media file is missing";
    case ErrorCode::MediumUnreadable: return "this media file cannot be read";
    case ErrorCode::Unsupported: return "this version cannot do that";
    case ErrorCode::PluginFailed: return "a plug-in failed";
    case ErrorCode::NotFinite: return "the sound is not a number or infinite here";
    case ErrorCode::Cancelled: return "stopped before it was done";
  }
  return {};
}

std::string Error::describe() const {
  std::string line = place.empty() ? std::string() : place + ": ";
  line += text.empty() ? std::string(errorText(code)) : text;
  if (!cure.empty()) line += ". " + cure;
  return line;
}

Error systemError(int number, std::string place, ErrorCode otherwise) {
  switch (number) {
    case ENOENT:
    case ENOTDIR: return {ErrorCode::NotFound, std::move(place), {}, {}};
    case ENOSPC:
    case EDQUOT: return {ErrorCode::DiskFull, std::move(place), {}, "Make space or choose another folder"};
    case ELOOP:
      return {ErrorCode::OutsideFolder, std::move(place), "a symbolic link is in the way",
              "Remove the link or choose another folder"};
    case EEXIST: return {ErrorCode::Occupied, std::move(place), {}, {}};
    default: return {otherwise, std::move(place), std::strerror(number), {}};
  }
}

}  // namespace octaphon
