#include "run/moves.h"

#include <algorithm>
#include <map>
#include <set>

#include "base/unicode.h"
#include "ledger/lines_by_stamp.h"
#include "run/planned_as_made.h"
#include "write/encoder.h"

namespace octaphon {
namespace {

WrittenForm formOf(const Sheet& sheet, const Row& row, const ReceiptLine& line) {
  return {sheet.formOf(row), row.frames(), line.head};
}

bool isContentOf(const FileHandle& file, const ReceiptLine& line, const std::string& place) {
  const auto content = digestOf(file.get(), place, line.head);
  return content && *content == line.content;
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
  const FileData data = data_.of(row, row.extent, move.before.fingerprint);
  move.isRewritten = !saysTheSame(file.get(), formOf(sheet_, row, move.before), data);
  move.after = move.before;
  move.after.file = row.file;
  if (!move.isRewritten) {
    move.after.fingerprint.tags = print.tags;
    move.after.made = madeAnew(row, move.before, data);
  }
  return move;
}

/// Where the receipt did not say what it was, it does not now.
std::string Moves::madeAnew(const Row& row, const ReceiptLine& before, const FileData& data) const {
  std::optional<MadeFile> made = madeFileIn(before.made);
  return made ? madeText(withWhatIsPlanned(std::move(*made), sheet_, row, data)) : before.made;
}

Result<ReceiptLine> Moves::lineBefore(std::size_t index, const FileHandle& file) const {
  const Row& row = sheet_.rows[index];
  const Receipt& receipt = targets_.journalOf(index).receipt();
  const std::string key = sheet_.keyOf(row);
  if (row.isUnfinished())
    if (const ReceiptLine* line = LinesByStamp(receipt).of(file.get()); line != nullptr && line->key == key)
      return *line;
  const FileStamp stamp = stampOf(file.get()).value_or(FileStamp{});
  const std::vector<ReceiptLine>& lines = receipt.linesOf(row.from);
  const auto fits = [&](const ReceiptLine& line) {
    if (line.key != key) return false;
    return line.stamp == stamp || isContentOf(file, line, row.from);
  };
  const auto found = std::find_if(lines.rbegin(), lines.rend(), fits);
  if (found != lines.rend()) return *found;
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
  /// Nothing has that name any more.
  void free(const std::string& from) {
    byFrom_.erase(from);
    if (const auto waiting = byTo_.find(from); waiting != byTo_.end()) ready_.push_back(waiting->second);
  }
  /// The file stays there: who waits for the name gets none either. Those, one after the other.
  std::vector<Move*> fail(const Move& move) {
    std::vector<Move*> waiting;
    std::string from = move.from;
    byTo_.erase(move.to);
    for (byFrom_.erase(from); byTo_.contains(from); byFrom_.erase(from)) {
      waiting.push_back(byTo_.at(from));
      byTo_.erase(from);
      from = waiting.back()->from;
    }
    return waiting;
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
    if (!moved)
      failWith(*move, moved.error(), order.fail(*move));
    else if (isCircle)
      order.wait(from, move);
    else
      order.free(from);
  }
  // Names count when their folders are on the disk.
  for (const std::string& below : touched)
    if (sync_) (void)folder.sync(below);
}

void Moves::failWith(const Move& move, const Error& error, const std::vector<Move*>& waiting) {
  report_(move.row, tl::unexpected(error));
  for (const Move* other : waiting)
    report_(other->row, fail(ErrorCode::Occupied, printable(other->to, 200),
                             "the file of another row still has this name, for it could not get its own",
                             "Mend what is wrong with " + printable(sheet_.rows[move.row].file, 120)));
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
  if (!isContentOf(file, move.after, move.to))  // bits may have changed while size and time stayed
    return fail(ErrorCode::Occupied, printable(move.to, 200), "someone altered the file since it was made",
                "Look at the sheet again with --thorough, or take the file away");
  OCTAPHON_ASSIGN(PendingFile anew, folder.create(move.to));
  const FileData data = data_.of(row, row.extent, move.after.fingerprint);
  OCTAPHON_ASSIGN(const WrittenSound written,
                  rewrite(file.get(), formOf(sheet_, row, move.after), data, anew));
  if (sync_) OCTAPHON_TRY(anew.sync());
  const auto stamp = stampOf(anew.fd());
  if (!stamp) return fail(ErrorCode::NotWritable, anew.place());
  ReceiptLine line = move.after;
  line.fingerprint.tags = fingerprints_.of(row).tags;
  line.made = madeAnew(row, move.after, data);
  line.content = written.content;
  line.head = written.head;
  line.stamp = *stamp;
  OCTAPHON_TRY(targets_.journalOf(move.row).append({line}, sync_));
  OCTAPHON_TRY(anew.publish(true));
  return sync_ ? folder.sync(folderOf(move.to)) : Result<>();
}

}  // namespace octaphon
