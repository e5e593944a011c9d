#include "check/file_seam.h"

#include <algorithm>

#include "formats/file_facts.h"
#include "media/planar_file.h"

namespace octaphon {
namespace {

/// What is decoded from its start is read in one go; else what is left out is passed over.
Result<> readInto(HeardLoop& heard, SoundFile& file, const std::string& name) {
  const bool mayPassOver = !file.info().isLossy;
  if (mayPassOver && !file.seek(heard.first)) return fail(ErrorCode::MediumUnreadable, name);
  PlanarFile turns(file);
  for (Frame at = file.position(); at < heard.last;) {
    const Frame read = turns.read(heard.last - at);
    if (read <= 0) return fail(ErrorCode::MediumUnreadable, name, "it ends before its header says");
    heard.take(turns.channels(), at, read);
    at += read;
    if (!mayPassOver || at < heard.headTo || at >= heard.tailFrom) continue;
    if (!file.seek(heard.tailFrom)) return fail(ErrorCode::MediumUnreadable, name);
    at = heard.tailFrom;
  }
  return {};
}

std::optional<LoopPlace> loopNamedBy(const std::filesystem::path& file) {
  const Result<FileFacts> marks = readFileFacts(file);
  if (!marks || marks->loops.empty()) return std::nullopt;
  const FileLoop& loop = marks->loops.front();
  return LoopPlace{loop.start, loop.end - loop.start};
}

/// The loop that is asked for, or that the file names, or all of it.
Result<LoopPlace> loopIn(const std::filesystem::path& path, std::optional<LoopPlace> place, Frame frames) {
  if (frames <= 0) return fail(ErrorCode::NothingLeft, path.string(), "there is no sound in it");
  if (!place) place = loopNamedBy(path);
  const LoopPlace loop = place.value_or(LoopPlace{0, frames});
  if (loop.start >= 0 && loop.length > 0 && loop.start < frames && loop.length <= frames - loop.start)
    return loop;
  return fail(ErrorCode::BadValue, path.string(),
              "the loop of " + std::to_string(loop.length) + " frames from frame " +
                  std::to_string(loop.start) + " on does not lie in its " + std::to_string(frames) +
                  " frames",
              "Give one that does with --start and --length");
}

}  // namespace

Result<FoundSeam> seamOf(const std::filesystem::path& path, std::optional<LoopPlace> place, double searchMs) {
  OCTAPHON_ASSIGN(SoundFile file, SoundFile::open(path));
  const SoundInfo& info = file.info();
  OCTAPHON_ASSIGN(const LoopPlace loop, loopIn(path, place, info.frames));
  const Frame reach = framesOf(searchMs / 1000, info.rate);
  HeardLoop heard = HeardLoop::around(loop, reach, info.rate, info.channels, {0, info.frames});
  OCTAPHON_TRY(readInto(heard, file, path.string()));
  return judged(std::move(heard), loop, reach);
}

Result<FoundSeam> overlapSeamOf(const std::filesystem::path& path) {
  OCTAPHON_ASSIGN(SoundFile file, SoundFile::open(path));
  const SoundInfo& info = file.info();
  OCTAPHON_ASSIGN(const LoopPlace lap, loopIn(path, std::nullopt, info.frames));
  const LoopPlace whole{0, info.frames}, all{0, lap.length};
  HeardLoop read = HeardLoop::around(whole, info.frames, info.rate, info.channels, whole);
  OCTAPHON_TRY(readInto(read, file, path.string()));
  HeardLoop heard = HeardLoop::around(all, lap.length, info.rate, info.channels, all);
  heard.sound = overlaid(read.sound, lap.start, lap.length);
  return judged(std::move(heard), all, 0);
}

}  // namespace octaphon
