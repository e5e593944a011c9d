// The delivery note as one HTML file: nothing is fetched, no scripts; light or dark as the reader has it, and
// light on paper of any size.
#pragma once

#include <filesystem>
#include <string>

#include "handover/note.h"

namespace octaphon {

/// `toFiles`: from the folder that the page lies in to that of the delivery, for links; empty: without links.
std::string notePage(const Note& note, const std::string& toFiles = {});

}  // namespace octaphon
