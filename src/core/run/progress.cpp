#include "run/progress.h"

namespace octaphon {

std::string_view runStageText(RunStage stage) {
  switch (stage) {
    case RunStage::Starting: return "starting";
    case RunStage::Media: return "preparing media";
    case RunStage::Sound: return "making files";
    case RunStage::Finishing: return "saving";
    case RunStage::Done: return "done";
  }
  return {};
}

void RunControl::cancel() {
  cancelled = true;
  pause(false);
}

void RunControl::pause(bool on) {
  {
    const std::scoped_lock lock(mutex_);
    paused_ = on;
  }
  wake_.notify_all();
}

bool RunControl::mayGoOn() {
  if (paused_) {
    std::unique_lock lock(mutex_);
    wake_.wait(lock, [this] { return !paused_; });
  }
  return !cancelled;
}

double RunControl::fraction() const {
  const auto ratio = [](auto part, auto whole) {
    return whole > 0 ? static_cast<double>(part) / static_cast<double>(whole) : 0.0;
  };
  switch (stage) {
    case RunStage::Starting: return 0;
    case RunStage::Media: return ratio(mediaDone.load(), mediaAll.load());
    case RunStage::Sound: return ratio(framesDone.load(), framesAll.load());
    case RunStage::Finishing: return ratio(filesDone.load(), filesAll.load());
    case RunStage::Done: return 1;
  }
  return 0;
}

ProgressFigures figuresOf(const RunControl& control, int rate, double secondsRun) {
  ProgressFigures figures;
  figures.fraction = control.fraction();
  if (secondsRun > 0) figures.realtime = static_cast<double>(control.framesDone) / rate / secondsRun;
  if (control.stage == RunStage::Sound && figures.fraction > 0.01)
    figures.secondsLeft = secondsRun * (1 - figures.fraction) / figures.fraction;
  return figures;
}

}  // namespace octaphon
