// A file as people look at it: its wave, how loud it is as it goes on, and its frequencies.
#pragma once

#include <atomic>
#include <cstdint>
#include <vector>

#include "base/frames.h"
#include "base/result.h"
#include "check/wave_meter.h"

namespace octaphon {

struct FilePicture {
  static constexpr std::size_t kColumns = 800;

  int rate = 0;  ///< Hz
  Frame frames = 0;
  std::vector<WaveColumn> columns = {};  ///< equal stretches of the file, kColumns of them, or one a frame
  /// Momentary loudness (EBU Tech 3341: of 400 ms, no gate), in LUFS, of stretches that begin every 100 ms.
  std::vector<double> momentary = {};
};

struct Spectrogram {
  static constexpr std::size_t kColumns = 400, kBands = 120;
  static constexpr double kLowestHz = 40;    ///< of the lowest band
  static constexpr double kLowestDb = -110;  ///< what is under it is 0

  int rate = 0;
  Frame frames = 0;
  std::size_t columns = 0;  ///< kColumns, or fewer of short files
  std::vector<std::uint8_t>
      levels;  ///< of each column its bands from low to high: 0 … 255, kLowestDb … 0 dBFS

  /// Where a band begins, in Hz; equal ratios up to half the rate.
  double bandHz(double band) const;
  /// Of a sine of full scale 0 dBFS.
  double levelDb(std::size_t column, std::size_t band) const;
};

/// Of an open file, whatever its name is by now. MediumUnreadable; Cancelled.
Result<FilePicture> pictureOf(int fd, const std::string& place, const std::atomic<bool>& cancel);
/// All channels together; of each column several windows of Hann, of 2 048 frames at rates up to 50 kHz: what
/// is loudest in them.
Result<Spectrogram> spectrogramOf(int fd, const std::string& place, const std::atomic<bool>& cancel);

}  // namespace octaphon
