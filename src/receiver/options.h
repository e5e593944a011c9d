// What the program takes.
#pragma once

#include <string>
#include <vector>

#include "receiver/recording.h"

namespace CLI {
class App;
}

namespace octaphon::receiver {

struct Options {
  std::string folder, manifest, record;
  std::vector<std::string> play, stop;
  Recording recording;
};

void describe(CLI::App& app, Options& options);

}  // namespace octaphon::receiver
