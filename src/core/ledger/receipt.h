// The receipt: what was delivered into a folder, with fingerprints. A journal of JSON lines in the delivery's
// base folder; each file's line is on the disk before the file gets its name, so that after a crash every
// file is either known or not there. The last line of a key that fits the file on disk counts. Each line has
// a `kind`; lines of kinds that a newer version wrote, and keys it added, are kept.
#pragma once

#include <map>
#include <optional>
#include <set>
#include <string>
#include <string_view>
#include <unordered_map>
#include <vector>

#include "base/extent.h"
#include "base/files.h"
#include "base/hash.h"
#include "base/result.h"
#include "base/safe_folder.h"
#include "ledger/accepted.h"
#include "ledger/delivered_brief.h"
#include "ledger/edition.h"
#include "ledger/fingerprint.h"
#include "ledger/sticky_numbers.h"
#include "level/levels.h"

namespace octaphon {

inline constexpr std::string_view kReceiptName = "octaphon-receipt.jsonl";
/// Whether a name is that of a receipt, or of the journal of a share of a run.
bool isReceiptName(std::string_view name);
inline constexpr std::uint64_t kMaxReceiptBytes = 1ull << 30;

struct ReceiptLine {
  std::string key;                    ///< of the row
  std::string file;                   ///< relative to the base folder
  Digest content;                     ///< of the file's bytes, as digestOf() gives it with `head`
  Fingerprint fingerprint;            ///< empty in lines of the first versions, which had one digest for all
  std::uint64_t head = 0;             ///< bytes that are hashed last
  FileStamp stamp;                    ///< of the file when it was written
  std::string unknownKeys = {};       ///< JSON of keys that a newer version wrote
  int edition = 0;                    ///< version of the brief's edition that it is of; 0: not said
  std::string session = {};           ///< name of the session's file; empty: not said
  Digest samples = {};                ///< of the sound before dither; empty: not said
  double gainDb = 0;                  ///< that was found for it
  std::optional<Levels> levels = {};  ///< of the file, as far as they were measured
  std::string made = {};              ///< JSON of its MadeFile; empty: not said

  bool operator==(const ReceiptLine&) const = default;

  std::string brief() const { return key.substr(0, key.find('/')); }  ///< its id
};

/// What was heard of a sound, found again by what the sound is made of.
struct Measured {
  std::string key;                    ///< of a row, or of a brief's span
  Digest sound;                       ///< of all that it depends on
  Frame tail = 0;                     ///< of a span that rings out: frames of the session
  bool byLimit = false;               ///< the tail was stopped by its limit
  double leftDb = 0;                  ///< level of the tail's last 10 ms, in dBFS
  Kept kept = {};                     ///< of a row: what trimming left
  std::optional<Levels> levels = {};  ///< of a row's sound, before any gain
};

/// Names of the journals of shares of a run that lie in a folder, in their order.
std::vector<std::string> sharesIn(const SafeFolder& folder);

class Receipt {
 public:
  /// With the journals of shares; an empty one where the folder has none. Lines that cannot be read are
  /// counted and left aside.
  static Receipt load(const SafeFolder& folder);
  /// False where a run has written more since this was loaded.
  bool isAllOf(const SafeFolder& folder) const;
  static Result<Receipt> read(int fd, const std::string& place);
  static Receipt parse(std::string_view text);
  /// More lines, in their order.
  void add(std::string_view text);
  /// Of a receipt's text: without a last line that was cut off, or is being written just now. A whole one
  /// needs no end of line.
  static std::string_view wholeLines(std::string_view text);

  /// All lines about a file of ours, oldest first; empty when the file is not ours.
  const std::vector<ReceiptLine>& linesOf(const std::string& file) const;
  const std::unordered_map<std::string, std::vector<ReceiptLine>>& byFile() const { return byFile_; }
  /// Whether a file of ours was taken away on purpose, and not made again since.
  bool isRemoved(const std::string& file) const { return removed_.contains(file); }
  /// By key; the last of each counts.
  const std::unordered_map<std::string, Measured>& measured() const { return measured_; }
  /// By id of the brief; the last of each counts.
  const std::map<std::string, Edition>& editions() const { return editions_; }
  /// By id of the brief.
  const std::map<std::string, StickyNumbers>& numbers() const { return numbers_; }
  /// By id of the brief.
  const std::map<std::string, std::vector<Accepted>>& accepted() const { return accepted_; }
  /// By id of the brief.
  const std::map<std::string, DeliveredBrief>& briefs() const { return briefs_; }
  /// By name of the session's file: text of a session file, as outlineText() gives it.
  const std::map<std::string, std::string>& outlines() const { return outlines_; }
  /// Notes and lists that lie beside what was delivered, by their files: of each the newest two, for the last
  /// may be of one that got no name.
  const std::map<std::string, std::vector<Digest>>& lists() const { return lists_; }
  /// Whether the very same stands in it, as what counts.
  bool has(const Measured& measured) const;
  bool has(const ReceiptLine& line) const;
  std::size_t damagedLines() const { return damaged_; }
  /// Lines of kinds that this version does not know, as they are.
  const std::vector<std::string>& otherLines() const { return others_; }

  /// First line of a receipt.
  static const std::string& head();
  static std::string asText(const ReceiptLine& line);
  static std::string asText(const Measured& measured);
  static std::string removed(const std::string& file);  ///< says that it was taken away
  static std::string asText(const Edition& edition);
  /// A line that forgets all numbers of a brief; lines of pairs, by key; one of how many there are.
  static std::string numbersAnew(const std::string& brief);
  static std::string asText(const std::string& brief, const std::map<std::string, PairNumbers>& pairs);
  static std::string asText(const std::string& brief, const NumberSet& most);

  /// A line that forgets what was accepted of a brief, and one for each that is.
  static std::string acceptedAnew(const std::string& brief, const std::vector<Accepted>& accepted);

  static std::string asText(const DeliveredBrief& brief);
  static std::string asText(const HandedList& list);
  /// Of a session, by the name of its file.
  static std::string outline(const std::string& session, const std::string& outline);

  /// The lines that matter, written anew: of each file the newest two, for the last may be of a file that got
  /// no name.
  std::string compacted() const;
  /// Whether that makes it at most half as long.
  bool paysToCompact() const;

 private:
  struct Parsed;
  void take(Parsed& line);
  void takeNumbers(const Parsed& line);
  void takeAccepted(const Parsed& line);
  void takeList(const Parsed& line);
  std::size_t kept() const;

  std::unordered_map<std::string, std::vector<ReceiptLine>> byFile_;
  std::unordered_map<std::string, Measured> measured_;
  std::map<std::string, Edition> editions_;
  std::map<std::string, StickyNumbers> numbers_;
  std::map<std::string, std::vector<Accepted>> accepted_;
  std::map<std::string, DeliveredBrief> briefs_;
  std::map<std::string, std::string> outlines_;
  std::map<std::string, std::vector<Digest>> lists_;
  std::set<std::string> removed_;
  std::vector<std::string> editionLines_;  // as they are, earlier ones too
  std::vector<std::string> others_;
  std::size_t lines_ = 0;
  std::size_t damaged_ = 0;
  std::uint64_t loaded_ = 0;  // bytes of the files it was loaded from
};

}  // namespace octaphon
