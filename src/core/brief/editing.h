// The fields of a brief as something that asks a person for a value sees them. Made of the description.
#pragma once

#include <string_view>
#include <variant>
#include <vector>

#include "brief/phrase.h"

namespace octaphon {

/// A field of a brief, or of its overrides, that a control can change.
template <class Owner>
struct EditableField {
  struct Flag {
    bool& (*in)(Owner& owner);
  };
  struct Number {
    NumberKind range;
    double& (*in)(Owner& owner);
  };
  struct Text {
    std::string& (*in)(Owner& owner);
  };
  struct Texts {
    std::vector<std::string>& (*in)(Owner& owner);
  };
  struct OneOf {
    struct Option {
      std::string_view label, detail;
    };
    std::vector<Option> options;
    std::size_t (*get)(const Owner& owner);
    void (*set)(Owner& owner, std::size_t option);
  };
  /// Which groups there are, only a session knows.
  struct ReachOf {
    Reach& (*in)(Owner& owner);
  };
  struct RunUpOf {
    RunUp& (*in)(Owner& owner);
  };

  const char* key;
  PhraseKind phrase;
  const char* label;
  const char* act;                      ///< for undo
  bool (*matters)(const Owner& owner);  ///< null: always
  std::variant<Flag, Number, Text, Texts, OneOf, ReachOf, RunUpOf> control;
};

/// Those that have a label, in the order of the description.
const std::vector<EditableField<Brief>>& editableFields();
const std::vector<EditableField<Overrides>>& editableOverrides();

}  // namespace octaphon
