// octaphon-demo FOLDER: puts the Tidewheel session and its sounds into a folder. What is there already stays,
// so that the second time costs nothing. With --session-only FILE it writes the session file that the
// repository keeps; with --chapters FOLDER a small session with its sounds for each chapter of the guide.
#include <cstdio>
#include <string_view>

#include "base/safe_folder.h"
#include "chapters.h"
#include "session/session_file.h"
#include "session/session_json.h"
#include "tidewheel_session.h"
#include "tidewheel_sounds.h"
#include "write/encoder.h"

namespace octaphon::demo {
namespace {

const FileData kPlain{true};

/// FLAC where the name says so, and short of space: as much of a sample as is heard.
Encoding encodingOf(const Recording& recording) {
  return recording.file.ends_with(".flac") ? Encoding::Flac16 : Encoding::Pcm24;
}

Result<> writeSound(const SafeFolder& folder, const Recording& recording) {
  const Sound sound = synthesise(recording);
  const Encoding encoding = encodingOf(recording);
  OCTAPHON_ASSIGN(PendingFile file, folder.create(recording.file));
  OCTAPHON_ASSIGN(const std::unique_ptr<Encoder> writer,
                  openEncoder(file, {encoding, sound.channels, sound.rate}, kPlain, {}));
  const auto fullScale = static_cast<float>((1 << (encodingInfo(encoding).bits - 1)) - 1);
  std::vector<std::int32_t> sides[2];
  for (std::size_t i = 0; i < sound.samples.size(); ++i)
    sides[i % static_cast<std::size_t>(sound.channels)].push_back(
        static_cast<std::int32_t>(sound.samples[i] * fullScale));
  const std::int32_t* channels[]{sides[0].data(), sides[1].data()};
  const auto frames = static_cast<Frame>(sides[0].size());
  OCTAPHON_TRY(writer->write(channels, frames));
  OCTAPHON_TRY(writer->finish(kPlain));
  return file.publish(true);
}

Result<> makeDemo(const char* path) {
  OCTAPHON_ASSIGN(const SafeFolder folder, SafeFolder::open(path, true));
  for (const Recording& recording : recordings())
    if (!folder.openFile(recording.file)) OCTAPHON_TRY(writeSound(folder, recording));
  if (folder.openFile("Tidewheel.octaphon")) return {};
  return replaceFile(folder.path() / "Tidewheel.octaphon", writeSession(tidewheelSession()));
}

Result<> makeChapters(const std::filesystem::path& path) {
  for (const Chapter& chapter : chapters()) {
    OCTAPHON_ASSIGN(const SafeFolder folder, SafeFolder::open(path / chapter.name, true));
    for (const Recording& recording : chapter.recordings) OCTAPHON_TRY(writeSound(folder, recording));
    OCTAPHON_TRY(replaceFile(folder.path() / (chapter.name + ".octaphon"), writeSession(chapter.session)));
  }
  return {};
}

}  // namespace
}  // namespace octaphon::demo

int main(int argc, char** argv) {
  using namespace octaphon;
  Result<> outcome;
  if (argc == 3 && std::string_view(argv[1]) == "--session-only") {
    outcome = replaceFile(argv[2], writeSession(demo::tidewheelSession()));
  } else if (argc == 3 && std::string_view(argv[1]) == "--chapters") {
    outcome = demo::makeChapters(argv[2]);
  } else if (argc == 2 && argv[1][0] != '-') {
    outcome = demo::makeDemo(argv[1]);
  } else {
    std::fprintf(stderr, "usage: octaphon-demo FOLDER | --chapters FOLDER | --session-only FILE\n");
    return 2;
  }
  if (!outcome) std::fprintf(stderr, "octaphon-demo: %s\n", outcome.error().describe().c_str());
  return outcome ? 0 : 1;
}
