// octaphon-worker, started: a process that may crash, hang or eat memory without taking this one along.
#pragma once

#include <sys/types.h>

#include <string>

#include "base/files.h"
#include "base/job_control.h"
#include "base/result.h"

namespace octaphon {

inline constexpr int kWorkerPatience =
    30;  ///< seconds without an answer: it hangs (OCTAPHON_WORKER_PATIENCE sets others)
inline constexpr std::uint64_t kWorkerMemory = 8ull << 30;  ///< bytes of address space that it may take
inline constexpr int kWorkerStatusFd = 3;                   ///< in the worker: the shared WorkerStatus

/// Shared between the two.
struct WorkerStatus {
  char insert[72] = {};  ///< id of the insert whose plug-in runs; empty: none
};

/// Where it lies: beside this program, or where OCTAPHON_WORKER says.
std::filesystem::path workerProgram();

class WorkerProcess {
 public:
  /// `task`: `list`, `describe` or `play`. The program lies beside this one, or where OCTAPHON_WORKER says.
  /// Once `job` is stopped nothing is waited for any more: reading and writing give Cancelled.
  static Result<WorkerProcess> start(const std::string& task, const JobControl* job = nullptr);
  WorkerProcess(WorkerProcess&& other) noexcept;
  WorkerProcess& operator=(WorkerProcess&& other) noexcept;
  ~WorkerProcess();  ///< ends it, at once

  /// All of it; PluginFailed where it ended or does not take it in time.
  Result<> write(const void* data, std::size_t size);
  /// Exactly `size` bytes; PluginFailed where it ended or does not answer in time.
  Result<> read(void* data, std::size_t size);
  /// A text with its length before it.
  Result<> writeText(const std::string& text);
  Result<std::string> readText();

  /// Id of the insert that was running; empty where none was.
  std::string running() const { return status_ == nullptr ? std::string() : std::string(status_->insert); }

 private:
  WorkerProcess() = default;
  Result<> waitFor(int fd, short event);
  Error ended();

  pid_t pid_ = -1;
  FileHandle in_, out_;
  WorkerStatus* status_ = nullptr;
  const JobControl* job_ = nullptr;
};

}  // namespace octaphon
