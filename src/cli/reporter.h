// What a run tells of: a line each for people, an event each for programs.
#pragma once

#include <set>
#include <string>
#include <vector>

#include "common.h"
#include "plan/sheet.h"
#include "run/runner.h"

namespace octaphon::cli {

class Reporter {
 public:
  /// Keeps references.
  Reporter(const Session& session, const Sheet& sheet, bool json)
      : session_(session), sheet_(sheet), json_(json) {}

  void row(const RowOutcome& outcome);
  void remark(const Remark& remark) const;
  void sum(const SumOutcome& outcome) const;
  /// What became of the folders; `after`: planned when all was done.
  void report(const Sheet& after) const;
  void done(const RunSummary& summary, const SheetCounts& before, std::size_t kept) const;

 private:
  void printRow(const RowOutcome& outcome, const Row& row, const std::vector<Remark>& remarks) const;
  void printText(const RowOutcome& outcome, const Row& row, const std::vector<Remark>& remarks);
  void printFailure(const RowOutcome& outcome, const Row& row);
  std::string nameOf(const Row& row) const;

  const Session& session_;
  const Sheet& sheet_;
  bool json_;
  std::set<std::string> said_;  // about folders
  std::vector<std::pair<std::size_t, Deed>> done_;
};

/// What stands in a folder besides the files of a sheet's rows, as keys of an object.
Json asJson(const SheetFolder& folder);
/// `{"date": …, "version": …}`; null before the first run. `isBegun`: by now.
Json editionJson(const PlannedBrief& brief, bool isBegun = false);
/// The name that was given to a row alone; null where it has none.
Json ownNameJson(const Sheet& sheet, const Row& row);

}  // namespace octaphon::cli
