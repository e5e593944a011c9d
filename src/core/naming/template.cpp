#include "naming/template.h"

#include <algorithm>

#include "base/unicode.h"
#include "naming/file_name.h"

namespace octaphon {
namespace {

tl::unexpected<Error> wrongAt(std::size_t position, std::string text, std::string cure) {
  return fail(ErrorCode::Syntax, "template, character " + std::to_string(position + 1), std::move(text),
              std::move(cure));
}

std::string fieldNames() {
  std::string names;
  for (const NameFieldInfo& info : kNameFields)
    names += (names.empty() ? "{" : " {") + std::string(info.name) + "}";
  return names;
}

bool isNumber(NameField field) { return field == NameField::Number || field == NameField::NameNumber; }

Result<TemplatePart> parseField(std::string_view inside, std::size_t position) {
  const std::size_t colon = inside.find(':');
  const std::string_view name = inside.substr(0, colon);
  const auto* info = std::find_if(kNameFields.begin(), kNameFields.end(),
                                  [&](const NameFieldInfo& f) { return f.name == name; });
  if (info == kNameFields.end())
    return wrongAt(position, "there is no field {" + printable(name, 40) + "}", "Fields are " + fieldNames());
  TemplatePart part{true, {}, info->field, 0, position, inside.size() + 2};
  if (colon == std::string_view::npos) return part;
  const std::string_view digits = inside.substr(colon + 1);
  if (!isNumber(info->field))
    return wrongAt(position + 1 + colon, "only {n} and {n.name} take digits", "Leave them out");
  if (digits.size() != 1 || digits[0] < '1' || digits[0] > '9')
    return wrongAt(position + 1 + colon, "digits are a number from 1 to 9", "Write {n:2} for 01, 02 …");
  part.digits = digits[0] - '0';
  return part;
}

Result<> checkFolders(std::string_view text) {
  std::size_t begin = 0;
  while (true) {
    const std::size_t slash = text.find('/', begin);
    const std::string_view part = text.substr(begin, slash == std::string_view::npos ? slash : slash - begin);
    if (part.empty())
      return wrongAt(begin, "a folder or file name is empty",
                     "Names begin below the brief's folder; write Folder/name");
    if (part == "." || part == "..")
      return wrongAt(begin, "'" + std::string(part) + "' would leave the folder", "Name a folder");
    if (slash == std::string_view::npos) return {};
    begin = slash + 1;
  }
}

std::string padded(long number, int digits) {
  std::string text = std::to_string(number);
  const auto wanted = static_cast<std::size_t>(std::max(1, digits));
  if (text.size() < wanted) text.insert(0, wanted - text.size(), '0');
  return text;
}

std::string withoutSlashes(std::string_view value) {
  std::string text(value);
  std::replace(text.begin(), text.end(), '/', '_');
  return text;
}

std::string valueOf(const TemplatePart& part, const FieldValues& values) {
  const auto digits = [&](int otherwise) { return part.digits > 0 ? part.digits : otherwise; };
  switch (part.field) {
    case NameField::Session: return withoutSlashes(values.session);
    case NameField::Brief: return withoutSlashes(values.brief);
    case NameField::Region: return withoutSlashes(values.region);
    case NameField::RegionBase: return withoutSlashes(baseName(values.region));
    case NameField::Source: return withoutSlashes(values.source);
    case NameField::Group: return withoutSlashes(values.group);
    case NameField::Number:
      return values.number > 0 ? padded(values.number, digits(values.numberDigits)) : "";
    case NameField::NameNumber:
      return values.nameNumber > 0 ? padded(values.nameNumber, digits(values.nameNumberDigits)) : "";
  }
  return {};
}

}  // namespace

Result<Template> Template::parse(std::string_view text) {
  if (text.size() > 4096)
    return fail(ErrorCode::TooLarge, "template", "it has more than 4096 bytes", "Shorten it");
  if (!isValidUtf8(text)) return fail(ErrorCode::Syntax, "template", "it is not UTF-8");
  Template result;
  const auto literal = [&](char c, std::size_t position, std::size_t length) {
    if (result.parts_.empty() || result.parts_.back().isField)
      result.parts_.push_back({false, {}, {}, 0, position, 0});
    result.parts_.back().text += c;
    result.parts_.back().length += length;
  };
  for (std::size_t i = 0; i < text.size();) {
    const char c = text[i];
    const bool doubled = i + 1 < text.size() && text[i + 1] == c;
    if ((c == '{' || c == '}') && doubled) {
      literal(c, i, 2);
      i += 2;
    } else if (c == '}') {
      return wrongAt(i, "} without {", "Write }} for the character itself");
    } else if (c == '{') {
      const std::size_t end = text.find('}', i);
      if (end == std::string_view::npos)
        return wrongAt(i, "{ without }", "Close the field, or write {{ for the character itself");
      OCTAPHON_ASSIGN(TemplatePart part, parseField(text.substr(i + 1, end - i - 1), i));
      result.parts_.push_back(std::move(part));
      i = end + 1;
    } else {
      literal(c, i, 1);
      ++i;
    }
  }
  OCTAPHON_TRY(checkFolders(text));
  return result;
}

bool Template::uses(NameField field) const {
  return std::any_of(parts_.begin(), parts_.end(),
                     [&](const TemplatePart& p) { return p.isField && p.field == field; });
}

std::string expandName(const Template& format, const FieldValues& values, LetterCase letterCase) {
  std::string path;
  std::string name;
  const auto finishFolder = [&] {
    const std::string folder = allowedName(withCase(name, letterCase));
    if (!folder.empty()) path += folder + "/";
    name.clear();
  };
  for (const TemplatePart& part : format.parts()) {
    if (part.isField) {
      name += valueOf(part, values);
      continue;
    }
    for (const char c : part.text) {
      if (c == '/')
        finishFolder();
      else
        name += c;
    }
  }
  const std::string last = allowedName(withCase(name, letterCase));
  return last.empty() ? std::string() : path + last;
}

}  // namespace octaphon
