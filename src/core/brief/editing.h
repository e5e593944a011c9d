// The fields of a brief as something that asks a person for a value sees them. Made of the description.
#pragma once

#include <string_view>
#include <variant>
#include <vector>

#include "brief/phrase.h"

namespace octaphon {

/// A field that one control can change.
struct EditableField {
  struct Flag {
    bool& (*in)(Brief& brief);
  };
  struct Number {
    NumberKind range;
    double& (*in)(Brief& brief);
  };
  struct Text {
    std::string& (*in)(Brief& brief);
  };
  struct OneOf {
    struct Option {
      std::string_view label, detail;
    };
    std::vector<Option> options;
    std::size_t (*get)(const Brief& brief);
    void (*set)(Brief& brief, std::size_t option);
  };

  const char* key;
  PhraseKind phrase;
  const char* label;
  const char* act;
  bool (*matters)(const Brief& brief);  ///< null: always
  std::variant<Flag, Number, Text, OneOf> control;
};

/// Those that have a label, in the order of the description.
const std::vector<EditableField>& editableFields();

}  // namespace octaphon
