// What a long job and whoever waits for it tell each other. Every member from any thread.
#pragma once

#include <algorithm>
#include <atomic>
#include <cstddef>

namespace octaphon {

struct JobControl {
  std::atomic<bool> isStopped{
      false};  ///< it is to end soon, with ErrorCode::Cancelled, and leave nothing half done
  std::atomic<std::size_t> done{0};
  std::atomic<std::size_t> all{0};  ///< parts of about the same size; 0: nobody knows

  /// 0 … 1; below 0 where nobody knows.
  double portion() const {
    const auto parts = static_cast<double>(all);
    return parts > 0 ? std::min(1.0, static_cast<double>(done) / parts) : -1;
  }
};

// A job that nobody waits for has no control: null.
inline bool isStopped(const JobControl* job) {
  return job != nullptr && job->isStopped.load(std::memory_order_relaxed);
}
inline void expectParts(JobControl* job, std::size_t parts) {
  if (job != nullptr) job->all += parts;
}
inline void finishPart(JobControl* job) {
  if (job != nullptr) job->done.fetch_add(1, std::memory_order_relaxed);
}

}  // namespace octaphon
