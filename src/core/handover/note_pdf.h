// The delivery note as PDF, through cairo and pango (LGPL): fonts are found by what letters need, and
// embedded.
#pragma once

#include <string>
#include <string_view>

#include "base/result.h"
#include "handover/note.h"

namespace octaphon {

/// Sizes in points of 1/72 inch.
struct Paper {
  std::string_view name;  ///< `a4`
  double width, height;
};
inline constexpr Paper kPapers[]{{"a4", 595.276, 841.89}, {"letter", 612, 792}};
/// What people here print on (LC_PAPER).
const Paper& usualPaper();

/// The file's bytes; the same note gives the same bytes where the same fonts are.
Result<std::string> notePdf(const Note& note, const Paper& paper);

}  // namespace octaphon
