#include "chapters.h"

#include <algorithm>

#include "seconds.h"
#include "session_maker.h"

namespace octaphon::demo {
namespace {

class ChapterMaker : public SessionMaker {
 public:
  using SessionMaker::SessionMaker;

  /// A track, and a recording of `takes` behind each other that its clips play.
  void track(const std::string& id, const std::string& name, int channels, int takes, double slotSeconds,
             const std::string& inGroup = {}, double gainDb = -3) {
    std::string file = "media/" + id + ".flac";
    std::replace(file.begin(), file.end(), '-', ' ');
    record({file, kRate, channels, takes, slotSeconds});
    SessionMaker::track(id, name, inGroup, channels, gainDb).ink =
        static_cast<int>(session_.tracks.size() - 1) % 8 + 1;
  }

  Brief& brief(const std::string& name, const std::string& format) {
    Brief& brief = SessionMaker::brief("b1", name);
    brief.names.format = format;
    return brief;
  }

  Chapter named(std::string name) { return {std::move(name), recordings(), std::move(session_)}; }
};

/// One name, several files: a player picks among them.
Chapter variations() {
  ChapterMaker make("Winch");
  make.track("gear", "Gear", 1, 4, 1.2);
  make.track("chain", "Chain", 1, 4, 1.2);
  for (int i = 0; i < 4; ++i) {
    const double start = 1 + 2.5 * i;
    make.region("Winch/Start " + two(i + 1), start, 1 + 0.05 * i);
    make.clip("gear", i, start, 1 + 0.05 * i);
    make.clip("chain", i, start + 0.05, 0.9);
  }
  Brief& brief = make.brief("Variations", "{region.base}_{n.name:2}");
  brief.names.letterCase = LetterCase::Snake;
  brief.files.encoding = Encoding::Pcm16;
  brief.levelling.level = {LevelKind::Peak, -3, LevelPer::Name, {}};
  brief.handOver.manifest = true;
  return make.named("variations");
}

/// Several files that begin together and add up to the mix, though one compressor holds them all.
Chapter layers() {
  ChapterMaker make("Crane");
  make.group("machines", "Machines");
  make.track("motor", "Motor", 2, 2, 2, "machines");
  make.track("gear", "Gear", 1, 2, 2, "machines");
  make.track("chain", "Chain", 1, 2, 2, "machines");
  make.insert(make.find("machines").inserts, "machines-hold", "compressor",
              {{"threshold", -24}, {"ratio", 3}, {"makeup", 3}}, "mix");
  for (int i = 0; i < 2; ++i) {
    const double start = 1 + 3 * i;
    make.region("Crane/Lift " + two(i + 1), start, 1.8);
    make.clip("motor", i, start, 1.8, 0.2);
    make.clip("gear", i, start + 0.1, 1.4);
    make.clip("chain", i, start + 0.4, 1.2);
  }
  Brief& brief = make.brief("Layers", "{region.path}_{region.last}_{source}");
  brief.what.tracks = {true, {}};
  brief.names.letterCase = LetterCase::Snake;
  brief.files.encoding = Encoding::Float32;
  return make.named("layers");
}

/// Three ways for an end to meet its beginning.
Chapter loops() {
  ChapterMaker make("Harbour beds");
  make.track("rain", "Rain", 2, 1, 9);
  make.track("wind", "Wind", 2, 1, 9, {}, -6);
  make.clip("rain", 0, 1, 9, 0.5);
  make.clip("wind", 0, 1, 9, 0.5);
  Region& blend = make.region("Bed/Calm", 3, 4);
  blend.loop.way = LoopWay::Blend;
  blend.loop.blendMs = 800;
  Region& overlap = make.region("Bed/Storm", 3, 3);
  overlap.loop.way = LoopWay::Overlap;
  overlap.ends.tail = Tail::AsHeard;
  overlap.ends.leadInSeconds = overlap.ends.tailSeconds = 0.75;
  overlap.ends.fadeInMs = overlap.ends.fadeOutMs = 750;
  Brief& brief = make.brief("Loops", "{region}");
  brief.where.regions = {true, {}};
  brief.heard.counts = Counts::EverythingHeard;
  brief.loop.way = LoopWay::InnerLap;
  brief.names.letterCase = LetterCase::Kebab;
  brief.data.loopComments = true;
  brief.handOver.manifest = true;
  return make.named("loops");
}

/// Sounds that are found again: a folder a category, and what they are inside the file.
Chapter library() {
  ChapterMaker make("Harbour library");
  make.track("gulls", "Gulls", 1, 2, 1.5);
  make.track("buoy", "Buoy", 1, 2, 2);
  make.track("brake", "Brake", 1, 1, 1.5);
  make.session().vocabulary = {{"category",
                                "what kind of sound it is",
                                {{"bird", ""}, {"bell", ""}, {"machine", "wheels, chains, motors"}}},
                               {"place", "where it is heard", {{"quay", ""}, {"breakwater", ""}}}};
  const auto sound = [&](const char* track, int take, const std::string& name, double start, double length,
                         const char* category, const char* place) {
    make.clip(track, take, start, length);
    Region& region = make.region(name, start, length);
    region.facts = {{"category", category}, {"place", place}};
    region.tags = {category, "harbour"};
  };
  sound("gulls", 0, "Gull calls", 1, 1.4, "bird", "breakwater");
  sound("gulls", 1, "Gull answers", 3, 1.4, "bird", "breakwater");
  sound("buoy", 0, "Buoy, near", 5, 1.9, "bell", "breakwater");
  sound("buoy", 1, "Buoy, far", 8, 1.9, "bell", "breakwater");
  sound("brake", 0, "Brake squeals", 11, 1.4, "machine", "quay");
  Brief& brief = make.brief("Library", "{region.fact:category|title}/{region}");
  brief.files.encoding = Encoding::Flac24;
  brief.data.comment = "Heard at the {region.fact:place}";
  brief.data.credit = "© {edition.date:yyyy} {author}";
  brief.handOver.notePage = brief.handOver.listCsv = true;
  return make.named("library");
}

/// A piece in parts that are lined up and numbered as they stand.
Chapter stems() {
  ChapterMaker make("Tide theme");
  make.track("celesta", "Celesta", 2, 1, 6);
  make.track("harmonium", "Harmonium", 2, 1, 6, {}, -9);
  make.track("bass", "Bass", 1, 1, 6, {}, -6);
  for (const char* id : {"celesta", "harmonium", "bass"}) make.clip(id, 0, 1, 5.5, 0.5);
  make.region("Tide theme", 0.5, 6.5);
  Brief& brief = make.brief("Stems", "{source.number:2} {region} - {source}");
  brief.what.tracks = {true, {}};
  brief.heard.counts = Counts::EverythingHeard;
  brief.heard.reach = {ReachStage::Groups, {}};
  brief.ends.tail = Tail::None;
  return make.named("stems");
}

/// One piece, as long as each place needs it.
Chapter lengths() {
  ChapterMaker make("Tour signal");
  make.track("celesta", "Celesta", 2, 1, 12);
  make.track("guide", "Guide", 1, 1, 9);
  double start = 1;
  for (const int seconds : {4, 6, 10}) {
    Region& region = make.region("Signal/" + std::to_string(seconds) + " s", start, seconds);
    region.ends.exactSeconds = seconds;
    make.clip("celesta", 0, start, seconds, 0.8);
    make.clip("guide", 0, start + 0.5, seconds - 2, 0.3);
    start += seconds + 2;
  }
  Brief& brief = make.brief("Exact lengths", "{session} {region.last}");
  brief.heard.counts = Counts::EverythingHeard;
  brief.ends.fadeOutMs = 50;
  brief.levelling = {{LevelKind::Loudness, -16, LevelPer::File, {}}, -1, CeilingBy::Limiter};
  return make.named("lengths");
}

/// Titles one after the other, with what a pressing or a shop asks for.
Chapter album() {
  ChapterMaker make("Tidewheel at night");
  make.track("celesta", "Celesta", 2, 1, 5);
  make.track("bell-low", "Bell", 2, 3, 3);
  const char* titles[]{"Low water", "The wheel turns", "Lamps"};
  for (int i = 0; i < 3; ++i) {
    const double start = 1 + 6 * i;
    Region& region = make.region(titles[i], start, 5);
    region.facts["isrc"] = "XX-OCT-26-0000" + std::to_string(i + 1);
    make.clip("celesta", 0, start, 4.8, 0.6).gainDb = -2 * i;
    make.clip("bell-low", i, start + 1, 2.8, 0.5);
  }
  Brief& brief = make.brief("Album", "{n:2} {region}");
  brief.heard.counts = Counts::EverythingHeard;
  brief.files.rate = 44100;
  brief.files.encoding = Encoding::Pcm16;
  brief.data.number = "{n}";
  brief.levelling = {{LevelKind::Loudness, -14, LevelPer::Brief, {}}, -1, CeilingBy::Limiter};
  brief.handOver.cueList = brief.handOver.notePdf = brief.handOver.checksums = true;
  return make.named("album");
}

}  // namespace

std::vector<Chapter> chapters() {
  return {variations(), layers(), loops(), library(), stems(), lengths(), album()};
}

}  // namespace octaphon::demo
