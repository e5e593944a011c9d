// A brief as a sentence: the same words in the window and on the command line.
#pragma once

#include <string>
#include <vector>

#include "brief/phrase.h"
#include "session/session.h"

namespace octaphon {

struct Phrase {
  PhraseKind kind = PhraseKind::Plain;  ///< Plain is text between phrases
  std::string text;
  bool isDefault = true;  ///< as a new brief has it
};

std::vector<Phrase> sentenceOf(const Brief& brief, const Session& session);

/// All phrases in a line.
std::string sentenceText(const Brief& brief, const Session& session);

}  // namespace octaphon
