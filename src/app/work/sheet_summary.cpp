#include "app/work/sheet_summary.h"

#include <algorithm>
#include <map>

namespace octaphon::app {
namespace {

int weight(RowState state) {
  switch (state) {
    case RowState::HeldBack: return 0;
    case RowState::UpToDate: return 1;
    case RowState::OlderEngine: return 2;
    case RowState::ToMake: return 3;
    case RowState::Renamed: return 4;
    case RowState::Stale: return 5;
    case RowState::Foreign: return 6;
    case RowState::Changed: return 7;
    case RowState::Fault: return 8;
  }
  return 0;
}

std::vector<Remark> remarksOf(const Sheet& sheet, const PlannedBrief& brief) {
  std::vector<Remark> remarks;
  for (const Remark& remark : brief.remarks)
    if (sheet.acceptedOf(brief, remark) == nullptr) remarks.push_back(remark);
  std::map<RemarkCode, std::pair<Remark, int>> faults;
  for (std::size_t i = brief.firstRow; i < brief.firstRow + brief.rowCount; ++i)
    for (const Remark& remark : sheet.remarksOf(sheet.rows[i]))
      if (remark.severity == Severity::Fault)
        ++faults.try_emplace(remark.code, remark, 0).first->second.second;
  for (const Remark& remark : brief.remarks) faults.erase(remark.code);
  for (auto& [code, fault] : faults) {
    if (fault.second > 1) fault.first.text += " (" + std::to_string(fault.second) + " rows)";
    remarks.push_back(fault.first);
  }
  return remarks;
}

bool isTwice(const Row& row) {
  return std::any_of(row.remarks.begin(), row.remarks.end(),
                     [](const Remark& remark) { return remark.code == RemarkCode::Collision; });
}

void chooseExamples(const Sheet& sheet, const PlannedBrief& brief, BriefSummary& summary) {
  if (brief.rowCount == 0) return;
  auto& [first, longest, odd, twice] = summary.examples;
  first = brief.firstRow;
  std::size_t most = brief.firstRow;
  for (std::size_t i = brief.firstRow; i < brief.firstRow + brief.rowCount; ++i) {
    const Row& row = sheet.rows[i];
    if (row.file.size() > sheet.rows[most].file.size()) most = i;
    if (!twice && isTwice(row)) twice = i;
    if (!odd && sheet.isRemarkable(row) && !isTwice(row)) odd = i;
  }
  if (most != *first) longest = most;
}

std::vector<std::optional<RowState>> statesOf(const Sheet& sheet, const PlannedBrief& brief) {
  std::vector<std::optional<RowState>> states(brief.spans.size());
  for (std::size_t i = brief.firstRow; i < brief.firstRow + brief.rowCount; ++i) {
    std::optional<RowState>& state = states[sheet.soundOf(sheet.rows[i]).span];
    state = state ? weightier(*state, sheet.rows[i].state) : sheet.rows[i].state;
  }
  return states;
}

}  // namespace

RowState weightier(RowState a, RowState b) { return weight(a) >= weight(b) ? a : b; }

SheetSummary summaryOf(const Sheet& sheet) {
  SheetSummary summary{countRows(sheet), countText(sheet), {}};
  for (const PlannedBrief& brief : sheet.briefs) {
    BriefSummary& ofBrief = summary.briefs.emplace_back();
    ofBrief.remarks = remarksOf(sheet, brief);
    ofBrief.spans = statesOf(sheet, brief);
    chooseExamples(sheet, brief, ofBrief);
  }
  return summary;
}

}  // namespace octaphon::app
