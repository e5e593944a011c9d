#include "app/sheet/remark_causes.h"

#include <algorithm>
#include <map>
#include <tuple>

namespace octaphon::app {
namespace {

class Gatherer {
 public:
  explicit Gatherer(const Sheet& sheet) : sheet_(sheet) {}

  std::vector<RemarkCause> gather() {
    for (std::size_t i = 0; i < sheet_.briefs.size(); ++i)
      for (const Remark& remark : sheet_.briefs[i].remarks)
        addOnce(causeOf(remark, sheet_.acceptedOf(sheet_.briefs[i], remark)).briefs, i);
    for (std::size_t i = 0; i < sheet_.rows.size(); ++i) {
      const Row& row = sheet_.rows[i];
      for (const std::vector<Remark>* remarks : {&sheet_.soundOf(row).remarks, &row.remarks})
        for (const Remark& remark : *remarks)
          addOnce(causeOf(remark, sheet_.acceptedOf(row, remark)).rows, i);
    }
    std::vector<RemarkCause> causes;
    for (auto& [code, cause] : causes_) causes.push_back(std::move(cause));
    std::stable_sort(causes.begin(), causes.end(), [](const RemarkCause& a, const RemarkCause& b) {
      return std::tuple(a.isAccepted, b.severity, b.count()) <
             std::tuple(b.isAccepted, a.severity, a.count());
    });
    return causes;
  }

 private:
  RemarkCause& causeOf(const Remark& remark, const AcceptedRemark* accepted) {
    RemarkCause& cause = causes_[{remark.code, accepted != nullptr}];
    if (cause.example.empty()) {
      cause.code = remark.code;
      cause.isAccepted = accepted != nullptr;
      cause.example = remark.text;
      if (accepted != nullptr) cause.reason = accepted->reason;
    }
    cause.severity = std::max(cause.severity, remark.severity);
    return cause;
  }
  /// A row may have several of one cause.
  static void addOnce(std::vector<std::size_t>& list, std::size_t i) {
    if (list.empty() || list.back() != i) list.push_back(i);
  }

  const Sheet& sheet_;
  std::map<std::pair<RemarkCode, bool>, RemarkCause> causes_;
};

}  // namespace

std::vector<RemarkCause> causesOf(const Sheet& sheet) { return Gatherer(sheet).gather(); }

}  // namespace octaphon::app
