// octaphon-bench-data job FOLDER: 24 stereo tracks of pink noise, 120 s at 48 kHz, 24 bit; a session with 8
// regions of 15 s and a brief for every track and the mix: 200 files. octaphon-bench-data large FOLDER: a
// session of 1 000 tracks, 20 000 clips and 2 000 regions on one short sound, with a brief of 50 sources over
// all regions.
#include <array>
#include <cstdio>
#include <string_view>

#include "base/safe_folder.h"
#include "brief/chooser.h"
#include "session/session_file.h"
#include "session/session_json.h"
#include "write/encoder.h"

namespace octaphon::bench {
namespace {

/// Pink noise by the sum of rows renewed at halved rates (Voss and McCartney).
class Pink {
 public:
  explicit Pink(std::uint64_t seed) : state_(seed) {}
  double next() {
    ++count_;
    const int row = count_ == 0 ? 0 : __builtin_ctz(count_) % 16;
    sum_ -= rows_[static_cast<std::size_t>(row)];
    rows_[static_cast<std::size_t>(row)] = white();
    sum_ += rows_[static_cast<std::size_t>(row)];
    return (sum_ + white()) / 17;
  }

 private:
  double white() {
    state_ ^= state_ << 13;
    state_ ^= state_ >> 7;
    state_ ^= state_ << 17;
    return static_cast<double>(state_ >> 11) * 0x1.0p-52 - 1;
  }
  std::uint64_t state_;
  unsigned count_ = 0;
  std::array<double, 16> rows_{};
  double sum_ = 0;
};

Result<> writeNoise(const SafeFolder& folder, const std::string& name, Frame frames, std::uint64_t seed) {
  if (folder.openFile(name)) return {};
  OCTAPHON_ASSIGN(PendingFile file, folder.create(name));
  OCTAPHON_ASSIGN(const std::unique_ptr<Encoder> writer,
                  openEncoder(file, {Encoding::Pcm24, 2, 48000}, {}, {}));
  Pink left(seed * 2 + 1);
  Pink right(seed * 2 + 2);
  std::vector<std::int32_t> sides[2]{std::vector<std::int32_t>(48000), std::vector<std::int32_t>(48000)};
  const std::int32_t* samples[]{sides[0].data(), sides[1].data()};
  for (Frame at = 0; at < frames; at += 48000) {
    const Frame count = std::min<Frame>(48000, frames - at);
    for (std::size_t i = 0; i < static_cast<std::size_t>(count); ++i) {
      sides[0][i] = static_cast<std::int32_t>(left.next() * 1'500'000);
      sides[1][i] = static_cast<std::int32_t>(right.next() * 1'500'000);
    }
    OCTAPHON_TRY(writer->write(samples, count));
  }
  OCTAPHON_TRY(writer->finish({}));
  return file.publish(true);
}

std::string numbered(const char* head, int number) {
  return head + std::to_string(1000000 + number).substr(1);
}

Track trackWith(int number, const std::string& medium) {
  Track track;
  track.id = numbered("t", number);
  track.name = "Track " + std::to_string(number + 1);
  track.clips.push_back({});
  track.clips[0].medium = medium;
  track.clips[0].id = numbered("c", number);
  return track;
}

Result<> makeJob(const SafeFolder& folder) {
  Session session;
  session.title = "job";
  Brief brief;
  brief.id = "all";
  brief.name = "All";
  brief.what.tracks = Selection::everything();
  brief.heard.counts = Counts::EverythingHeard;
  brief.delivery.existing = Existing::Replace;
  session.briefs.push_back(brief);
  for (int i = 0; i < 24; ++i) {
    const std::string file = numbered("track", i) + ".wav";
    OCTAPHON_TRY(writeNoise(folder, file, 120 * 48000, static_cast<std::uint64_t>(i) + 1));
    session.media.push_back({numbered("m", i), file});
    session.tracks.push_back(trackWith(i, session.media.back().id));
    session.tracks.back().clips[0].length = 120 * 48000;
  }
  for (int i = 0; i < 8; ++i) {
    Region region;
    region.id = numbered("r", i);
    region.name = "Span " + std::to_string(i + 1);
    region.start = i * 15 * 48000;
    region.length = 15 * 48000;
    session.regions.push_back(region);
  }
  return replaceFile(folder.path() / "job.octaphon", writeSession(session));
}

Result<> makeLarge(const SafeFolder& folder) {
  constexpr int kTracks = 1000;
  constexpr int kClips = 50;
  constexpr int kRegions = 5000;
  constexpr Frame kStep = 48000;
  OCTAPHON_TRY(writeNoise(folder, "noise.wav", 10 * 48000, 7));
  Session session;
  session.title = "large";
  session.media.push_back({"noise", "noise.wav"});
  Brief brief;
  brief.id = "all";
  brief.name = "All";
  brief.names.format = "{region.base}_{source}_{n.name:4}";
  for (int i = 0; i < kTracks; ++i) {
    if (i % 25 == 0) {
      Track group;
      group.id = numbered("g", i / 25);
      group.name = "Group " + std::to_string(i / 25 + 1);
      group.kind = TrackKind::Group;
      group.ink = i / 25 % kInks + 1;
      session.tracks.push_back(group);
    }
    Track track = trackWith(i, "noise");
    track.group = numbered("g", i / 25);
    const Clip first = track.clips[0];
    track.clips.clear();
    for (int c = 0; c < kClips; ++c) {
      Clip clip = first;
      clip.id = numbered("c", i * kClips + c);
      clip.start = (i % 100 + c * 100) * kStep;
      clip.offset = c % 9 * 48000;
      clip.length = kStep;
      track.clips.push_back(clip);
    }
    session.tracks.push_back(track);
  }
  for (int i = 0; i < 49; ++i) brief.what.tracks.setByHand(numbered("t", i), true);
  for (int i = 0; i < kRegions; ++i) {
    Region region;
    region.id = numbered("r", i);
    region.name = "Part " + std::to_string(i / 100 + 1) + "/Piece " + std::to_string(i % 100 + 1);
    region.start = i * kStep;
    region.length = kStep;
    session.regions.push_back(region);
  }
  session.briefs.push_back(brief);
  OCTAPHON_TRY(replaceFile(folder.path() / "large.octaphon", writeSession(session)));
  // Each of the tracks that are printed sounds in each region.
  for (Track& track : session.tracks) {
    if (!Chooser(brief.what.tracks).takes({track.id, track.name})) continue;
    const Clip first = track.clips[0];
    track.clips.clear();
    for (int i = 0; i < kRegions; ++i) {
      Clip clip = first;
      clip.id = track.id + numbered("c", i);
      clip.start = i * kStep;
      track.clips.push_back(clip);
    }
  }
  return replaceFile(folder.path() / "wide.octaphon", writeSession(session));
}

}  // namespace
}  // namespace octaphon::bench

int main(int argc, char** argv) {
  using namespace octaphon;
  const std::string_view what = argc == 3 ? argv[1] : "";
  if (what != "job" && what != "large") {
    std::fprintf(stderr, "usage: octaphon-bench-data job|large FOLDER\n");
    return 2;
  }
  const auto folder = SafeFolder::open(argv[2], true);
  const Result<> made = !folder         ? Result<>(tl::unexpected(folder.error()))
                        : what == "job" ? bench::makeJob(*folder)
                                        : bench::makeLarge(*folder);
  if (!made) std::fprintf(stderr, "%s\n", made.error().describe().c_str());
  return made ? 0 : 1;
}
