// Smallest and largest sample of stretches of a medium, over all its channels, for drawing it at any zoom.
#pragma once

#include <atomic>
#include <cstdint>
#include <filesystem>
#include <memory>
#include <vector>

#include "base/frames.h"
#include "base/result.h"
#include "media/media_cache.h"

namespace octaphon {

struct Peak {
  std::int16_t low = 0;  ///< full scale is ±32767; more is cut
  std::int16_t high = 0;
};

class Overview {
 public:
  static constexpr Frame kFinest =
      256;                         ///< frames of the medium, at its own rate, in a peak of the finest level
  static constexpr int kStep = 4;  ///< peaks of a level that make one of the next

  explicit Overview(std::vector<Peak> finest, Frame frames);

  Frame frames() const { return frames_; }
  /// Range over [from, to), in frames of the medium; from the coarsest level that still tells stretches of
  /// that length apart.
  Peak range(Frame from, Frame to) const;
  const std::vector<Peak>& finest() const { return levels_.front(); }

 private:
  std::vector<std::vector<Peak>> levels_;
  Frame frames_;
};

/// From the cache, or by reading the file and then kept there.
Result<std::shared_ptr<const Overview>> overviewOf(const std::filesystem::path& file, const Digest& content,
                                                   MediaCache& cache,
                                                   const std::atomic<bool>* cancel = nullptr);

}  // namespace octaphon
