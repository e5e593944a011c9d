// Which facts a session's regions and clip sets have, and whether they say what its vocabulary allows.
#pragma once

#include <string>
#include <vector>

#include "session/session.h"

namespace octaphon {

/// Those of the vocabulary in its order, then others that any region, clip set or path has, by name.
std::vector<std::string> factNames(const Session& session);

/// What the vocabulary says of a fact; null: nothing.
const VocabularyFact* vocabularyOf(const Session& session, std::string_view fact);

/// Whether a fact may say this. What the vocabulary does not name, and an empty text, may say anything.
bool isAllowed(const Session& session, std::string_view fact, std::string_view value);

/// What is outside the vocabulary: `place says 'Kai', which is none of quay and boat`; empty where nothing
/// is.
std::string outsideVocabulary(const Session& session, const Facts& facts);

}  // namespace octaphon
