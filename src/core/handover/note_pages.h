// What draws the note's pages lies in a file of its own, loaded when a PDF is asked for: the libraries behind
// it take as long to load as all others together. Both come from one build.
#pragma once

#include <string>

#include "handover/note_pdf.h"

namespace octaphon {

inline constexpr const char* kNotePagesFile = "octaphon-note-pages.so";

}  // namespace octaphon

extern "C" __attribute__((visibility("default"))) void octaphonNotePages(
    const octaphon::Note& note, const octaphon::Paper& paper, octaphon::Result<std::string>& bytes);
