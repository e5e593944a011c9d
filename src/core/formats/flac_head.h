// What stands before the frames of a FLAC file (RFC 9639, 8): STREAMINFO, RIFF chunks as application blocks,
// comments.
#pragma once

#include <string>

#include "formats/encoding.h"
#include "formats/file_data.h"

namespace octaphon {

/// `streamInfo`: the 34 bytes of it. Each chunk of riffDataChunks(), and `bext`, is an application block of
/// its own, registered as `riff` (RFC 9639, 12.2). Filled up to a multiple of 4096 bytes, with 1024 to spare.
std::string flacHead(const std::string& streamInfo, std::string_view vendor, const FileData& data,
                     const FileForm& form);

inline constexpr std::size_t kFlacStreamInfo = 34;  ///< bytes; they begin at byte 8 of a file
inline constexpr std::size_t kMostFlacBlock = (std::size_t{1} << 24) - 1;

}  // namespace octaphon
