// What of a file is not its sound: in front of it, and behind it. One for each kind of file.
#pragma once

#include <memory>
#include <optional>
#include <string>

#include "base/result.h"
#include "formats/encoding.h"
#include "formats/file_data.h"

namespace octaphon {

class Shell {
 public:
  virtual ~Shell() = default;
  /// All bytes before the sound of so many frames.
  virtual std::string head(const FileData& data, Frame frames) const = 0;
  /// All bytes behind it.
  virtual std::string tail(const FileData& data, Frame frames) const;
  /// Takes from the head of a file that is there what a new one needs besides its data. BadValue where it is
  /// none of this kind.
  virtual Result<> take(const std::string& head, const std::string& place);
  /// Bytes of sound; nothing where it goes on to the file's end.
  virtual std::optional<std::uint64_t> soundBytes(Frame frames) const;
  /// Where the sound says something of what is in front of it: once that has changed. Whether anything was
  /// written.
  virtual Result<bool> settle(int fd, std::uint64_t head, const std::string& place) const;
};

std::unique_ptr<Shell> makeShell(const FileForm& form);

}  // namespace octaphon
