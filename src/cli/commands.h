// All subcommands with their options: what is run, and what manuals and completions are made of.
#pragma once

namespace CLI {
class App;
}

namespace octaphon::cli {

/// `exit` is set by the one that is run.
void describeCommands(CLI::App& app, int& exit);

}  // namespace octaphon::cli
