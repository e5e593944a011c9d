// The phrases of a brief's sentence, in their order, and the words that belong to its fields.
#pragma once

#include <string>

#include "base/description.h"
#include "brief/brief.h"

namespace octaphon {

enum class PhraseKind {
  Plain,  ///< text between phrases
  Sources,
  Regions,
  Counts,
  Reach,
  Overrides,
  Keyed,
  RunUp,
  Tail,
  Encoding,
  Template,
  Case,
  Folder,
  Existing
};

/// A field of a brief that people see.
template <class Kind, auto... Path>
struct BriefField : Field<Kind, Path...> {
  PhraseKind phrase;
  const char* label = "";  ///< in an editor: `Length of the tail`; empty: it has an editor of its own kind
  const char* act = "";    ///< for undo: `Change the tail`
  /// What it adds to its phrase, with what joins it to the words before; null: the phrase is put together
  /// where the session is known.
  std::string (*clause)(const Brief&) = nullptr;
  /// Whether it changes anything beside the brief's other fields; null: always.
  bool (*matters)(const Brief&) = nullptr;

  constexpr BriefField always() const {
    BriefField field = *this;
    field.isAlwaysWritten = true;
    return field;
  }
  /// Where it matters.
  constexpr BriefField when(bool (*condition)(const Brief&)) const {
    BriefField field = *this;
    field.matters = condition;
    return field;
  }
};

template <class Kind, auto... Path>
constexpr BriefField<Kind, Path...> said(PhraseKind phrase, Field<Kind, Path...> field,
                                         const char* label = "", const char* act = "",
                                         std::string (*clause)(const Brief&) = nullptr) {
  return {field, phrase, label, act, clause};
}

}  // namespace octaphon
