// What the program does, for a report when something goes wrong: never sound, and names only apart from the
// words, so that whoever keeps the log can leave them out. Thread-safe; without a sink nothing happens.
#pragma once

#include <functional>
#include <string>
#include <string_view>

namespace octaphon {

enum class LogLevel {
  Error,    ///< something could not be done
  Warning,  ///< something was done otherwise than asked
  Note,     ///< a session opened, a run begun: a few a minute
  Detail,   ///< a few a file
};
std::string_view logLevelName(LogLevel level);  ///< `error`, `warning`, `note`, `detail`

struct LogLine {
  LogLevel level;
  std::string_view what;  ///< without names
  std::string_view name;  ///< the file, track or plug-in it is about; may be empty
};

/// Called on whatever thread does it, one at a time.
using LogSink = std::function<void(const LogLine& line)>;
/// Lines above `most` in the list of levels are not written. An empty sink ends it.
void setLogSink(LogSink sink, LogLevel most = LogLevel::Detail);
void writeLog(LogLevel level, std::string_view what, std::string_view name = {});

}  // namespace octaphon
