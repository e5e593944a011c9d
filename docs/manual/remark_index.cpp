#include "manual/remark_index.h"

#include "base/remark_info.h"
#include "check/finding.h"

namespace octaphon::manual {

std::string remarkTable() {
  std::string table = "| code | what is noticed | what it means | what to do |\n|---|---|---|---|\n";
  for (int i = 0; i < kRemarkCodes; ++i) {
    const RemarkInfo& info = remarkInfo(static_cast<RemarkCode>(i));
    table += "| `" + std::string(info.name) + "` | " + std::string(info.title) + " | " +
             std::string(info.meaning) + " | " + std::string(info.cure) + " |\n";
  }
  return table;
}

std::string findingTable() {
  std::string table = "| code | | what has happened | what to do |\n|---|---|---|---|\n";
  for (int i = 0; i < kFindingCodes; ++i) {
    const FindingInfo& info = findingInfo(static_cast<FindingCode>(i));
    table += "| `" + std::string(info.name) + "` | " + std::string(severityName(info.severity)) + " | " +
             std::string(info.title) + " | " + std::string(info.cure);
    if (!info.remark.empty()) table += " Accepted with the remark `" + std::string(info.remark) + "`, too.";
    table += " |\n";
  }
  return table;
}

}  // namespace octaphon::manual
