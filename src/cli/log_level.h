// What the program tells of its work on standard error, where it is asked.
#pragma once

namespace CLI {
class App;
}

namespace octaphon::cli {

void addLogLevel(CLI::App& app);

}  // namespace octaphon::cli
