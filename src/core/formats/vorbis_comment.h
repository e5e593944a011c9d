// Vorbis comments (Xiph.Org, "Ogg Vorbis I format specification: comment field and header specification"):
// of Ogg Vorbis, Opus (RFC 7845, 5.2) and FLAC (RFC 9639, 8.6).
#pragma once

#include <string>
#include <string_view>
#include <utility>
#include <vector>

#include "formats/encoding.h"
#include "formats/file_data.h"

namespace octaphon {

using Comments = std::vector<std::pair<std::string, std::string>>;  // field and text

/// What a file of this form says in comments. Marks stand there where the format has no other place: as
/// chapters (practice, no standard), to the millisecond and, beside that, to the frame. `rate`: of places;
/// in Opus 48 kHz.
Comments commentsOf(const FileData& data, const FileForm& form);

/// The comments as bytes, behind the name of the library that encoded.
std::string packedComments(std::string_view vendor, const Comments& comments);

/// Takes them apart; false where the bytes are no comments, which gives those before the mistake.
bool readComments(std::string_view bytes, std::string& vendor, Comments& comments);

}  // namespace octaphon
