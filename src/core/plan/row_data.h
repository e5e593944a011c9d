// What the files of a sheet say of themselves.
#pragma once

#include <memory>
#include <mutex>
#include <vector>

#include "formats/file_data.h"
#include "ledger/fingerprint.h"
#include "ledger/row_mark.h"
#include "plan/sheet.h"
#include "routing/track_tree.h"
#include "session/session.h"

namespace octaphon {

/// Keeps references. Any thread.
class RowData {
 public:
  /// `only`: index of the one row that is asked for.
  RowData(const Sheet& sheet, const Session& session, const TrackTree& tree,
          std::optional<std::size_t> only = std::nullopt);
  ~RowData();

  /// All but the mark of its making. `row` is one of the sheet's; `extent`: of the file.
  FileData of(const Row& row, const Extent& extent) const;
  /// All of it.
  FileData of(const Row& row, const Extent& extent, const Fingerprint& made) const;

 private:
  class OfBrief;
  const OfBrief& briefOf(std::size_t index) const;

  const Sheet& sheet_;
  const Session& session_;
  const TrackTree& tree_;
  std::optional<std::size_t> only_;
  mutable std::mutex mutex_;
  mutable std::vector<std::unique_ptr<OfBrief>> briefs_;  // once they are asked for
};

/// Everything that a file says, in few bits.
Digest digestOf(const FileData& data);

/// What is wrong with the templates of a brief's data; empty where nothing is.
std::vector<Remark> dataFaults(const Brief& brief);

/// What a row's format has no place for; empty where it holds all. `data`: of the row.
std::string notCarried(const FileForm& form, const FileData& data);

}  // namespace octaphon
