// Naming templates: text with fields in braces, `{region.base|snake}<_{group}>_{n.name:2}`. Behind a bar
// stand filters, between `<` and `>` a part that drops out where a field in it is empty; `/` makes folders,
// `{{` and
// `}}` are braces. docs/names.md says it for people.
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "base/result.h"
#include "naming/filters.h"
#include "naming/name_fields.h"

namespace octaphon {

inline constexpr std::size_t kLongestTemplate = 4096;  ///< bytes
inline constexpr int kDeepestOptional = 8;             ///< parts that drop out, inside each other
inline constexpr std::size_t kMostFilters = 16;        ///< of one field

struct TemplatePart {
  enum class Kind { Text, Field, Optional };
  Kind kind = Kind::Text;
  std::string text;                  ///< of Text: with braces as they come out
  FieldUse field;                    ///< of Field
  std::vector<Filter> filters;       ///< of Field
  std::vector<TemplatePart> inside;  ///< of Optional
  std::size_t position = 0;          ///< byte in the template where it begins
  std::size_t length = 0;            ///< bytes it takes there
  /// What it says, wherever it stands.
  bool operator==(const TemplatePart& other) const {
    return kind == other.kind && text == other.text && field == other.field && filters == other.filters &&
           inside == other.inside;
  }
};

/// What is wrong with a template, and where.
struct TemplateMistake {
  std::size_t position = 0;  ///< byte where it begins
  std::size_t length = 0;    ///< bytes; may be 0 at the end
  std::string text;
  std::string cure;
  std::string instead = {};  ///< what could stand there; empty where nobody can tell
};

/// What a template is for.
enum class TemplateUse {
  Name,  ///< of a file, and its folders
  Text,  ///< in a file: `/` is a letter like others, and nothing has to be there
};

class Template {
 public:
  /// Syntax names the place as `template, character 7`, counted from 1 in characters of Unicode. A part
  /// between slashes may not be empty, `.` or `..` as written, and the template may not be empty.
  static Result<Template> parse(std::string_view text, TemplateUse use = TemplateUse::Name);
  /// The same, for those who show where it is.
  static std::optional<TemplateMistake> mistakeIn(std::string_view text, TemplateUse use = TemplateUse::Name);

  const std::vector<TemplatePart>& parts() const { return parts_; }
  bool uses(NameField field) const;
  /// Calls visit(part) for each field, those in optional parts too.
  template <class Visit>
  void forEachField(const Visit& visit) const {
    visitFields(parts_, visit);
  }
  /// The same without a filter, wherever it is.
  Template without(FilterKind filter) const;
  /// Written anew; read again it is equal.
  std::string text() const;
  bool operator==(const Template& other) const { return parts_ == other.parts_; }

 private:
  template <class Visit>
  static void visitFields(const std::vector<TemplatePart>& parts, const Visit& visit) {
    for (const TemplatePart& part : parts) {
      if (part.kind == TemplatePart::Kind::Field) visit(part);
      visitFields(part.inside, visit);
    }
  }
  friend class TemplateParser;
  std::vector<TemplatePart> parts_;
};

}  // namespace octaphon
