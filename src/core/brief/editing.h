// The fields of a brief, and of what spans have of their own, as something that asks a person for a value
// sees them. Made of the description.
#pragma once

#include <functional>
#include <optional>
#include <string>
#include <string_view>
#include <variant>
#include <vector>

#include "brief/phrase.h"

namespace octaphon {

/// A field of a brief, of its overrides or of what a span has of its own that a control can change.
template <class Owner>
struct EditableField {
  struct Flag {
    bool& (*in)(Owner& owner);
  };
  struct Number {
    NumberKind range;
    double& (*in)(Owner& owner);
  };
  struct Whole {
    double least, most;
    double (*get)(const Owner& owner);
    void (*set)(Owner& owner, double value);
  };
  struct OptionalNumber {
    OptionalNumberKind range;
    std::optional<double>& (*in)(Owner& owner);
    NumberSense (*sense)(const Owner& owner) = nullptr;  ///< where it depends on other fields
  };
  struct Text {
    std::string& (*in)(Owner& owner);
  };
  struct Texts {
    std::vector<std::string>& (*in)(Owner& owner);
  };
  struct OneOf {
    struct Option {
      std::string label, detail;
    };
    std::vector<Option> options;
    std::function<std::size_t(const Owner& owner)> get;
    std::function<void(Owner& owner, std::size_t option)> set;
    bool isList = false;  ///< that opens, instead of a line for each
  };
  /// Which groups there are, only a session knows.
  struct ReachOf {
    Reach& (*in)(Owner& owner);
  };
  struct RunUpOf {
    RunUp& (*in)(Owner& owner);
  };

  const char* key;
  PhraseKind phrase;  ///< of a brief
  const char* label;
  const char* act;                      ///< for undo
  bool (*matters)(const Owner& owner);  ///< null: always
  std::variant<Flag, Number, Whole, OptionalNumber, Text, Texts, OneOf, ReachOf, RunUpOf> control;
};

/// Those that have a label, in the order of the description.
const std::vector<EditableField<Brief>>& editableFields();
const std::vector<EditableField<Overrides>>& editableOverrides();
const std::vector<EditableField<OwnEnds>>& editableOwnEnds();
const std::vector<EditableField<OwnLoop>>& editableOwnLoop();
const std::vector<EditableField<OwnLevelling>>& editableOwnLevelling();

}  // namespace octaphon
