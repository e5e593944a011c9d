// What the desktop program takes when it is started.
#pragma once

#include <string>

namespace CLI {
class App;
}

namespace octaphon::app {

struct ProgramOptions {
  std::string file;
  bool isNew = false;
  bool isSeparate = false;
};

void describe(CLI::App& app, ProgramOptions& options);

}  // namespace octaphon::app
