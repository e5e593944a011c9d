// The documents that the program carries with it, in sections that can be searched.
#pragma once

#include <QString>
#include <vector>

namespace octaphon::app {

struct HelpSection {
  QString page;     ///< `guide.md`
  QString title;    ///< of the page
  QString heading;  ///< empty: what stands before the first one
  QString text;     ///< without marks
};

struct HelpPageInfo {
  const char* file;
  const char* title;
};
/// In the order in which they are listed.
const std::vector<HelpPageInfo>& helpPages();

/// All sections of all pages, in order; read once.
const std::vector<HelpSection>& helpSections();

/// Indices of sections that have all words, letter case ignored: those that have them in a heading first,
/// then by how often.
std::vector<std::size_t> findInHelp(const QString& words);

}  // namespace octaphon::app
