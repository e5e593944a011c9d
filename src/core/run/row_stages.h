// Where each row of a run is, readable from any thread while it goes on.
#pragma once

#include <atomic>
#include <cstdint>
#include <string_view>
#include <vector>

namespace octaphon {

enum class RowStage : std::uint8_t {
  None,  ///< no row of the run, or not reached before it was stopped
  Waiting,
  Playing,
  Measuring,  ///< listened to for its level or its tail, or waits for what its set has
  Writing,
  Done,
  Failed,
};
std::string_view rowStageText(RowStage stage);  ///< `waiting`; empty for None

class RowStages {
 public:
  /// Once, before anyone sets any: these rows, of a sheet of so many, wait.
  void begin(std::size_t rowsOfSheet, const std::vector<std::size_t>& rows);
  /// Nothing before begin(). What is done or has failed stays so.
  void set(std::size_t row, RowStage stage);
  /// The run has stopped: what was not done is no more part of it.
  void stop();
  RowStage of(std::size_t row) const;
  /// Another number after each change.
  unsigned version() const { return version_; }

 private:
  std::vector<std::atomic<RowStage>> rows_;
  std::atomic<bool> hasBegun_{false};
  std::atomic<unsigned> version_{0};
};

}  // namespace octaphon
