// Files that are not rendered anew: they get other names, and what they say of themselves is written anew.
#pragma once

#include <functional>
#include <string>
#include <vector>

#include "plan/fingerprints.h"
#include "run/targets.h"

namespace octaphon {

class Moves {
 public:
  using Report = std::function<void(std::size_t row, const Result<>& outcome)>;

  /// All must live as long. `report` is called once a row.
  Moves(const Sheet& sheet, const RowData& data, const SignalContext& context, const Targets& targets,
        bool sync, Report report)
      : sheet_(sheet),
        data_(data),
        fingerprints_(sheet, data, context),
        targets_(targets),
        sync_(sync),
        report_(std::move(report)) {}

  /// Rows whose file comes from one that is there. The receipt knows of every step before it is done, and a
  /// file that has a name on the way is found again by its line there.
  void run(const std::vector<std::size_t>& rows);

 private:
  struct Move {
    std::size_t row;
    std::string from, to;
    ReceiptLine before, after;  // of the file as it is; with its new name
    bool isRewritten = false;
    bool isDone() const { return from == to; }
  };
  Result<Move> plan(std::size_t row);
  std::string madeAnew(const Row& row, const ReceiptLine& before, const FileData& data) const;
  Result<ReceiptLine> lineBefore(std::size_t row, const FileHandle& file) const;
  Result<> mayReplace(const Move& move) const;
  void runIn(std::vector<Move> moves);
  void renameAll(const SafeFolder& folder, std::vector<Move>& moves);
  void failWith(const Move& move, const Error& error, const std::vector<Move*>& waiting);
  static Result<> stepAside(const SafeFolder& folder, Move& move);
  Result<> rename(const SafeFolder& folder, Move& move) const;
  Result<> rewriteOne(const Move& move);

  const Sheet& sheet_;
  const RowData& data_;
  Fingerprints fingerprints_;
  const Targets& targets_;
  bool sync_;
  Report report_;
};

}  // namespace octaphon
