#include "naming/template.h"

#include <algorithm>

namespace octaphon {
namespace {

std::string quoted(std::string_view text) {
  std::string result = "\"";
  for (const char c : text) result += c == '"' ? std::string("\"\"") : std::string(1, c);
  return result + "\"";
}

std::string numberText(const NumberFormat& format) {
  std::string text;
  const auto add = [&](const std::string& words) { text += (text.empty() ? "" : " ") + words; };
  if (format.digits > 0) add(std::to_string(format.digits));
  if (format.from != 1) add("from " + std::to_string(format.from));
  if (format.step != 1) add("step " + std::to_string(format.step));
  if (format.onlySeveral) add("several");
  return text;
}

std::string fieldText(const TemplatePart& part) {
  std::string text = "{" + nameOf(part.field);
  switch (nameFieldInfo(part.field.field).argument) {
    case FieldArgument::None: break;
    case FieldArgument::Digits:
    case FieldArgument::Number: {
      const std::string number = numberText(part.field.number);
      if (!number.empty()) text += ":" + number;
      break;
    }
    default:
      if (part.field.argument) text += ":" + quoted(*part.field.argument);
  }
  for (const Filter& filter : part.filters) {
    text += "|" + std::string(filterInfo(filter.kind).name);
    for (const std::string& argument : filter.texts) text += " " + quoted(argument);
  }
  return text + "}";
}

std::string textOf(const std::vector<TemplatePart>& parts) {
  std::string text;
  for (const TemplatePart& part : parts) switch (part.kind) {
      case TemplatePart::Kind::Text:
        for (const char c : part.text) text += c == '{' || c == '}' ? std::string(2, c) : std::string(1, c);
        break;
      case TemplatePart::Kind::Field: text += fieldText(part); break;
      case TemplatePart::Kind::Optional: text += "<" + textOf(part.inside) + ">"; break;
    }
  return text;
}

}  // namespace

bool Template::uses(NameField field) const {
  bool found = false;
  forEachField([&](const TemplatePart& part) { found = found || part.field.field == field; });
  return found;
}

static void takeOut(std::vector<TemplatePart>& parts, FilterKind kind) {
  for (TemplatePart& part : parts) {
    std::erase_if(part.filters, [&](const Filter& filter) { return filter.kind == kind; });
    takeOut(part.inside, kind);
  }
}

Template Template::without(FilterKind filter) const {
  Template result = *this;
  takeOut(result.parts_, filter);
  return result;
}

std::string Template::text() const { return textOf(parts_); }

}  // namespace octaphon
