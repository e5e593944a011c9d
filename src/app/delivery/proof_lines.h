// What is known of files that were made, by cause: what was found on the disk, what was measured while they
// were made, and what is otherwise than it was.
#pragma once

#include <optional>
#include <QList>
#include <QString>
#include <vector>

#include "app/work/checking.h"
#include "app/work/making.h"

namespace octaphon::app {

struct ProofLine {
  QString file;   ///< or the span, where it is about no single file
  QString found;  ///< in words
  FolderPath base = {};
  std::string name = {};  ///< of the file, relative to the base; empty: none
  std::string row = {};   ///< its key; empty: none
  std::optional<PlannedSpan> span = {};
  std::optional<FileFinding> finding = {};
  std::optional<FileChange> change = {};
};

/// Lines shown of a cause: what is said of one of them is said of all.
inline constexpr std::size_t kMostProofLines = 300;

struct ProofGroup {
  QString title;  ///< without its count
  Severity severity = Severity::Note;
  bool isOpen = true;                    ///< its lines are to be looked at
  std::optional<FindingCode> code = {};  ///< of all of them, where they are findings
  std::size_t count = 0;
  std::vector<ProofLine> lines = {};  ///< the first ones
  /// Counts a line, and keeps it where there is room: `make` is asked for it only then.
  template <class Make>
  void add(const Make& make) {
    if (++count <= kMostProofLines) lines.push_back(make());
  }
};

/// What runs measured, which no later check can tell: kept until it is measured anew.
class RunProof {
 public:
  void take(const MadeReport& report);
  void clear() { *this = RunProof(); }

  const std::vector<MadeFailure>& failed() const { return failed_; }
  const std::vector<MadeSum>& sums() const { return sums_; }
  const std::vector<MadeRemark>& remarks() const { return remarks_; }

 private:
  std::vector<MadeFailure> failed_;
  std::vector<MadeSum> sums_;
  std::vector<MadeRemark> remarks_;
};

/// What has to be looked at first, then what is well. Empty where nothing was made or checked.
std::vector<ProofGroup> proofGroups(const RunProof& run, const Checking& checking);

/// In a sentence: `67 files read back at 14:03: 2 findings, 1 accepted`.
QString proofText(const RunProof& run, const Checking& checking);

/// In words, over several spans: `layers add up in 6 spans (−187 dB at most)`; empty where nothing was
/// judged.
QString sumsText(const std::vector<MadeSum>& sums);

}  // namespace octaphon::app
