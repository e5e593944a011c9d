#include "naming/tables.h"

#include <algorithm>

#include "naming/filters.h"
#include "naming/name_fields.h"

namespace octaphon {
namespace {

std::string argumentText(const NameFieldInfo& info) {
  switch (info.argument) {
    case FieldArgument::None: return {};
    case FieldArgument::Digits: return "digits";
    case FieldArgument::Number: return "digits, `from`, `step`, `several`";
    case FieldArgument::Separator: return "what stands between";
    case FieldArgument::Key: return "its key, needed";
    case FieldArgument::Name: return "name of a set";
    case FieldArgument::Date: return "letters of a date; else `yyyy-MM-dd`";
    case FieldArgument::Unit: {
      std::string units = "`" + std::string(info.units) + "`";
      for (std::size_t at = 0; (at = units.find(' ', at)) != std::string::npos; at += 3)
        units.replace(at, 1, "` `");
      return units;
    }
  }
  return {};
}

}  // namespace

std::string nameFieldsTable() {
  std::string table = "\n| field | gives | behind a colon |\n|---|---|---|\n";
  for (const NameFieldInfo& info : kNameFields)
    table += "| `{" + std::string(info.name) + (info.hasLevel ? "1" : "") + "}` | " +
             std::string(info.meaning) + " | " + argumentText(info) + " |\n";
  return table + "\n";
}

std::string filtersTable() {
  std::string table = "\n| filter | what becomes of a value |\n|---|---|\n";
  for (const FilterInfo& info : kFilters)
    table += "| `" + std::string(info.example) + "` | " + std::string(info.meaning) + " |\n";
  return table + "\n";
}

}  // namespace octaphon
