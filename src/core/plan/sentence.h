// A brief as a sentence: the same words in the window and on the command line.
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "base/remark.h"
#include "brief/phrase.h"
#include "session/session.h"

namespace octaphon {

struct Phrase {
  PhraseKind kind = PhraseKind::Plain;
  Paragraph paragraph = Paragraph::WhatAndWhere;
  std::string_view mark;  ///< what joins it to the words before: nothing, `,` or `;`
  std::string_view lead;  ///< words before it: `over`; may be empty
  std::string text;
  std::string_view trail;  ///< words behind it; may be empty
  bool isDefault = true;   ///< as a new brief has it
  bool isNeeded = true;    ///< said even at its default, where others may go without saying
  bool isQuiet = false;    ///< at its default it goes without saying in plain text too
};

std::vector<Phrase> sentenceOf(const Brief& brief, const Session& session);

/// All phrases in a line.
std::string sentenceText(const Brief& brief, const Session& session);

/// The phrase that a remark is about, where its cure is; Plain where no phrase of the brief would cure it.
PhraseKind phraseOf(RemarkCode code);

}  // namespace octaphon
