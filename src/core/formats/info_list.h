// LIST INFO of WAV files (RIFF; IBM & Microsoft 1991): short texts, in UTF-8.
#pragma once

#include <string>

#include "formats/file_data.h"

namespace octaphon {

/// Content of the chunk, `INFO` and its texts; empty where there are none.
std::string infoListData(const FileData& data);

}  // namespace octaphon
