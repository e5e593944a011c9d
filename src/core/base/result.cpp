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
    case ErrorCode::TooManyFiles: return "too many files are open at once";
    case ErrorCode::Busy: return "another program is at work here";
    case ErrorCode::DiskFull: return "there is no space left on the disk";
    case ErrorCode::NotWritable: return "this cannot be written";
    case ErrorCode::MediumMissing: return "this media file is missing";
    case ErrorCode::MediumChanged: return "this media file changed while it was in use";
    case ErrorCode::MediumUnreadable: return "this media file cannot be read";
    case ErrorCode::Unsupported: return "this version cannot do that";
    case ErrorCode::PluginFailed: return "a plug-in failed";
    case ErrorCode::LevelUnknown: return "its gain goes by sounds that could not be heard";
    case ErrorCode::NothingLeft: return "nothing is left of the sound";
    case ErrorCode::NotFinite: return "the sound is not a number or infinite here";
    case ErrorCode::Cancelled: return "stopped before it was done";
  }
  return {};
}

std::string_view errorName(ErrorCode code) {
  switch (code) {
    case ErrorCode::NotFound: return "not-found";
    case ErrorCode::NotRegularFile: return "not-a-regular-file";
    case ErrorCode::NotReadable: return "not-readable";
    case ErrorCode::TooLarge: return "too-large";
    case ErrorCode::Syntax: return "syntax";
    case ErrorCode::BadValue: return "bad-value";
    case ErrorCode::TooNew: return "too-new";
    case ErrorCode::UnknownName: return "unknown-name";
    case ErrorCode::OutsideFolder: return "outside-folder";
    case ErrorCode::Occupied: return "occupied";
    case ErrorCode::TooManyFiles: return "too-many-files";
    case ErrorCode::Busy: return "busy";
    case ErrorCode::DiskFull: return "disk-full";
    case ErrorCode::NotWritable: return "not-writable";
    case ErrorCode::MediumMissing: return "medium-missing";
    case ErrorCode::MediumChanged: return "medium-changed";
    case ErrorCode::MediumUnreadable: return "medium-unreadable";
    case ErrorCode::Unsupported: return "unsupported";
    case ErrorCode::LevelUnknown: return "level-unknown";
    case ErrorCode::NothingLeft: return "nothing-left";
    case ErrorCode::NotFinite: return "not-finite";
    case ErrorCode::PluginFailed: return "plugin-failed";
    case ErrorCode::Cancelled: return "cancelled";
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
    case ENOENT: return {ErrorCode::NotFound, std::move(place), {}, {}};
    case ENOTDIR:
      return {ErrorCode::NotFound, std::move(place), "a file stands where its folder should be",
              "Move that file, or name another place"};
    case ENAMETOOLONG:
      return {otherwise, std::move(place), "a name in this path is longer than the file system takes",
              "Choose a shorter one"};
    case EMFILE:
    case ENFILE:
      return {ErrorCode::TooManyFiles,
              std::move(place),
              {},
              "Raise the limit (ulimit -n), or make fewer files at once"};
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
