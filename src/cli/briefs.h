// octaphon-cli briefs: briefs of a session, to files of their own and from there.
#pragma once

#include <CLI/App.hpp>

namespace octaphon::cli {

void addBriefs(CLI::App& app, int& exit);

}  // namespace octaphon::cli
