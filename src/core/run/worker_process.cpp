#include "run/worker_process.h"

#include <fcntl.h>
#include <poll.h>
#include <signal.h>
#include <spawn.h>
#include <sys/mman.h>
#include <sys/wait.h>
#include <unistd.h>

#include <algorithm>
#include <cerrno>
#include <cstdlib>
#include <cstring>
#include <filesystem>
#include <new>

#include "base/companion.h"
#include "base/log.h"

extern char** environ;

namespace octaphon {
namespace {

constexpr std::uint64_t kMostText = 1ull << 30;
constexpr int kLookMs = 50;  // how often one that may be stopped looks whether it was

int patience() {
  const char* set = std::getenv("OCTAPHON_WORKER_PATIENCE");
  return set == nullptr ? kWorkerPatience : std::max(1, std::atoi(set));
}

struct Pipe {
  FileHandle read, write;
};

Result<Pipe> makePipe() {
  int ends[2];
  if (::pipe2(ends, O_CLOEXEC) != 0)
    return tl::unexpected(systemError(errno, "a pipe", ErrorCode::NotReadable));
  return Pipe{FileHandle(ends[0]), FileHandle(ends[1])};
}

}  // namespace

std::filesystem::path workerProgram() {
  const char* set = std::getenv("OCTAPHON_WORKER");
  return set != nullptr ? std::filesystem::path(set) : companionFile("octaphon-worker", "worker");
}

Result<WorkerProcess> WorkerProcess::start(const std::string& task, const JobControl* job) {
  ::signal(SIGPIPE, SIG_IGN);  // a worker that ended is told by the write that fails
  const std::string program = workerProgram().string();
  OCTAPHON_ASSIGN(Pipe to, makePipe());
  OCTAPHON_ASSIGN(Pipe from, makePipe());
  FileHandle memory(::memfd_create("octaphon-status", MFD_CLOEXEC));
  if (!memory || ::ftruncate(memory.get(), sizeof(WorkerStatus)) != 0)
    return tl::unexpected(systemError(errno, "shared memory", ErrorCode::NotWritable));
  void* mapped = ::mmap(nullptr, sizeof(WorkerStatus), PROT_READ | PROT_WRITE, MAP_SHARED, memory.get(), 0);
  if (mapped == MAP_FAILED)
    return tl::unexpected(systemError(errno, "shared memory", ErrorCode::NotWritable));

  WorkerProcess worker;
  worker.job_ = job;
  worker.status_ = new (mapped) WorkerStatus;
  posix_spawn_file_actions_t actions;
  posix_spawn_file_actions_init(&actions);
  posix_spawn_file_actions_adddup2(&actions, to.read.get(), STDIN_FILENO);
  posix_spawn_file_actions_adddup2(&actions, from.write.get(), STDOUT_FILENO);
  posix_spawn_file_actions_adddup2(&actions, memory.get(), kWorkerStatusFd);
  // What plug-ins say while they run is theirs, unless someone looks for a fault.
  if (std::getenv("OCTAPHON_WORKER_TALKS") == nullptr)
    posix_spawn_file_actions_addopen(&actions, STDERR_FILENO, "/dev/null", O_WRONLY, 0);
  const char* arguments[]{program.c_str(), task.c_str(), nullptr};
  const int outcome = ::posix_spawn(&worker.pid_, program.c_str(), &actions, nullptr,
                                    const_cast<char* const*>(arguments), environ);
  posix_spawn_file_actions_destroy(&actions);
  if (outcome != 0) {
    worker.pid_ = -1;
    return fail(ErrorCode::NotFound, program, "the program that runs plug-ins cannot be started",
                "Install Octaphon again");
  }
  // A write must not wait for a process that reads no more.
  ::fcntl(to.write.get(), F_SETFL, O_NONBLOCK);
  worker.in_ = std::move(to.write);
  worker.out_ = std::move(from.read);
  return worker;
}

WorkerProcess::WorkerProcess(WorkerProcess&& other) noexcept
    : pid_(other.pid_),
      in_(std::move(other.in_)),
      out_(std::move(other.out_)),
      status_(other.status_),
      job_(other.job_) {
  other.pid_ = -1;
  other.status_ = nullptr;
}

WorkerProcess& WorkerProcess::operator=(WorkerProcess&& other) noexcept {
  std::swap(pid_, other.pid_);
  std::swap(in_, other.in_);
  std::swap(out_, other.out_);
  std::swap(status_, other.status_);
  std::swap(job_, other.job_);
  return *this;
}

WorkerProcess::~WorkerProcess() {
  if (pid_ > 0) {
    ::kill(pid_, SIGKILL);
    ::waitpid(pid_, nullptr, 0);
  }
  if (status_ != nullptr) ::munmap(status_, sizeof(WorkerStatus));
}

Error WorkerProcess::ended() {
  int status = 0;
  std::string how = "it ended";
  if (pid_ > 0 && ::waitpid(pid_, &status, 0) == pid_) {
    pid_ = -1;
    if (WIFSIGNALED(status))
      how = std::string("it crashed (") + strsignal(WTERMSIG(status)) + ")";
    else if (WEXITSTATUS(status) == 9)
      how = "it wanted more memory than there is for it";
  }
  writeLog(LogLevel::Warning, "the program that plug-ins run in: " + how, running());
  return {ErrorCode::PluginFailed, {}, how, "Take it out, or use another one"};
}

/// Waits until the pipe takes or gives something. A process that does neither in time is ended.
Result<> WorkerProcess::waitFor(int fd, short event) {
  const int most = patience() * 1000, look = job_ == nullptr ? most : kLookMs;
  for (int waited = 0; waited < most;) {
    if (isStopped(job_)) return fail(ErrorCode::Cancelled, {}, "it was stopped");
    pollfd waiting{fd, event, 0};
    const int ready = ::poll(&waiting, 1, look);
    if (ready > 0) return {};
    if (ready < 0 && errno != EINTR) return tl::unexpected(ended());
    if (ready == 0) waited += look;
  }
  if (pid_ > 0) ::kill(pid_, SIGKILL);
  (void)ended();
  return fail(ErrorCode::PluginFailed, {}, "it did not come back within " + std::to_string(patience()) + " s",
              "Take it out, or use another one");
}

Result<> WorkerProcess::write(const void* data, std::size_t size) {
  const auto* bytes = static_cast<const char*>(data);
  while (size > 0) {
    OCTAPHON_TRY(waitFor(in_.get(), POLLOUT));
    const ssize_t done = ::write(in_.get(), bytes, size);
    if (done < 0 && (errno == EINTR || errno == EAGAIN)) continue;
    if (done <= 0) return tl::unexpected(ended());
    bytes += done;
    size -= static_cast<std::size_t>(done);
  }
  return {};
}

Result<> WorkerProcess::read(void* data, std::size_t size) {
  auto* bytes = static_cast<char*>(data);
  while (size > 0) {
    OCTAPHON_TRY(waitFor(out_.get(), POLLIN));
    const ssize_t done = ::read(out_.get(), bytes, size);
    if (done < 0 && errno == EINTR) continue;
    if (done <= 0) return tl::unexpected(ended());
    bytes += done;
    size -= static_cast<std::size_t>(done);
  }
  return {};
}

Result<> WorkerProcess::writeText(const std::string& text) {
  const std::uint64_t size = text.size();
  OCTAPHON_TRY(write(&size, sizeof size));
  return write(text.data(), text.size());
}

Result<std::string> WorkerProcess::readText() {
  std::uint64_t size = 0;
  OCTAPHON_TRY(read(&size, sizeof size));
  if (size > kMostText) return fail(ErrorCode::PluginFailed, {}, "it answered nonsense");
  std::string text(static_cast<std::size_t>(size), '\0');
  OCTAPHON_TRY(read(text.data(), text.size()));
  return text;
}

}  // namespace octaphon
