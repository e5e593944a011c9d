#include "check/read_back.h"

#include <algorithm>
#include <cmath>

#include "base/denormals.h"
#include "check/file_seam.h"
#include "check/opened_sound.h"
#include "level/level_meter.h"
#include "media/planar_file.h"

namespace octaphon {
namespace {

/// From the order of the file into ours.
SoundFigures inOurOrder(SoundFigures figures, const EncodingInfo* encoding) {
  const auto channels = static_cast<int>(figures.channels.size());
  if (encoding == nullptr || channels > kMostFileChannels) return figures;
  const auto order = channelOrder(encoding->encoding, channels);
  SoundFigures ours = figures;
  for (std::size_t c = 0; c < figures.channels.size(); ++c)
    ours.channels[static_cast<std::size_t>(order[c])] = figures.channels[c];
  return ours;
}

/// The largest sample of the last frames, whatever turns they come in.
class EndMeter {
 public:
  EndMeter(int channels, Frame frames) : channels_(channels), most_(std::max<Frame>(1, frames)) {}

  void take(const float* const* channels, Frame frames) {
    const Frame kept = std::min(frames, most_);
    for (Frame i = frames - kept; i < frames; ++i) {
      float peak = 0;
      for (int c = 0; c < channels_; ++c) peak = std::max(peak, std::fabs(channels[c][i]));
      peaks_.push_back(peak);
    }
    if (const auto over = static_cast<Frame>(peaks_.size()) - most_; over > 0)
      peaks_.erase(peaks_.begin(), peaks_.begin() + over);
  }
  float peak() const { return peaks_.empty() ? 0 : *std::max_element(peaks_.begin(), peaks_.end()); }

 private:
  int channels_;
  Frame most_;
  std::vector<float> peaks_;  // of the last frames
};

Result<> decode(int fd, const std::string& place, const ReadBackAsked& asked, Jobs jobs, ReadBack& read) {
  const EncodingInfo* encoding = encodingNamed(read.facts.encoding);
  OCTAPHON_ASSIGN(SoundFile sound, openSound(fd, place));
  const DenormalGuard guard;
  const int channels = sound.info().channels;
  PlanarFile turns(sound);
  FiguresMeter figures(channels, encoding != nullptr && encoding->isInteger ? encoding->bits : 0, true);
  LevelMeter levels(channels, sound.info().rate, asked.measures);
  EndMeter end(channels, static_cast<Frame>(kEndSeconds * sound.info().rate));
  WaveMeter wave(channels, sound.info().frames, asked.wave);
  Hasher samples;
  const bool isMetered = asked.measures.truePeak || asked.measures.loudness;
  while (const Frame frames = turns.read()) {
    if (isAnyStopped(jobs)) return fail(ErrorCode::Cancelled, place);
    figures.take(turns.channels(), frames);
    end.take(turns.channels(), frames);
    wave.take(turns.channels(), frames);
    if (isMetered) levels.take(turns.channels(), frames);
    for (int c = 0; c < channels; ++c)
      samples.bytes(turns.channels()[c], static_cast<std::size_t>(frames) * sizeof(float));
  }
  levels.end();
  read.figures = inOurOrder(figures.figures(), encoding);
  read.samples = samples.digest();
  read.endPeak = end.peak();
  read.wave = wave.columns();
  if (isMetered) read.levels = levels.levels();
  for (const ChannelFigures& channel : read.figures.channels)  // the largest of NaN and others is another
    if (!std::isfinite(channel.energy)) return fail(ErrorCode::NotFinite, place);
  if (!sound.info().isEstimated && read.figures.frames < sound.info().frames)
    return fail(ErrorCode::MediumUnreadable, place, "it ends before its header says");
  return {};
}

}  // namespace

const EncodingInfo* encodingNamed(std::string_view name) {
  const auto found = std::find_if(kEncodings.begin(), kEncodings.end(),
                                  [&](const EncodingInfo& info) { return info.name == name; });
  return found == kEncodings.end() ? nullptr : &*found;
}

ReadBackAsked readBackAskedOf(std::optional<double> ceilingDb, std::optional<double> lufs) {
  ReadBackAsked asked;
  asked.measures = {ceilingDb.has_value(), lufs.has_value()};
  return asked;
}

Result<ReadBack> readBack(const SafeFolder& folder, const std::string& file, const ReadBackAsked& asked,
                          Jobs jobs) {
  OCTAPHON_ASSIGN(const FileHandle handle, folder.openFile(file));
  const auto before = identityOf(handle.get());
  if (!before) return fail(ErrorCode::NotReadable, file);
  ReadBack read;
  read.bytes = before->size;
  read.identity = *before;
  OCTAPHON_ASSIGN(read.facts, readFileFacts(bytesOfFile(handle.get(), before->size), file));
  OCTAPHON_ASSIGN(read.content, digestOf(handle.get(), file, std::min(read.facts.soundAt, before->size)));
  if (asked.decodes) OCTAPHON_TRY(decode(handle.get(), file, asked, jobs, read));
  if (asked.seam)
    if (const auto seam = seamOf(pathOf(handle.get()), std::nullopt, 0)) read.seam = seam->seam.score;
  const auto after = identityOf(handle.get());
  if (!after || after->size != before->size || after->modified != before->modified)
    return fail(ErrorCode::Occupied, file, "it changed while it was read",
                "Check it again when it is written");
  return read;
}

}  // namespace octaphon
