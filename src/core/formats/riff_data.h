// What a file says of itself in RIFF chunks: those of a WAV file, which FLAC files carry too.
#pragma once

#include <string>
#include <vector>

#include "formats/encoding.h"
#include "formats/file_data.h"

namespace octaphon {

/// Whole chunks that may stand behind the samples: `smpl`, `cue `, `LIST adtl`, `iXML`, and `LIST INFO` and
/// `id3 ` where texts are no comments.
std::vector<std::string> riffDataChunks(const FileData& data, const FileForm& form);

}  // namespace octaphon
