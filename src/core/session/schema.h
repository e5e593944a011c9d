// The schema of session files and the tables of their format's page, made of the descriptions.
#pragma once

#include <string>
#include <string_view>

namespace octaphon {

/// JSON Schema (draft 2020-12) of a session file, with a line break at its end.
std::string sessionSchema();

/// The same of a file of briefs.
std::string briefFileSchema();

/// The page with the tables between `<!-- fields: NAME -->` and `<!-- end -->` written anew; NAME is a
/// description's. A name that no description has leaves its table empty.
std::string withFieldTables(std::string_view page);

}  // namespace octaphon
