// The log of the window: what was done, with what went wrong, in a file of at most a megabyte. Names of files
// and things only where Preferences say so; never sound.
#pragma once

#include <fstream>
#include <mutex>
#include <QString>

#include "base/log.h"

namespace octaphon::app {

class LogFile {
 public:
  /// Takes all that is logged from now on, and what Qt says, until it goes. Where the folder cannot be
  /// written, nothing is kept.
  explicit LogFile(const QString& folder);
  ~LogFile();
  LogFile(const LogFile&) = delete;
  LogFile& operator=(const LogFile&) = delete;

  static LogFile* current() { return current_; }
  /// What is kept, the oldest first.
  QString text();

 private:
  void write(const LogLine& line);
  void open();

  static LogFile* current_;
  std::mutex mutex_;
  QString file_, before_;
  std::ofstream out_;
  qint64 size_ = 0;
};

/// What a report begins with: versions of this program and of what it runs on, and what was checked just now.
/// Takes a moment: it starts the program that plug-ins run in.
QString stateOfThings();

}  // namespace octaphon::app
