#include "check/file_sum.h"

#include <algorithm>
#include <cmath>

#include "media/planar_file.h"

namespace octaphon {
namespace {

constexpr double kFloatLimitDb = -120;
constexpr double kRoomDb = 1;
constexpr int kFloatBits = 24;  // that samples are rounded to, and decoded with, in wider files too
constexpr Frame kMostSamples = 4'000'000;  // held at once

/// Stretch by stretch, so that long files take little memory and many layers few handles.
class Residual {
 public:
  Residual(const SafeFolder& folder, std::string mix, const std::vector<std::string>& layers)
      : folder_(folder), mix_(std::move(mix)), layers_(layers) {}

  Result<> measure() {
    OCTAPHON_ASSIGN(const auto handle, folder_.openFile(mix_));
    OCTAPHON_ASSIGN(SoundFile mix, SoundFile::open(pathOf(handle)));
    info_ = mix.info();
    left_.resize(static_cast<std::size_t>(info_.channels));
    const Frame most = std::max<Frame>(PlanarFile::kTurn, kMostSamples / info_.channels);
    for (Frame at = 0; at < info_.frames; at += most)
      OCTAPHON_TRY(measure(at, std::min(most, info_.frames - at)));
    return {};
  }

  /// Over full scale, or over the loudest layer where that is louder.
  double peakDb() const { return levelDb(peak_ / loudest_); }
  /// Of the worst channel.
  double rmsDb() const {
    const double energy = *std::max_element(energy_.begin(), energy_.end());
    return levelDb(std::sqrt(energy / static_cast<double>(std::max<Frame>(1, info_.frames))));
  }

 private:
  static std::string pathOf(const FileHandle& handle) {
    return "/proc/self/fd/" + std::to_string(handle.get());
  }
  static double levelDb(double factor) {
    return factor > 0 ? std::max(-200.0, 20 * std::log10(factor)) : -200;
  }

  Result<> measure(Frame at, Frame frames) {
    for (std::vector<double>& channel : left_) channel.assign(static_cast<std::size_t>(frames), 0);
    OCTAPHON_TRY(add(mix_, 1, at, frames));
    for (const std::string& layer : layers_) OCTAPHON_TRY(add(layer, -1, at, frames));
    energy_.resize(left_.size());
    for (std::size_t c = 0; c < left_.size(); ++c)
      for (const double sample : left_[c]) {
        peak_ = std::max(peak_, std::fabs(sample));
        energy_[c] += sample * sample;
      }
    return {};
  }

  Result<> add(const std::string& file, double factor, Frame at, Frame frames) {
    OCTAPHON_ASSIGN(const auto handle, folder_.openFile(file));
    OCTAPHON_ASSIGN(SoundFile sound, SoundFile::open(pathOf(handle)));
    const SoundInfo& info = sound.info();
    if (info.channels != info_.channels || info.rate != info_.rate || info.frames != info_.frames)
      return fail(ErrorCode::BadValue, file, "it is not as its mix is");
    if (at > 0 && !sound.seek(at)) return fail(ErrorCode::MediumUnreadable, file);
    PlanarFile turns(sound);
    for (Frame done = 0; done < frames;) {
      const Frame read = turns.read(std::min(PlanarFile::kTurn, frames - done));
      if (read <= 0) return fail(ErrorCode::MediumUnreadable, file, "it ends before its header says");
      for (std::size_t c = 0; c < left_.size(); ++c)
        for (Frame i = 0; i < read; ++i) {
          const double sample = turns.channels()[c][i];
          left_[c][static_cast<std::size_t>(done + i)] += factor * sample;
          loudest_ = std::max(loudest_, std::fabs(sample));
        }
      done += read;
    }
    return {};
  }

  const SafeFolder& folder_;
  std::string mix_;
  const std::vector<std::string>& layers_;
  SoundInfo info_;
  std::vector<std::vector<double>> left_;  // of the stretch
  std::vector<double> energy_;             // of all of it, by channel
  double peak_ = 0, loudest_ = 1;
};

}  // namespace

Result<FileSum> sumOf(const SafeFolder& folder, const std::vector<std::string>& layers,
                      const std::string& mix, int bits) {
  Residual residual(folder, mix, layers);
  OCTAPHON_TRY(residual.measure());
  if (bits == 0) return FileSum{residual.peakDb(), kFloatLimitDb};
  const double step = std::ldexp(1.0, 1 - std::min(bits, kFloatBits));
  const double files = static_cast<double>(layers.size() + 1);
  return FileSum{residual.rmsDb(), 10 * std::log10(files * step * step / 12 * 3) + kRoomDb};
}

}  // namespace octaphon
