// Fields and filters as tables of a document.
#pragma once

#include <string>

namespace octaphon {

/// Markdown with its head; ends with an empty line.
std::string nameFieldsTable();
std::string filtersTable();

}  // namespace octaphon
