// What a file will say of itself, before it is written.
#pragma once

#include "formats/file_facts.h"

namespace octaphon {

/// The texts, marks and loops that readFileFacts() will find in a file of this form and data: read out of the
/// very bytes that are written. Without sound, so without length.
FileFacts plannedFacts(const FileForm& form, const FileData& data);

}  // namespace octaphon
