// octaphon-cli vocabulary: which facts regions have, and what they may say.
#pragma once

#include <CLI/App.hpp>

namespace octaphon::cli {

void addVocabulary(CLI::App& app, int& exit);

}  // namespace octaphon::cli
