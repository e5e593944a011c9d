#include "finish/spool.h"

#include <fcntl.h>
#include <unistd.h>

#include <cerrno>

#include "base/files.h"

namespace octaphon {

bool MemoryBudget::take(std::size_t bytes) {
  const auto size = static_cast<std::int64_t>(bytes);
  if (left_.fetch_sub(size) >= size) return true;
  left_ += size;
  return false;
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
