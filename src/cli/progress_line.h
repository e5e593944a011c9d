// How far a run is, while it goes on: a line on a terminal, events for programs.
#pragma once

#include <atomic>
#include <thread>

#include "run/progress.h"

namespace octaphon::cli {

class ProgressLine {
 public:
  /// `rate` in Hz. Draws on standard error, if that is a terminal; with `json` prints an event every second
  /// instead, where it `isAsked`. Until it is destroyed.
  ProgressLine(const RunControl& control, int rate, bool json, bool isAsked);
  ~ProgressLine();

 private:
  void work();
  void draw(const ProgressFigures& figures) const;
  void print(const ProgressFigures& figures) const;

  const RunControl& control_;
  int rate_;
  bool json_;
  std::atomic<bool> ending_{false};
  std::thread thread_;
};

}  // namespace octaphon::cli
