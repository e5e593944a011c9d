// A vocabulary as a table of text (RFC 4180): fact, value, meaning.
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "base/result.h"
#include "session/session.h"

namespace octaphon {

/// A line for each value; a fact that may say anything has one line without a value.
std::string writeVocabulary(const std::vector<VocabularyFact>& vocabulary);

/// Columns `fact`, `value` and `meaning` in any order under a head, or in this order without one. Facts and
/// values keep their order; what is there twice counts once. Syntax where there is no fact in it.
Result<std::vector<VocabularyFact>> readVocabulary(std::string_view bytes, const std::string& place);

}  // namespace octaphon
