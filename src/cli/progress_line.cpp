#include "progress_line.h"

#include <unistd.h>

#include <algorithm>
#include <chrono>
#include <cstdio>
#include <string>

#include "base/unicode.h"
#include "common.h"

namespace octaphon::cli {

using Clock = std::chrono::steady_clock;

ProgressLine::ProgressLine(const RunControl& control, int rate, bool json, bool isAsked)
    : control_(control), rate_(rate), json_(json) {
  if (json ? isAsked : ::isatty(::fileno(messages())) != 0) thread_ = std::thread([this] { work(); });
}

ProgressLine::~ProgressLine() {
  ending_ = true;
  if (!thread_.joinable()) return;
  thread_.join();
  if (!json_) std::fprintf(messages(), "\r\033[K");
}

void ProgressLine::work() {
  const Clock::time_point begin = Clock::now();
  const auto seconds = [&] { return std::chrono::duration<double>(Clock::now() - begin).count(); };
  double told = 0;
  while (!ending_) {
    const ProgressFigures figures = figuresOf(control_, rate_, seconds());
    if (!json_) draw(figures);
    if (json_ && seconds() - told >= 1) {
      told = seconds();
      print(figures);
    }
    std::this_thread::sleep_for(std::chrono::milliseconds(json_ ? 20 : 100));
  }
}

void ProgressLine::draw(const ProgressFigures& figures) const {
  constexpr int kWidth = 30;
  std::string bar(kWidth, '.');
  std::fill_n(bar.begin(), static_cast<int>(figures.fraction * kWidth), '=');
  const std::string left = figures.secondsLeft < 0 ? "" : ", " + shortTimeText(figures.secondsLeft) + " left";
  std::fprintf(messages(), "\r\033[K[%s] %3d %%  %s, %zu of %zu files, %.0f × real time%s", bar.c_str(),
               static_cast<int>(figures.fraction * 100), std::string(runStageText(control_.stage)).c_str(),
               control_.filesDone.load(), control_.filesAll.load(), figures.realtime, left.c_str());
  std::fflush(messages());
}

void ProgressLine::print(const ProgressFigures& figures) const {
  printJson({{"event", "progress"},
             {"stage", runStageText(control_.stage)},
             {"fraction", figures.fraction},
             {"files", control_.filesDone.load()},
             {"of", control_.filesAll.load()},
             {"realtime", figures.realtime},
             {"seconds_left", figures.secondsLeft < 0 ? Json(nullptr) : Json(figures.secondsLeft)}});
}

}  // namespace octaphon::cli
