#include "run/row_stages.h"

namespace octaphon {
namespace {

bool isOver(RowStage stage) { return stage == RowStage::Done || stage == RowStage::Failed; }

}  // namespace

std::string_view rowStageText(RowStage stage) {
  switch (stage) {
    case RowStage::None: return {};
    case RowStage::Waiting: return "waiting";
    case RowStage::Playing: return "playing";
    case RowStage::Measuring: return "measuring";
    case RowStage::Writing: return "writing";
    case RowStage::Done: return "done";
    case RowStage::Failed: return "failed";
  }
  return {};
}

void RowStages::begin(std::size_t rowsOfSheet, const std::vector<std::size_t>& rows) {
  rows_ = std::vector<std::atomic<RowStage>>(rowsOfSheet);
  for (const std::size_t row : rows) rows_[row] = RowStage::Waiting;
  hasBegun_ = true;
  ++version_;
}

void RowStages::set(std::size_t row, RowStage stage) {
  if (!hasBegun_) return;
  RowStage before = rows_[row];
  while (before != RowStage::None && before != stage && !isOver(before))
    if (rows_[row].compare_exchange_weak(before, stage)) {
      ++version_;
      return;
    }
}

void RowStages::stop() {
  for (std::atomic<RowStage>& row : rows_)
    if (!isOver(row)) row = RowStage::None;
  ++version_;
}

RowStage RowStages::of(std::size_t row) const {
  return hasBegun_ && row < rows_.size() ? rows_[row].load() : RowStage::None;
}

}  // namespace octaphon
