#include "naming/expand.h"

#include <algorithm>

#include "base/unicode.h"
#include "naming/file_name.h"

namespace octaphon {
namespace {

constexpr std::size_t kLongestValue = 4096;

void cutAtLimit(std::string& text) {
  if (text.size() <= kLongestValue) return;
  std::size_t cut = kLongestValue;
  while (cut > 0 && (static_cast<unsigned char>(text[cut]) & 0xC0) == 0x80) --cut;
  text.resize(cut);
}

/// Whether all fields of these parts themselves have a text.
bool appendParts(const std::vector<TemplatePart>& parts, const NameValues& values, std::string& text,
                 bool& isLost);

/// What is lost in a part that drops out is not missed.
void appendOptional(const TemplatePart& part, const NameValues& values, std::string& text, bool& isLost) {
  const std::size_t before = text.size();
  bool isLostInside = false;
  if (appendParts(part.inside, values, text, isLostInside))
    isLost = isLost || isLostInside;
  else
    text.resize(before);
}

bool appendParts(const std::vector<TemplatePart>& parts, const NameValues& values, std::string& text,
                 bool& isLost) {
  bool isFull = true;
  for (const TemplatePart& part : parts) switch (part.kind) {
      case TemplatePart::Kind::Text: text += part.text; break;
      case TemplatePart::Kind::Field: isFull = values.append(part, text, isLost) && isFull; break;
      case TemplatePart::Kind::Optional: appendOptional(part, values, text, isLost); break;
    }
  return isFull;
}

}  // namespace

std::string filteredValue(const TemplatePart& field, std::string value, const Abbreviations* abbreviations,
                          bool& isLost) {
  FilterContext context{abbreviations};
  cutAtLimit(value);
  for (const Filter& filter : field.filters) {
    value = filtered(filter, std::move(value), context);
    cutAtLimit(value);
  }
  isLost = isLost || context.isLost;
  return value;
}

ExpandedName expandName(const Template& format, const NameValues& values, LetterCase letterCase) {
  std::string text;
  text.reserve(120);
  ExpandedName result;
  appendParts(format.parts(), values, text, result.isLost);
  const auto partOf = [&](std::string_view part) {
    return letterCase == LetterCase::AsIs ? allowedName(part) : allowedName(withCase(part, letterCase));
  };
  std::size_t begin = 0;
  while (true) {
    const std::size_t slash = text.find('/', begin);
    std::string part = partOf(std::string_view(text).substr(begin, slash - begin));
    if (slash == std::string::npos) {
      if (begin == 0 || part.empty())
        result.path = std::move(part);
      else
        result.path += part;
      return result;
    }
    if (!part.empty()) result.path += part + "/";
    begin = slash + 1;
  }
}

std::string expandText(const Template& format, const NameValues& values) {
  std::string text, lines;
  bool isLost = false;
  appendParts(format.parts(), values, text, isLost);
  for (std::size_t begin = 0; begin <= text.size();) {
    const std::size_t end = std::min(text.find('\n', begin), text.size());
    lines +=
        (begin == 0 ? "" : "\n") + withoutControls(std::string_view(text).substr(begin, end - begin), "");
    begin = end + 1;
  }
  return lines;
}

bool hasGivenUp(const Template& format) {
  bool gaveUp = false;
  format.forEachField([&](const TemplatePart& part) {
    for (const Filter& filter : part.filters) gaveUp = gaveUp || (filter.pattern && filter.pattern->gaveUp);
  });
  return gaveUp;
}

}  // namespace octaphon
