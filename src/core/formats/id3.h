// ID3v2.4 (id3.org, 2000; chapters: ID3v2 Chapter Frame Addendum 1.0), through TagLib: what stands before the
// sound of MP3, and in a chunk of WAV and AIFF.
#pragma once

#include <string>

#include "formats/encoding.h"
#include "formats/file_data.h"

namespace octaphon {

/// A whole tag, with padding. Marks are chapters in it where the format has no other place for them.
std::string id3Tag(const FileData& data, const FileForm& form);

/// Whether there is anything that a WAV file's other chunks have no place for.
bool needsId3(const FileData& data);

}  // namespace octaphon
