#include "media/overview.h"

#include <algorithm>
#include <cmath>
#include <cstring>

#include "base/pending_file.h"
#include "media/sound_file.h"

namespace octaphon {
namespace {

constexpr std::string_view kHead = "octaphon-overview-1\n";

Peak merged(const Peak& a, const Peak& b) { return {std::min(a.low, b.low), std::max(a.high, b.high)}; }

std::int16_t asInteger(float sample) {
  if (!(sample == sample)) return 0;
  return static_cast<std::int16_t>(std::lround(std::clamp(sample, -1.0f, 1.0f) * 32767.0f));
}

Peak peakOf(const float* samples, std::size_t count) {
  const auto [low, high] = std::minmax_element(samples, samples + count);
  return {asInteger(*low), asInteger(*high)};
}

std::string encoded(const Overview& overview) {
  const std::vector<Peak>& peaks = overview.finest();
  const std::int64_t frames = overview.frames();
  std::string text(kHead);
  text.append(reinterpret_cast<const char*>(&frames), sizeof frames);
  text.append(reinterpret_cast<const char*>(peaks.data()), peaks.size() * sizeof(Peak));
  return text;
}

std::shared_ptr<const Overview> decoded(std::string_view text) {
  std::int64_t frames = 0;
  if (!text.starts_with(kHead) || text.size() < kHead.size() + sizeof frames) return nullptr;
  text.remove_prefix(kHead.size());
  std::memcpy(&frames, text.data(), sizeof frames);
  text.remove_prefix(sizeof frames);
  const auto wanted = static_cast<std::uint64_t>((frames + Overview::kFinest - 1) / Overview::kFinest);
  if (frames < 0 || text.size() != wanted * sizeof(Peak)) return nullptr;
  std::vector<Peak> peaks(wanted);
  std::memcpy(peaks.data(), text.data(), text.size());
  return std::make_shared<Overview>(std::move(peaks), frames);
}

Result<std::shared_ptr<const Overview>> measured(const std::filesystem::path& path,
                                                 const std::atomic<bool>* cancel) {
  OCTAPHON_ASSIGN(SoundFile file, SoundFile::open(path));
  const auto channels = static_cast<std::size_t>(file.info().channels);
  constexpr Frame kTurn = 64 * Overview::kFinest;
  std::vector<float> samples(static_cast<std::size_t>(kTurn) * channels);
  std::vector<Peak> peaks;
  Frame frames = 0;
  while (const Frame got = file.read(samples.data(), kTurn)) {
    if (cancel != nullptr && cancel->load(std::memory_order_relaxed))
      return fail(ErrorCode::Cancelled, path.string());
    for (Frame at = 0; at < got; at += Overview::kFinest) {
      const auto count = static_cast<std::size_t>(std::min(Overview::kFinest, got - at)) * channels;
      peaks.push_back(peakOf(samples.data() + static_cast<std::size_t>(at) * channels, count));
    }
    frames += got;
  }
  return std::make_shared<const Overview>(std::move(peaks), frames);
}

}  // namespace

Overview::Overview(std::vector<Peak> finest, Frame frames) : frames_(frames) {
  levels_.push_back(std::move(finest));
  while (levels_.back().size() > kStep) {
    const std::vector<Peak>& fine = levels_.back();
    std::vector<Peak> coarse((fine.size() + kStep - 1) / kStep);
    for (std::size_t i = 0; i < fine.size(); ++i)
      coarse[i / kStep] = i % kStep == 0 ? fine[i] : merged(coarse[i / kStep], fine[i]);
    levels_.push_back(std::move(coarse));
  }
}

Peak Overview::range(Frame from, Frame to) const {
  from = std::clamp<Frame>(from, 0, frames_);
  to = std::clamp<Frame>(to, from, frames_);
  if (to == from) return {};
  std::size_t level = 0;
  Frame width = kFinest;
  while (level + 1 < levels_.size() && width * kStep <= to - from) {
    ++level;
    width *= kStep;
  }
  const std::vector<Peak>& peaks = levels_[level];
  const auto first = static_cast<std::size_t>(from / width);
  const auto last = std::min(peaks.size(), static_cast<std::size_t>((to + width - 1) / width));
  Peak result = peaks[std::min(first, peaks.size() - 1)];
  for (std::size_t i = first + 1; i < last; ++i) result = merged(result, peaks[i]);
  return result;
}

Result<std::shared_ptr<const Overview>> overviewOf(const std::filesystem::path& file, const Digest& content,
                                                   MediaCache& cache, const std::atomic<bool>* cancel) {
  const std::filesystem::path kept = cache.pathFor(content, kOverview);
  if (const auto text = readFile(kept, 1ull << 30))
    if (auto overview = decoded(*text)) return overview;
  OCTAPHON_ASSIGN(std::shared_ptr<const Overview> overview, measured(file, cancel));
  // A cache that cannot be written only costs time.
  (void)replaceFile(kept, encoded(*overview));
  return overview;
}

}  // namespace octaphon
