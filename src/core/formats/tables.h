// The tables of formats and texts, as documents have them (Markdown).
#pragma once

#include <string>

namespace octaphon {

std::string formatsTable();
std::string textsTable();

}  // namespace octaphon
