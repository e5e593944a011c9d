// How far a run is, readable from any thread while it goes on; and the way to pause or stop it.
#pragma once

#include <atomic>
#include <chrono>
#include <condition_variable>
#include <mutex>
#include <string_view>

#include "base/frames.h"
#include "run/row_stages.h"

namespace octaphon {

enum class RunStage { Starting, Media, Sound, Finishing, Done };
std::string_view runStageText(RunStage stage);  ///< `preparing media`

class RunControl {
 public:
  std::atomic<bool> cancelled{false};
  std::atomic<RunStage> stage{RunStage::Starting};
  std::atomic<double> costAll{0};  ///< of the sound to be made, as costsOf() gives it
  std::atomic<double> costDone{0};
  std::atomic<Frame> framesDone{0};  ///< of files, all rows together
  std::atomic<Frame> framesAll{0};
  std::atomic<std::size_t> filesDone{0};
  std::atomic<std::size_t> filesAll{0};
  std::atomic<std::size_t> mediaDone{0};
  std::atomic<std::size_t> mediaAll{0};
  RowStages stages;

  void begin(RunStage next);
  /// So much of the cost is done.
  void addCost(double cost);
  /// Since the stage that is running began.
  double secondsOfStage() const;

  void cancel();
  void pause(bool on);
  bool isPaused() const { return paused_; }
  /// Returns when the run may go on; false when it is cancelled. Asked by workers between blocks.
  bool mayGoOn();

  /// 0 … 1, of the stage that is running.
  double fraction() const;

 private:
  using Clock = std::chrono::steady_clock;
  std::atomic<Clock::time_point> began_{Clock::now()};
  std::atomic<bool> paused_{false};
  std::mutex mutex_;
  std::condition_variable wake_;
};

/// What a progress line shows, from a control and the rate of the files.
struct ProgressFigures {
  double fraction = 0;
  double secondsLeft = -1;  ///< below 0: not known yet
  double realtime = 0;      ///< seconds of sound written in a second
};
ProgressFigures figuresOf(const RunControl& control, int rate, double secondsRun);

}  // namespace octaphon
