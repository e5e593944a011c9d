#include "ledger/receipt_journal.h"

#include <sys/file.h>
#include <unistd.h>

#include <cerrno>
#include <chrono>
#include <map>
#include <thread>
#include <unordered_set>

namespace octaphon {
namespace {

constexpr int kTries = 16;
constexpr auto kPatience = std::chrono::seconds(20);  // shares hold the common receipt for moments

std::string shareName(const Share& share) {
  return "octaphon-receipt." + std::to_string(share.index) + "-of-" + std::to_string(share.of) + ".jsonl";
}

/// Whether the open file is the one that has the receipt's name.
bool isNamed(const SafeFolder& folder, const std::string& name, int fd) {
  const auto named = folder.openFile(name);
  const auto own = identityOf(fd);
  const auto there = named ? identityOf(named->get()) : std::nullopt;
  return own && there && own->device == there->device && own->inode == there->inode;
}

Error busy(const std::string& place) {
  return {ErrorCode::Busy, place, "another run is writing into this folder",
          "Wait for it to end, or choose another folder"};
}

bool tryLock(int fd) { return ::flock(fd, LOCK_EX | LOCK_NB) == 0; }

Result<> syncData(int fd, const std::string& place) {
  if (::fdatasync(fd) != 0) return tl::unexpected(systemError(errno, place, ErrorCode::NotWritable));
  return {};
}

}  // namespace

ReceiptJournal::ReceiptJournal(SafeFolder folder, std::string name)
    : folder_(std::move(folder)), name_(std::move(name)), place_((folder_.path() / name_).string()) {}

/// Another run may give the name to a new file between opening and locking: then that one.
Result<> ReceiptJournal::lock(bool waits) {
  const auto end = std::chrono::steady_clock::now() + kPatience;
  for (int tries = 0; tries < kTries;) {
    OCTAPHON_ASSIGN(handle_, folder_.openForAppend(name_));
    if (tryLock(handle_.get())) {
      if (isNamed(folder_, name_, handle_.get())) return {};
      ++tries;
    } else if (!waits || std::chrono::steady_clock::now() > end) {
      break;
    } else {
      std::this_thread::sleep_for(std::chrono::milliseconds(20));
    }
  }
  handle_.reset();
  return tl::unexpected(busy(place_));
}

/// What a crash cut off was never acted on: files get their names after their lines.
Result<> ReceiptJournal::endTornLine() {
  const auto stamp = stampOf(handle_.get());
  if (!stamp || stamp->size == 0) return writeAll(handle_.get(), Receipt::head(), place_);
  char last = '\n';
  if (::pread(handle_.get(), &last, 1, static_cast<off_t>(stamp->size) - 1) != 1 || last == '\n') return {};
  OCTAPHON_ASSIGN(const std::string text, readAll(handle_.get(), kMaxReceiptBytes, place_));
  const std::size_t whole = Receipt::wholeLines(text).size();
  if (whole == text.size()) return writeAll(handle_.get(), "\n", place_);
  if (::ftruncate(handle_.get(), static_cast<off_t>(whole)) != 0)
    return tl::unexpected(systemError(errno, place_, ErrorCode::NotWritable));
  return whole == 0 ? writeAll(handle_.get(), Receipt::head(), place_) : Result<>();
}

Result<ReceiptJournal> ReceiptJournal::openAs(const SafeFolder& folder, const std::string& name, bool waits) {
  ReceiptJournal journal(folder, name);
  OCTAPHON_TRY(journal.lock(waits));
  OCTAPHON_TRY(journal.endTornLine());
  return journal;
}

Result<ReceiptJournal> ReceiptJournal::open(const SafeFolder& folder, const Share& share) {
  OCTAPHON_ASSIGN(ReceiptJournal common, openAs(folder, std::string(kReceiptName), !share.isAll()));
  if (share.isAll()) {
    OCTAPHON_TRY(common.takeShares());
    common.known_ = Receipt::load(folder);
    return common;
  }
  OCTAPHON_ASSIGN(ReceiptJournal own, openAs(folder, shareName(share), false));
  own.shared_ = std::move(common.handle_);
  own.known_ = Receipt::load(folder);
  return own;
}

/// A run that was ended while it joined shares had taken some of them, and the head is in every one.
static std::string linesNotIn(const std::string& own, const std::string& lines) {
  const auto linesOf = [](std::string_view text) {
    std::vector<std::string_view> found;
    for (std::size_t end; (end = text.find('\n')) != std::string_view::npos; text.remove_prefix(end + 1))
      found.push_back(text.substr(0, end + 1));
    return found;
  };
  const std::vector<std::string_view> known = linesOf(own);
  const std::unordered_set<std::string_view> there(known.begin(), known.end());
  std::string text;
  for (const std::string_view line : linesOf(lines))
    if (!there.contains(line)) text += line;
  return text;
}

/// Their lines become the receipt's. One that is being written is another run's.
Result<> ReceiptJournal::takeShares() {
  std::vector<ReceiptJournal> shares;
  for (const std::string& name : sharesIn(folder_)) {
    OCTAPHON_ASSIGN(ReceiptJournal share, openAs(folder_, name, false));
    shares.push_back(std::move(share));
  }
  if (shares.empty()) return {};
  OCTAPHON_ASSIGN(const std::string own, readAll(handle_.get(), kMaxReceiptBytes, place_));
  std::string text;
  for (const ReceiptJournal& share : shares) {
    OCTAPHON_ASSIGN(const std::string lines, readAll(share.handle_.get(), kMaxReceiptBytes, share.place_));
    text += linesNotIn(own, lines);
  }
  OCTAPHON_TRY(write(handle_, text));
  OCTAPHON_TRY(syncData(handle_.get(), place_));
  for (const ReceiptJournal& share : shares) OCTAPHON_TRY(folder_.remove(share.name_));
  return {};
}

/// All of it or nothing: what did not go onto the disk is not known, and leaves no half line.
Result<> ReceiptJournal::write(const FileHandle& to, const std::string& text) {
  if (text.empty()) return {};
  const auto before = stampOf(to.get());
  const Result<> written = writeAll(to.get(), text, place_);
  if (written)
    known_.add(text);
  else if (before)
    (void)::ftruncate(to.get(), static_cast<off_t>(before->size));
  return written;
}

Result<> ReceiptJournal::append(const std::vector<ReceiptLine>& lines, bool sync,
                                const std::vector<Measured>& measured) {
  if (!isNamed(folder_, name_, handle_.get())) OCTAPHON_TRY(restore());
  std::string text;
  for (const Measured& one : measured)
    if (!known_.has(one)) text += Receipt::asText(one);
  for (const ReceiptLine& line : lines)
    if (!known_.has(line)) text += Receipt::asText(line);
  OCTAPHON_TRY(write(handle_, text));
  return sync ? syncData(handle_.get(), place_) : Result<>();
}

Result<> ReceiptJournal::begin(const Edition& edition) {
  return write(shared_ ? shared_ : handle_, Receipt::asText(edition));
}

Result<> ReceiptJournal::begin(const std::string& brief, const StickyNumbers& numbers, bool anew) {
  const auto found = known_.numbers().find(brief);
  const StickyNumbers there = found == known_.numbers().end() || anew ? StickyNumbers() : found->second;
  std::string text = anew && found != known_.numbers().end() ? Receipt::numbersAnew(brief) : std::string();
  if (there.most != numbers.most) text += Receipt::asText(brief, numbers.most);
  std::map<std::string, PairNumbers> anyNew;
  for (const auto& [pair, given] : numbers.pairs) {
    const auto before = there.pairs.find(pair);
    if (before == there.pairs.end() || before->second != given) anyNew.emplace(pair, given);
  }
  text += Receipt::asText(brief, anyNew);
  return write(shared_ ? shared_ : handle_, text);
}

Result<> ReceiptJournal::begin(const std::string& brief, const std::vector<Accepted>& accepted) {
  const auto found = known_.accepted().find(brief);
  const bool isSame = found == known_.accepted().end() ? accepted.empty() : found->second == accepted;
  return isSame ? Result<>() : write(shared_ ? shared_ : handle_, Receipt::acceptedAnew(brief, accepted));
}

Result<> ReceiptJournal::begin(const DeliveredBrief& brief) {
  const auto found = known_.briefs().find(brief.brief);
  const bool isSame = found != known_.briefs().end() && found->second == brief;
  return isSame ? Result<>() : write(shared_ ? shared_ : handle_, Receipt::asText(brief));
}

Result<> ReceiptJournal::beginOutline(const std::string& session, const std::string& outline) {
  const auto found = known_.outlines().find(session);
  const bool isSame = found != known_.outlines().end() && found->second == outline;
  return isSame ? Result<>() : write(shared_ ? shared_ : handle_, Receipt::outline(session, outline));
}

Result<> ReceiptJournal::noteList(const HandedList& list, bool sync) {
  OCTAPHON_TRY(write(handle_, Receipt::asText(list)));
  return sync ? syncData(handle_.get(), place_) : Result<>();
}

void ReceiptJournal::settle() { shared_.reset(); }

/// What was in it is still to be had: the file is open, only its name is gone.
Result<> ReceiptJournal::restore() {
  wasLost_ = true;
  OCTAPHON_ASSIGN(const std::string before, readAll(handle_.get(), kMaxReceiptBytes, place_));
  OCTAPHON_ASSIGN(ReceiptJournal anew, openAs(folder_, name_, false));
  OCTAPHON_TRY(writeAll(anew.handle_.get(), before, place_));
  handle_ = std::move(anew.handle_);
  return {};
}

Result<> ReceiptJournal::compact() {
  if (!isNamed(folder_, name_, handle_.get())) OCTAPHON_TRY(restore());
  if (name_ != kReceiptName) return {};
  OCTAPHON_ASSIGN(const Receipt receipt, Receipt::read(handle_.get(), place_));
  // Damaged lines may still be of use to someone.
  if (receipt.damagedLines() > 0 || !receipt.paysToCompact()) return {};
  OCTAPHON_ASSIGN(PendingFile file, folder_.create(kReceiptName));
  OCTAPHON_TRY(writeAll(file.fd(), receipt.compacted(), place_));
  OCTAPHON_TRY(file.sync());
  // It is locked already, so that no other run can come between.
  OCTAPHON_ASSIGN(handle_, file.publishOpen());
  return {};
}

}  // namespace octaphon
