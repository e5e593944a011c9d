// Naming templates: text with fields in braces, `{region.base}_{source}_{n.name:2}`. `/` makes folders, `{{`
// and `}}` are braces. Numbers take a count of digits after a colon, 1 to 9; without it they have as many as
// the largest number of the brief.
#pragma once

#include <array>
#include <string>
#include <string_view>
#include <vector>

#include "base/result.h"
#include "naming/letter_case.h"

namespace octaphon {

enum class NameField { Session, Brief, Region, RegionBase, Source, Group, Number, NameNumber };
struct NameFieldInfo {
  NameField field;
  std::string_view name;     ///< as written between the braces
  std::string_view meaning;  ///< for tips and documents
};
inline constexpr std::array<NameFieldInfo, 8> kNameFields{{
    {NameField::Session, "session", "title of the session"},
    {NameField::Brief, "brief", "name of the brief"},
    {NameField::Region, "region", "name of the region, path and all"},
    {NameField::RegionBase, "region.base", "name of the region without the number at its end"},
    {NameField::Source, "source", "name of the track or group, or mix"},
    {NameField::Group, "group", "name of the group the source is in"},
    {NameField::Number, "n", "number within the brief"},
    {NameField::NameNumber, "n.name", "number among rows whose name is otherwise equal"},
}};

struct TemplatePart {
  bool isField = false;
  std::string text;  ///< literal text, where it is no field
  NameField field{};
  int digits = 0;            ///< of numbers; 0 as many as needed
  std::size_t position = 0;  ///< byte in the template's text where it begins
  std::size_t length = 0;    ///< bytes it takes there
};

class Template {
 public:
  /// Syntax names the place as `character 7`. A part between slashes may not be empty, `.` or `..` as
  /// written, and the template may not be empty.
  static Result<Template> parse(std::string_view text);

  const std::vector<TemplatePart>& parts() const { return parts_; }
  bool uses(NameField field) const;

 private:
  std::vector<TemplatePart> parts_;
};

struct FieldValues {
  std::string session, brief, region, source, group;
  long number = 0;  ///< 0 is written as nothing
  long nameNumber = 0;
  int numberDigits = 1;
  int nameNumberDigits = 1;
};

/// The path a template gives, `/` between its parts, without ending. `/` inside a field's value becomes `_`.
/// Every part has the case applied and is an allowedName(); folders that come out empty drop out. Empty when
/// the last part is.
std::string expandName(const Template& format, const FieldValues& values, LetterCase letterCase);

}  // namespace octaphon
