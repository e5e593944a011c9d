// From a template to the path of a file.
#pragma once

#include <string>

#include "naming/letter_case.h"
#include "naming/template.h"

namespace octaphon {

/// Where the values of fields come from.
class NameValues {
 public:
  virtual ~NameValues() = default;
  /// Adds the text of a field, formatted as it is asked for and filtered; `/` in it makes folders. Whether
  /// there is any. `isLost` is set where letters that are not Latin became `_`, as a filter says.
  virtual bool append(const TemplatePart& field, std::string& text, bool& isLost) const = 0;
};

/// What a field's filters make of its value. A value is at most 4096 bytes long; what is more is cut off.
std::string filteredValue(const TemplatePart& field, std::string value, const Abbreviations* abbreviations,
                          bool& isLost);

struct ExpandedName {
  std::string path;     ///< `/` between its parts, without ending; empty where the last part is
  bool isLost = false;  ///< letters that are not Latin became `_`, as a filter says
};

/// Filters count for a field's value, the case for each part of the path; each part is an allowedName().
/// Folders that come out empty drop out.
ExpandedName expandName(const Template& format, const NameValues& values, LetterCase letterCase);

/// What a template says in a file: no name of one, so nothing is replaced but controls; line ends stay.
std::string expandText(const Template& format, const NameValues& values);

/// Whether a pattern of the template took too long on some value.
bool hasGivenUp(const Template& format);

}  // namespace octaphon
