#include "check/file_seam.h"

#include <algorithm>
#include <array>

#include "formats/wav_marks.h"
#include "media/sound_file.h"

namespace octaphon {
namespace {

constexpr Frame kTurn = 4096;
constexpr double kAroundSeconds = 10;  // of a loop's beginning and end; the middle of a long one says nothing

/// The part of a file that its seam depends on: all of it, or what lies around beginning and end.
struct Surroundings {
  Lap sound;
  Frame first = 0;      // frame of the file
  Frame cutFrames = 0;  // left out of its middle

  LoopPlace inSound(LoopPlace place) const { return {place.start - first, place.length - cutFrames}; }
  LoopPlace inFile(LoopPlace place) const { return {place.start + first, place.length + cutFrames}; }
};

Result<> readInto(Lap& sound, SoundFile& file, Frame from, Frame to, const std::string& place) {
  const auto channels = static_cast<std::size_t>(file.info().channels);
  std::vector<float> turn(static_cast<std::size_t>(kTurn) * channels);
  if (file.position() != from && !file.seek(from)) return fail(ErrorCode::MediumUnreadable, place);
  while (from < to) {
    const Frame read = file.read(turn.data(), std::min(kTurn, to - from));
    if (read <= 0) return fail(ErrorCode::MediumUnreadable, place, "it ends before its header says");
    for (Frame i = 0; i < read; ++i)
      for (std::size_t c = 0; c < channels; ++c)
        sound.channels[c].push_back(turn[static_cast<std::size_t>(i) * channels + c]);
    from += read;
  }
  return {};
}

Result<Surroundings> surroundingsOf(SoundFile& file, LoopPlace place, Frame reach, const std::string& name) {
  const Frame around = framesOf(kAroundSeconds, file.info().rate);
  const Frame frames = file.info().frames;
  Surroundings s;
  s.sound.rate = file.info().rate;
  s.sound.channels.resize(static_cast<std::size_t>(file.info().channels));
  s.first = std::max<Frame>(0, place.start - reach - around);
  const Frame last = std::min(frames, place.end() + reach + around);
  const Frame headTo = place.start + reach + around;
  const Frame tailFrom = place.end() - reach - around;
  // What is decoded from its start is read in one go.
  if (tailFrom <= headTo || file.info().isLossy) {
    OCTAPHON_TRY(readInto(s.sound, file, s.first, last, name));
    return s;
  }
  OCTAPHON_TRY(readInto(s.sound, file, s.first, headTo, name));
  s.cutFrames = tailFrom - headTo;
  OCTAPHON_TRY(readInto(s.sound, file, tailFrom, last, name));
  return s;
}

std::optional<LoopPlace> loopNamedBy(const std::filesystem::path& file) {
  const Result<WavMarks> marks = readWavMarks(file);
  if (!marks || marks->loops.empty()) return std::nullopt;
  const WavLoop& loop = marks->loops.front();
  return LoopPlace{loop.start, loop.end - loop.start};
}

}  // namespace

Result<FileSeam> seamOf(const std::filesystem::path& path, std::optional<LoopPlace> place, double searchMs) {
  const std::string name = path.string();
  OCTAPHON_ASSIGN(SoundFile file, SoundFile::open(path));
  const Frame frames = file.info().frames;
  if (frames <= 0) return fail(ErrorCode::NothingLeft, name, "there is no sound in it");
  if (!place) place = loopNamedBy(path);
  FileSeam found;
  found.rate = file.info().rate;
  found.place = place.value_or(LoopPlace{0, frames});
  const LoopPlace& loop = found.place;
  if (loop.start < 0 || loop.length <= 0 || loop.start >= frames || loop.length > frames - loop.start)
    return fail(ErrorCode::BadValue, name,
                "the loop of " + std::to_string(loop.length) + " frames from frame " +
                    std::to_string(loop.start) + " on does not lie in its " + std::to_string(frames) +
                    " frames",
                "Give one that does with --start and --length");
  const Frame reach = framesOf(searchMs / 1000, found.rate);
  OCTAPHON_ASSIGN(const Surroundings around, surroundingsOf(file, loop, reach, name));
  const LoopPlace inside = around.inSound(loop);
  found.seam = measureSeam(partOf(around.sound, inside.start, inside.length));
  if (reach > 0) found.candidates = searchLoop(around.sound, inside, {reach});
  for (LoopCandidate& candidate : found.candidates) candidate.place = around.inFile(candidate.place);
  return found;
}

}  // namespace octaphon
