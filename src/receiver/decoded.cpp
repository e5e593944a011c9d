#include "receiver/decoded.h"

#include <sndfile.h>
#include <soxr.h>

#include <algorithm>
#include <cmath>

namespace octaphon::receiver {
namespace {

using File = std::unique_ptr<SNDFILE, decltype(&sf_close)>;

constexpr std::int64_t kMp3Padding = 4608;  // frames that decoders give more or fewer

/// Odd channels to the left, even ones to the right; one is in both.
std::vector<float> inTwoChannels(const std::vector<float>& samples, int channels) {
  const std::size_t frames = samples.size() / static_cast<std::size_t>(channels);
  std::vector<float> two(frames * 2);
  for (std::size_t i = 0; i < frames; ++i)
    for (int c = 0; c < channels; ++c) {
      const float sample = samples[i * static_cast<std::size_t>(channels) + static_cast<std::size_t>(c)];
      if (channels == 1 || c % 2 == 0) two[2 * i] += sample;
      if (channels == 1 || c % 2 == 1) two[2 * i + 1] += sample;
    }
  return two;
}

Outcome<std::vector<float>> converted(const std::vector<float>& two, int from, int to) {
  if (from == to) return two;
  const std::size_t frames = two.size() / 2;
  const auto room = static_cast<std::size_t>(std::llround(static_cast<double>(frames) * to / from));
  std::vector<float> out(room * 2);
  std::size_t used = 0, made = 0;
  const soxr_quality_spec_t quality = soxr_quality_spec(SOXR_VHQ, 0);
  const soxr_error_t error = soxr_oneshot(from, to, 2, two.data(), frames, &used, out.data(), room, &made,
                                          nullptr, &quality, nullptr);
  if (error != nullptr) return tl::unexpected(std::string(error));
  out.resize(made * 2);
  return out;
}

Outcome<std::vector<float>> read(const std::filesystem::path& path, const NamedFile& file) {
  SF_INFO info{};
  const File sound(sf_open(path.c_str(), SFM_READ, &info), &sf_close);
  if (!sound) return tl::unexpected(file.file + ": " + sf_strerror(nullptr));
  if (info.channels != file.channels || info.samplerate != file.rate)
    return tl::unexpected(file.file + " has other channels or another rate than the manifest says");
  std::vector<float> samples;
  std::vector<float> block(static_cast<std::size_t>(65536 * info.channels));
  while (const sf_count_t got = sf_readf_float(sound.get(), block.data(), 65536))
    samples.insert(samples.end(), block.begin(), block.begin() + got * info.channels);
  const auto frames = static_cast<std::int64_t>(samples.size()) / info.channels;
  const bool isMp3 = (info.format & SF_FORMAT_TYPEMASK) == SF_FORMAT_MPEG;
  if (std::abs(frames - file.frames) > (isMp3 ? kMp3Padding : 0))
    return tl::unexpected(file.file + " has " + std::to_string(frames) + " frames, the manifest says " +
                          std::to_string(file.frames));
  return samples;
}

}  // namespace

Outcome<std::shared_ptr<const Decoded>> DecodedFiles::get(const NamedFile& file) {
  if (const auto known = decoded_.find(file.file); known != decoded_.end()) return known->second;
  const auto samples = read(folder_ / file.file, file);
  if (!samples) return tl::unexpected(samples.error());
  auto two = converted(inTwoChannels(*samples, file.channels), file.rate, rate_);
  if (!two) return tl::unexpected(file.file + ": " + two.error());
  auto decoded = std::make_shared<Decoded>();
  decoded->samples = std::move(*two);
  decoded->frames = static_cast<std::int64_t>(decoded->samples.size() / 2);
  decoded->play = file.play;
  decoded->name = file.file;
  const auto here = [&](std::int64_t frame) {
    return std::min<std::int64_t>(decoded->frames,
                                  std::llround(static_cast<double>(frame) * rate_ / file.rate));
  };
  decoded->loopStart = here(file.loopStart);
  decoded->loopEnd = here(file.loopStart + file.loopLength);
  return decoded_[file.file] = std::move(decoded);
}

}  // namespace octaphon::receiver
