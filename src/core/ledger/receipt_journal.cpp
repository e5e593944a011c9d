#include "ledger/receipt_journal.h"

#include <sys/file.h>
#include <unistd.h>

#include <cerrno>

namespace octaphon {
namespace {

constexpr int kTries = 16;

/// Whether the open file is the one that has the receipt's name.
bool isNamed(const SafeFolder& folder, int fd) {
  const auto named = folder.openFile(kReceiptName);
  const auto own = identityOf(fd);
  const auto there = named ? identityOf(named->get()) : std::nullopt;
  return own && there && own->device == there->device && own->inode == there->inode;
}

/// Opens and locks it. Another run may give the name to a new file between the two: then that one.
Result<FileHandle> openLocked(const SafeFolder& folder, const std::string& place) {
  for (int i = 0; i < kTries; ++i) {
    OCTAPHON_ASSIGN(FileHandle handle, folder.openForAppend(kReceiptName));
    if (::flock(handle.get(), LOCK_EX | LOCK_NB) != 0) break;
    if (isNamed(folder, handle.get())) return handle;
  }
  return fail(ErrorCode::Busy, place, "another run is writing into this folder",
              "Wait for it to end, or choose another folder");
}

}  // namespace

Result<ReceiptJournal> ReceiptJournal::open(const SafeFolder& folder) {
  const std::string place = (folder.path() / kReceiptName).string();
  OCTAPHON_ASSIGN(FileHandle handle, openLocked(folder, place));
  const auto stamp = stampOf(handle.get());
  if (stamp && stamp->size == 0) OCTAPHON_TRY(writeAll(handle.get(), Receipt::head(), place));
  // A line cut off by a crash must not swallow the next one.
  char last = '\n';
  if (stamp && stamp->size > 0 && ::pread(handle.get(), &last, 1, static_cast<off_t>(stamp->size) - 1) == 1 &&
      last != '\n')
    OCTAPHON_TRY(writeAll(handle.get(), "\n", place));
  return ReceiptJournal(folder, std::move(handle), place);
}

Result<> ReceiptJournal::append(const std::vector<ReceiptLine>& lines, bool sync,
                                const std::vector<Measured>& measured) {
  if (!isNamed(folder_, handle_.get())) OCTAPHON_TRY(restore());
  std::string text;
  for (const Measured& one : measured) text += Receipt::asText(one);
  for (const ReceiptLine& line : lines) text += Receipt::asText(line);
  OCTAPHON_TRY(writeAll(handle_.get(), text, place_));
  if (sync && ::fdatasync(handle_.get()) != 0)
    return tl::unexpected(systemError(errno, place_, ErrorCode::NotWritable));
  return {};
}

Result<> ReceiptJournal::begin(const Edition& edition) {
  return writeAll(handle_.get(), Receipt::asText(edition), place_);
}

/// What was in it is still to be had: the file is open, only its name is gone.
Result<> ReceiptJournal::restore() {
  wasLost_ = true;
  OCTAPHON_ASSIGN(const std::string before, readAll(handle_.get(), kMaxReceiptBytes, place_));
  OCTAPHON_ASSIGN(ReceiptJournal anew, open(folder_));
  OCTAPHON_TRY(writeAll(anew.handle_.get(), before, place_));
  handle_ = std::move(anew.handle_);
  return {};
}

Result<> ReceiptJournal::compact() {
  if (!isNamed(folder_, handle_.get())) OCTAPHON_TRY(restore());
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
