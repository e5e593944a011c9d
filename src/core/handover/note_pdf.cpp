#include "handover/note_pdf.h"

#include <dlfcn.h>
#include <langinfo.h>
#include <locale.h>

#include "base/companion.h"
#include "handover/note_pages.h"

namespace octaphon {
namespace {

constexpr std::uintptr_t kLetterHeight = 279;  // mm

using NotePages = decltype(&octaphonNotePages);

/// Loaded once, and kept.
Result<NotePages> loadedNotePages() {
  static const std::string file = companionFile(kNotePagesFile, "pdf").string();
  static void* const module = ::dlopen(file.c_str(), RTLD_NOW | RTLD_LOCAL);
  static const auto pages =
      module == nullptr ? nullptr : reinterpret_cast<NotePages>(::dlsym(module, "octaphonNotePages"));
  if (pages == nullptr)
    return fail(ErrorCode::NotFound, file, "what writes PDF is not there, or does not run here",
                "Install Octaphon again, or ask for the page (HTML), which needs nothing");
  return pages;
}

}  // namespace

const Paper& usualPaper() {
  const locale_t here = ::newlocale(LC_PAPER_MASK, "", nullptr);
  if (here == nullptr) return kPapers[0];
  // Of glibc: a number where a text is given.
  const auto height = reinterpret_cast<std::uintptr_t>(::nl_langinfo_l(_NL_PAPER_HEIGHT, here));
  ::freelocale(here);
  return height == kLetterHeight ? kPapers[1] : kPapers[0];
}

Result<std::string> notePdf(const Note& note, const Paper& paper) {
  OCTAPHON_ASSIGN(const NotePages pages, loadedNotePages());
  Result<std::string> bytes;
  pages(note, paper, bytes);
  return bytes;
}

}  // namespace octaphon
