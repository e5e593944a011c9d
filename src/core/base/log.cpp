#include "base/log.h"

#include <atomic>
#include <mutex>

namespace octaphon {
namespace {

std::mutex sinkMutex;
LogSink currentSink;
std::atomic<int> mostLevel{-1};  // nothing is written

}  // namespace

std::string_view logLevelName(LogLevel level) {
  switch (level) {
    case LogLevel::Error: return "error";
    case LogLevel::Warning: return "warning";
    case LogLevel::Note: return "note";
    case LogLevel::Detail: return "detail";
  }
  return {};
}

void setLogSink(LogSink sink, LogLevel most) {
  const std::scoped_lock lock(sinkMutex);
  mostLevel = sink ? static_cast<int>(most) : -1;
  currentSink = std::move(sink);
}

void writeLog(LogLevel level, std::string_view what, std::string_view name) {
  if (static_cast<int>(level) > mostLevel.load(std::memory_order_relaxed)) return;
  const std::scoped_lock lock(sinkMutex);
  if (currentSink) currentSink({level, what, name});
}

}  // namespace octaphon
