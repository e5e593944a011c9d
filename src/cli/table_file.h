// How tables of a session go out to files and come back.
#pragma once

#include <functional>
#include <string>
#include <string_view>

#include "common.h"

namespace octaphon::cli {

/// Writes a table to a file and tells `what` it holds; to standard output, and tells nothing, where the file
/// is "-".
int exportTable(const std::string& table, const std::string& file, const std::string& what);

/// Changes a session by a table and saves it. The session is read when it is locked: what another program
/// saves before is not lost. Tells what goes wrong; then nothing is saved.
int importTable(const std::string& session, const std::string& file,
                const std::function<Result<void>(Session&, std::string_view table)>& change);

}  // namespace octaphon::cli
