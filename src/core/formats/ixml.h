// iXML, the production data in WAV files (open specification, revision 3.01, from memory): project, speed,
// channels by name, the set of files that a file belongs to.
#pragma once

#include <string>

#include "formats/encoding.h"
#include "formats/file_data.h"

namespace octaphon {

/// Content of an `iXML` chunk. Where the specification has no place, an element `OCTAPHON` has one: the marks
/// of row and making, and free facts.
std::string ixmlData(const FileData& data, const FileForm& form);

}  // namespace octaphon
