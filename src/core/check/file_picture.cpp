#include "check/file_picture.h"

#include <kissfft/kiss_fftr.h>

#include <algorithm>
#include <cmath>
#include <memory>
#include <numbers>
#include <string>

#include "base/denormals.h"
#include "check/opened_sound.h"
#include "level/programme_loudness.h"
#include "media/planar_file.h"

namespace octaphon {
namespace {

class Spectrum {
 public:
  explicit Spectrum(std::size_t size)
      : window_(size),
        in_(size),
        out_(size / 2 + 1),
        fft_(kiss_fftr_alloc(static_cast<int>(size), 0, nullptr, nullptr)) {
    for (std::size_t i = 0; i < size; ++i)
      window_[i] = static_cast<float>(
          0.5 - 0.5 * std::cos(2 * std::numbers::pi * static_cast<double>(i) / static_cast<double>(size)));
  }

  std::size_t bins() const { return out_.size(); }
  /// Amplitudes: of a sine of full scale 1, in the bin that it falls on.
  void add(const float* samples, std::vector<float>& amplitudes) {
    for (std::size_t i = 0; i < in_.size(); ++i) in_[i] = samples[i] * window_[i];
    kiss_fftr(fft_.get(), in_.data(), out_.data());
    const float scale =
        4.0f / static_cast<float>(in_.size());  // half of a sine each side, half by the window
    for (std::size_t i = 0; i < out_.size(); ++i)
      amplitudes[i] = std::max(amplitudes[i], scale * std::hypot(out_[i].r, out_[i].i));
  }

 private:
  struct Free {
    void operator()(kiss_fftr_state* fft) const { kiss_fftr_free(fft); }
  };
  std::vector<float> window_, in_;
  std::vector<kiss_fft_cpx> out_;
  std::unique_ptr<kiss_fftr_state, Free> fft_;
};

std::uint8_t levelOf(float amplitude) {
  const double decibels = amplitude > 0 ? 20 * std::log10(static_cast<double>(amplitude)) : -HUGE_VAL;
  const double part = 1 - decibels / Spectrogram::kLowestDb;
  return static_cast<std::uint8_t>(std::lround(255 * std::clamp(part, 0.0, 1.0)));
}

}  // namespace

double Spectrogram::bandHz(double band) const {
  return kLowestHz * std::pow(rate / 2.0 / kLowestHz, band / static_cast<double>(kBands));
}

double Spectrogram::levelDb(std::size_t column, std::size_t band) const {
  return kLowestDb * (1 - levels[column * kBands + band] / 255.0);
}

Result<FilePicture> pictureOf(int fd, const std::string& place, const std::atomic<bool>& cancel) {
  OCTAPHON_ASSIGN(SoundFile sound, openSound(fd, place));
  const DenormalGuard guard;
  FilePicture picture;
  picture.rate = sound.info().rate;
  WaveMeter wave(sound.info().channels, sound.info().frames, FilePicture::kColumns);
  ProgrammeLoudness loudness(sound.info().channels, picture.rate);
  PlanarFile turns(sound);
  while (const Frame frames = turns.read()) {
    if (cancel) return fail(ErrorCode::Cancelled, place);
    wave.take(turns.channels(), frames);
    loudness.take(turns.channels(), frames);
    picture.frames += frames;
  }
  picture.columns = wave.columns();
  picture.momentary = loudness.momentary();
  return picture;
}

Result<Spectrogram> spectrogramOf(int fd, const std::string& place, const std::atomic<bool>& cancel) {
  OCTAPHON_ASSIGN(SoundFile sound, openSound(fd, place));
  const DenormalGuard guard;
  constexpr std::size_t kSize = 2048;
  constexpr Frame kMostWindows = 12;  // of a column: of long files not every frame is looked at
  const int channels = sound.info().channels;
  Spectrogram picture;
  picture.rate = sound.info().rate;
  std::size_t size = kSize;
  for (int rate = picture.rate; rate > 50000; rate /= 2) size *= 2;
  const auto window = static_cast<Frame>(size);
  const Frame expected = std::max<Frame>(1, sound.info().frames);
  picture.columns =
      std::clamp<std::size_t>(static_cast<std::size_t>(4 * expected / window), 1, Spectrogram::kColumns);
  const Frame step =
      std::max<Frame>(window / 4, expected / (static_cast<Frame>(picture.columns) * kMostWindows));
  Spectrum spectrum(size);
  std::vector<std::vector<float>> amplitudes(picture.columns, std::vector<float>(spectrum.bins(), 0.0f));
  std::vector<float> heard(size / 2, 0.0f);  // from `from` on; silence before the file begins
  Frame from = -window / 2, next = 0;        // the middle of the next window
  const auto analyse = [&](Frame until) {
    for (; next + window / 2 <= until; next += step)
      spectrum.add(heard.data() + (next - window / 2 - from),
                   amplitudes[columnOf(std::max<Frame>(0, next), expected, picture.columns)]);
    const Frame done = std::clamp<Frame>(next - window / 2 - from, 0, static_cast<Frame>(heard.size()));
    heard.erase(heard.begin(), heard.begin() + done);
    from += done;
  };
  PlanarFile turns(sound);
  while (const Frame frames = turns.read()) {
    if (cancel) return fail(ErrorCode::Cancelled, place);
    for (Frame i = 0; i < frames; ++i) {
      float sum = 0;
      for (int c = 0; c < channels; ++c) sum += turns.channels()[c][i];
      heard.push_back(sum / static_cast<float>(channels));
    }
    picture.frames += frames;
    analyse(picture.frames);
  }
  heard.insert(heard.end(), size, 0.0f);
  analyse(picture.frames + window / 2);
  const double hzOfBin = static_cast<double>(picture.rate) / static_cast<double>(size);
  for (const std::vector<float>& column : amplitudes)
    for (std::size_t band = 0; band < Spectrogram::kBands; ++band) {
      const auto at = [&](double edge) {
        const auto bin = static_cast<std::size_t>(std::lround(picture.bandHz(edge) / hzOfBin));
        return std::min(bin, spectrum.bins() - 1);
      };
      const std::size_t first = at(static_cast<double>(band)),
                        last = std::max(first, at(static_cast<double>(band) + 1));
      picture.levels.push_back(
          levelOf(*std::max_element(column.begin() + static_cast<std::ptrdiff_t>(first),
                                    column.begin() + static_cast<std::ptrdiff_t>(last) + 1)));
    }
  return picture;
}

}  // namespace octaphon
