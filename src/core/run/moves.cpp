#include "run/moves.h"

#include <algorithm>
#include <map>
#include <optional>
#include <set>

#include "base/unicode.h"
#include "run/file_data.h"

namespace octaphon {
namespace {

/// The receipt's line that fits an open file, of this row.
const ReceiptLine* lineWith(const std::vector<ReceiptLine>& lines, const std::string& key,
                            const FileStamp& stamp) {
  const auto found = std::find_if(lines.rbegin(), lines.rend(), [&](const ReceiptLine& line) {
    return line.key == key && line.stamp == stamp;
  });
  return found == lines.rend() ? nullptr : &*found;
}

WrittenForm formOf(const Row& row, const ReceiptLine& line) {
  return {row.encoding, row.channels, row.rate, row.frames(), line.head};
}

}  // namespace

void Moves::run(const std::vector<std::size_t>& rows) {
  std::map<FolderPath, std::vector<Move>> byBase;
  for (const std::size_t row : rows) {
    auto move = plan(row);
    if (move)
      byBase[sheet_.briefOf(sheet_.rows[row]).base].push_back(std::move(*move));
    else
      report_(row, tl::unexpected(move.error()));
  }
  for (auto& [base, moves] : byBase) runIn(std::move(moves));
}

/// What it is made of; the file has to be what it was when the sheet was planned.
Result<Moves::Move> Moves::plan(std::size_t index) {
  const Row& row = sheet_.rows[index];
  const SafeFolder& folder = targets_.folderOf(index);
  OCTAPHON_ASSIGN(const FileHandle file, folder.openFile(row.from));
  OCTAPHON_ASSIGN(ReceiptLine before, lineBefore(index, file));
  Move move{index, row.from, row.file, std::move(before), {}, false};
  const Fingerprint print = fingerprints_.of(row);
  const FileData data = fileDataOf(sheet_, row, row.extent);
  move.isRewritten = !saysTheSame(file.get(), formOf(row, move.before), data);
  move.after = move.before;
  move.after.file = row.file;
  if (!move.isRewritten) move.after.fingerprint.tags = print.tags;
  return move;
}

Result<ReceiptLine> Moves::lineBefore(std::size_t index, const FileHandle& file) const {
  const Row& row = sheet_.rows[index];
  const Receipt& receipt = targets_.journalOf(index).receipt();
  const std::string key = sheet_.keyOf(row);
  const auto stamp = stampOf(file.get());
  if (stamp) {
    if (const ReceiptLine* line = lineWith(receipt.linesOf(row.from), key, *stamp)) return *line;
    if (row.isUnfinished())
      for (const auto& [name, lines] : receipt.byFile())
        if (const ReceiptLine* line = lineWith(lines, key, *stamp)) return *line;
  }
  for (auto line = receipt.linesOf(row.from).rbegin(); line != receipt.linesOf(row.from).rend(); ++line) {
    const auto content = digestOf(file.get(), row.from, line->head);
    if (content && line->key == key && *content == line->content) return *line;
  }
  return fail(ErrorCode::Occupied, printable(row.from, 200), "the file has changed since it was looked at",
              "Look at the sheet again, and make it once more");
}

/// What has the name by now is ours, and nobody has altered it.
Result<> Moves::mayReplace(const Move& move) const {
  const auto there = targets_.folderOf(move.row).openFile(move.to);
  if (!there && there.error().code == ErrorCode::NotFound) return {};
  const FileStamp stamp = (there ? stampOf(there->get()) : std::nullopt).value_or(FileStamp{});
  const auto& lines = targets_.journalOf(move.row).receipt().linesOf(move.to);
  const bool isOurs =
      std::any_of(lines.begin(), lines.end(), [&](const ReceiptLine& line) { return line.stamp == stamp; });
  if (there && isOurs) return {};
  return fail(ErrorCode::Occupied, printable(move.to, 200), "something has this name that is not ours",
              "Move it away, and make the file once more");
}

void Moves::runIn(std::vector<Move> moves) {
  const SafeFolder& folder = targets_.folderOf(moves.front().row);
  std::vector<ReceiptLine> lines;
  for (const Move& move : moves)
    if (!(move.after == move.before)) lines.push_back(move.after);
  ReceiptJournal& journal = targets_.journalOf(moves.front().row);
  if (const auto noted = journal.append(lines, sync_); !noted) {
    for (const Move& move : moves) report_(move.row, noted);
    return;
  }
  renameAll(folder, moves);
  for (const Move& move : moves)
    if (move.isDone()) report_(move.row, move.isRewritten ? rewriteOne(move) : Result<>());
}

namespace {

/// The order in which files can get their names: those first whose new name no other one has.
template <class Move>
class MoveOrder {
 public:
  explicit MoveOrder(std::vector<Move>& moves) {
    for (Move& move : moves)
      if (!move.isDone()) {
        byFrom_[move.from] = &move;
        byTo_[move.to] = &move;
      }
    for (const auto& [from, move] : byFrom_)
      if (!byFrom_.contains(move->to)) ready_.push_back(move);
  }
  bool isEmpty() const { return byFrom_.empty(); }
  /// Null where only circles are left.
  Move* next() {
    if (ready_.empty()) return nullptr;
    Move* move = ready_.back();
    ready_.pop_back();
    return move;
  }
  Move* anyOfACircle() const { return byFrom_.begin()->second; }
  /// Nothing has that name any more, or it is lost to the others.
  void free(const std::string& from) {
    byFrom_.erase(from);
    if (const auto waiting = byTo_.find(from); waiting != byTo_.end()) ready_.push_back(waiting->second);
  }
  /// It waits under another name.
  void wait(const std::string& from, Move* move) {
    byFrom_[move->from] = move;
    free(from);
  }

 private:
  std::map<std::string, Move*> byFrom_, byTo_;
  std::vector<Move*> ready_;
};

}  // namespace

/// Of a circle, one waits under a temporary name.
void Moves::renameAll(const SafeFolder& folder, std::vector<Move>& moves) {
  std::set<std::string> touched;
  MoveOrder<Move> order(moves);
  while (!order.isEmpty()) {
    Move* move = order.next();
    const bool isCircle = move == nullptr;
    if (isCircle) move = order.anyOfACircle();
    const std::string from = move->from;
    touched.insert({folderOf(from), folderOf(move->to)});
    const Result<> moved = isCircle ? stepAside(folder, *move) : rename(folder, *move);
    if (!moved) report_(move->row, moved);
    if (isCircle && moved)
      order.wait(from, move);
    else
      order.free(from);
  }
  // Names count when their folders are on the disk.
  for (const std::string& below : touched)
    if (sync_) (void)folder.sync(below);
}

Result<> Moves::stepAside(const SafeFolder& folder, Move& move) {
  const std::string below = folderOf(move.from);
  const std::string waits = (below.empty() ? "" : below + "/") + temporaryName();
  OCTAPHON_TRY(folder.move(move.from, waits, false));
  move.from = waits;
  return {};
}

Result<> Moves::rename(const SafeFolder& folder, Move& move) const {
  OCTAPHON_TRY(mayReplace(move));
  OCTAPHON_TRY(folder.move(move.from, move.to, true));
  move.from = move.to;
  return {};
}

Result<> Moves::rewriteOne(const Move& move) {
  const Row& row = sheet_.rows[move.row];
  const SafeFolder& folder = targets_.folderOf(move.row);
  OCTAPHON_ASSIGN(const FileHandle file, folder.openFile(move.to));
  OCTAPHON_ASSIGN(PendingFile anew, folder.create(move.to));
  OCTAPHON_ASSIGN(const WrittenSound written,
                  rewrite(file.get(), formOf(row, move.after), fileDataOf(sheet_, row, row.extent), anew));
  if (sync_) OCTAPHON_TRY(anew.sync());
  const auto stamp = stampOf(anew.fd());
  if (!stamp) return fail(ErrorCode::NotWritable, anew.place());
  ReceiptLine line = move.after;
  line.fingerprint.tags = fingerprints_.of(row).tags;
  line.content = written.content;
  line.head = written.head;
  line.stamp = *stamp;
  OCTAPHON_TRY(targets_.journalOf(move.row).append({line}, sync_));
  OCTAPHON_TRY(anew.publish(true));
  return sync_ ? folder.sync(folderOf(move.to)) : Result<>();
}

}  // namespace octaphon
