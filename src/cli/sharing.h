// What several processes do together: each makes a share of one delivery.
#pragma once

#include <functional>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include <CLI/App.hpp>

#include "common.h"
#include "ledger/receipt_journal.h"
#include "plan/sheet.h"
#include "run/runner.h"

namespace octaphon::cli {

/// `--shard I/N`.
void addShareOption(CLI::App& command, Share& share);

/// What `measure` wrote, of several files. Tells the error and gives nothing where one cannot be read.
std::optional<std::vector<Measured>> readMeasured(const std::vector<std::string>& files, bool json);
std::string measuredText(const std::vector<Measured>& measured);

/// Editions and numbers of all that is planned are fixed, and files that only have other names are moved,
/// once for all shares: the first process does it, the others wait. Plans anew until that is so.
Result<std::shared_ptr<Sheet>> settleShares(const Opened& opened,
                                            const std::function<std::shared_ptr<Sheet>()>& plan,
                                            const Share& share, MediaCache& cache);

/// Takes out the rows that are another share's, or of a brief that has to be measured first; `refuse` is
/// called for these.
void keepShare(const Opened& opened, const Sheet& sheet, const Share& share, std::vector<std::size_t>& rows,
               const std::function<void(std::size_t row, const Error& error)>& refuse);

/// Joins journals of shares into the receipts of a sheet's folders.
Result<> joinShares(const Sheet& sheet);

}  // namespace octaphon::cli
