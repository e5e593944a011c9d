#include "run/progress.h"

#include <algorithm>

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

void RunControl::begin(RunStage next) {
  began_ = Clock::now();
  stage = next;
}

void RunControl::addCost(double cost) {
  double before = costDone;
  while (!costDone.compare_exchange_weak(before, before + cost)) {
  }
}

double RunControl::secondsOfStage() const {
  return std::chrono::duration<double>(Clock::now() - began_.load()).count();
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
    case RunStage::Sound: return std::min(1.0, ratio(costDone.load(), costAll.load()));
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
    figures.secondsLeft = control.secondsOfStage() * (1 - figures.fraction) / figures.fraction;
  return figures;
}

}  // namespace octaphon
