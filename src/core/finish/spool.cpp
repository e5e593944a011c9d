#include "finish/spool.h"

#include <fcntl.h>
#include <sys/mman.h>
#include <unistd.h>

#include <algorithm>
#include <cerrno>

#include "base/files.h"

namespace octaphon {

float* MemoryBudget::take() {
  const std::scoped_lock lock(mutex_);
  if (unused_.empty()) addSlab();
  if (unused_.empty()) return nullptr;
  float* const piece = unused_.back();
  unused_.pop_back();
  return piece;
}

void MemoryBudget::giveBack(float* piece) {
  const std::scoped_lock lock(mutex_);
  unused_.push_back(piece);
}

/// As large as the pages that the system clears at once.
void MemoryBudget::addSlab() {
  constexpr std::size_t kPiece = kPieceSamples * sizeof(float), kSlab = 2u << 20;
  const std::size_t bytes = std::min(kSlab, left_) / kPiece * kPiece;
  if (bytes == 0) return;
  auto* const slab = static_cast<float*>(std::aligned_alloc(bytes == kSlab ? kSlab : kPiece, bytes));
  if (slab == nullptr) return;
  slabs_.emplace_back(slab);
  left_ -= bytes;
#if defined(MADV_HUGEPAGE)
  if (bytes == kSlab) (void)::madvise(slab, kSlab, MADV_HUGEPAGE);
#endif
  for (std::size_t at = 0; at < bytes / kPiece; ++at) unused_.push_back(slab + at * kPieceSamples);
}

Result<int> Spool::file() {
  if (!file_) {
    OCTAPHON_ASSIGN(PendingFile made, open_());
    made.dropName();
    file_ = std::move(made);
  }
  return file_->fd();
}

Result<std::uint64_t> Spool::write(const void* bytes, std::size_t size) {
  std::uint64_t place;
  int fd;
  {
    const std::scoped_lock lock(mutex_);
    OCTAPHON_ASSIGN(fd, file());
    place = end_;
    end_ += size;
  }
  for (std::size_t done = 0; done < size;) {
    const ssize_t written =
        ::pwrite(fd, static_cast<const char*>(bytes) + done, size - done, static_cast<off_t>(place + done));
    if (written < 0 && errno == EINTR) continue;
    if (written <= 0)
      return tl::unexpected(systemError(errno, "sound that waits for its level", ErrorCode::NotWritable));
    done += static_cast<std::size_t>(written);
  }
  return place;
}

Result<> Spool::read(std::uint64_t place, void* bytes, std::size_t size) {
  const int fd = file_->fd();
  for (std::size_t done = 0; done < size;) {
    const ssize_t read =
        ::pread(fd, static_cast<char*>(bytes) + done, size - done, static_cast<off_t>(place + done));
    if (read < 0 && errno == EINTR) continue;
    if (read <= 0) return fail(ErrorCode::NotReadable, "sound that waits for its level");
    done += static_cast<std::size_t>(read);
  }
  return {};
}

void Spool::forget([[maybe_unused]] std::uint64_t place, [[maybe_unused]] std::size_t size) {
#if defined(FALLOC_FL_PUNCH_HOLE)
  (void)::fallocate(file_->fd(), FALLOC_FL_PUNCH_HOLE | FALLOC_FL_KEEP_SIZE, static_cast<off_t>(place),
                    static_cast<off_t>(size));
#endif
}

}  // namespace octaphon
