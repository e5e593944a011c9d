#include "tidewheel_session.h"

#include <algorithm>

#include "seconds.h"
#include "session_maker.h"

namespace octaphon::demo {
namespace {

constexpr double kBar = 3 * 60.0 / 108;  // three beats at 108 a minute

class Tidewheel : SessionMaker {
 public:
  Tidewheel() : SessionMaker("Tidewheel") {}

  Session build() {
    session_.notes =
        "A clockwork harbour: winches, bells, a crane, gulls, rain on tin roofs, a celesta theme and a "
        "guided tour.";
    session_.startPicture = 10 * 3600 * 25;
    session_.tempo.push_back({0, 108, 3, 4, {}});
    for (const Recording& recording : demo::recordings()) record(recording);
    addTracks();
    addWinch();
    addCrane();
    addBells();
    addGulls();
    addAmbience();
    addMusic();
    addTour();
    addMarkers();
    addSignal();
    addOwnEnds();
    addLoops();
    addFacts();
    addBriefs();
    return std::move(session_);
  }

 private:
  void addTracks() {
    group("machines", "Machines").ink = 1;
    track("gear", "Gear", "machines", 1, -3).pan = -0.2;
    track("chain", "Chain", "machines", 1, 0).pan = 0.25;
    track("brake", "Brake", "machines", 1, -6.5);
    track("motor", "Motor", "machines", 2, -4);
    group("bells", "Bells").ink = 2;
    track("bell-low", "Low", "bells", 2, -2);
    track("bell-high", "High", "bells", 2, -8);
    track("buoy", "Buoy", "bells", 1, -5).pan = 0.4;
    group("weather", "Weather", -3).ink = 3;
    track("rain", "Rain", "weather", 2, -4);
    track("wind", "Wind", "weather", 2, -6);
    track("gulls", "Gulls", "weather", 1, -7).pan = -0.5;
    group("music", "Music", -2).ink = 4;
    track("celesta", "Celesta", "music", 2, -4);
    track("harmonium", "Harmonium", "music", 2, -9);
    track("bass", "Bass", "music", 1, -6);
    group("voice", "Voice").ink = 5;
    track("guide", "Guide", "voice", 1, -2);
    track("hail", "Hail", "voice", 1, -6).pan = 0.3;
    for (const auto& [id, name] : {std::pair{"quay", "Quay Hall"}, {"tunnel", "Tunnel"}}) {
      Track& room = track(id, name, "", 2, 0);
      room.kind = TrackKind::Return;
      room.ink = 8;
    }
  }

  void send(const std::string& from, const std::string& to, double gainDb, bool preFader = false) {
    Send send;
    send.id = from + "-" + to;
    send.to = to;
    send.gainDb = gainDb;
    send.preFader = preFader;
    find(from).sends.push_back(std::move(send));
  }

  static CurvePoint point(double seconds, double value, Segment segment = Segment::Linear, double bend = 0) {
    return {at(seconds), value, segment, bend, {}};
  }

  /// Effects that belong to sounds, and those that hold the mix together.
  void addSignal() {
    insert(find("machines").inserts, "machines-tone", "equaliser", {{"low_gain", 2.5}, {"bell2_gain", -2}},
           "sound", "Tone");
    insert(find("machines").inserts, "machines-hold", "compressor",
           {{"threshold", -24}, {"ratio", 3}, {"attack", 8}, {"makeup", 3}}, "mix", "Hold");
    insert(find("bell-low").inserts, "bell-tone", "equaliser", {{"low_cut", 1}, {"low_cut_freq", 60}},
           "sound", "Tone");
    insert(find("music").inserts, "music-duck", "compressor",
           {{"threshold", -38}, {"ratio", 3}, {"attack", 30}, {"release", 600}}, "mix", "Duck");
    insert(find("guide").inserts, "guide-clear", "equaliser",
           {{"low_cut", 1}, {"low_cut_freq", 110}, {"bell2_gain", 3}}, "sound", "Clear");
    insert(find("quay").inserts, "quay-room", "reverb", {{"decay", 2.4}, {"size", 65}, {"predelay", 18}},
           "sound");
    insert(find("tunnel").inserts, "tunnel-echo", "echo", {{"time", 240}, {"feedback", 45}, {"damp", 3500}},
           "sound");
    insert(session_.main.inserts, "main-limit", "limiter", {{"ceiling", -1}}, "mix", "Ceiling");
    send("gear", "quay", -16);
    send("brake", "tunnel", -12);
    send("bells", "quay", -10);
    send("buoy", "tunnel", -9);
    send("celesta", "quay", -12);
    send("guide", "quay", -22);
    send("guide", "music-duck", 0, true);
    send("tunnel", "quay", -12);
    find("rain").automation.push_back(
        {"gain",
         true,
         {point(130, -12), point(138, -4, Segment::Curve, 0.4), point(147, 0), point(154, -8)},
         {}});
    find("celesta").automation.push_back(
        {"pan", true, {point(213, -0.5), point(233, 0.5), point(253, -0.5)}, {}});
  }

  void region(const std::string& name, double start, double length, int ink) {
    SessionMaker::region(name, start, length).ink = ink;
  }

  void addWinch() {
    for (int i = 0; i < 4; ++i) {
      const double start = 2 + 5.5 * i;
      region("Winch/Start " + two(i + 1), start, 3.2 + 0.25 * i, 1);
      clip("gear", i, start, 2.6 + 0.25 * i);
      clip("chain", i, start + 0.12, 2.4 + 0.2 * i);
    }
    for (int i = 0; i < 2; ++i) {
      const double start = 24.5 + 4.5 * i;
      region("Winch/Stop " + two(i + 1), start, 2.6, 1);
      clip("chain", 4 + i, start, 1.4);
      clip("brake", i, start + 0.1, 2.3);
    }
  }

  void clipSet(const std::string& name, const std::vector<std::string>& clips, int ink) {
    ClipSet set;
    set.id = "set-" + two(static_cast<int>(session_.clipSets.size()) + 1);
    set.name = name;
    set.clips = clips;
    set.ink = ink;
    session_.clipSets.push_back(std::move(set));
  }

  void addCrane() {
    for (int i = 0; i < 3; ++i) {
      const double start = 35 + 7.5 * i;
      region("Crane/Lift " + two(i + 1), start, 6, 1);
      clip("motor", i, start, 5.9, 0.4);
      const std::string gear = clip("gear", 3 + i, start + 0.3, 2.8).id;
      Clip& chain = clip("chain", i + 1, start + 1.5, 2.2);
      chain.gainDb = -4;
      clipSet("Crane/Ratchet " + two(i + 1), {gear, chain.id}, 1);
    }
  }

  void addBells() {
    for (int i = 0; i < 3; ++i) {
      const double start = 60 + 7 * i;
      region("Bell/Toll " + two(i + 1), start, 6, 2);
      clip("bell-low", i, start, 5.9, 0.5);
      clip("bell-high", i, start + 0.4, 4.8, 0.5).gainDb = i == 2 ? -3 : 0;
    }
    for (int i = 0; i < 2; ++i) {
      region("Bell/Buoy " + two(i + 1), 82 + 4.5 * i, 3.8, 2);
      clip("buoy", i, 82 + 4.5 * i, 3.7, 0.3);
    }
  }

  void addGulls() {
    for (int i = 0; i < 3; ++i) {
      region("Gull/Call " + two(i + 1), 92 + 3.5 * i, 2.5, 3);
      clip("gulls", i, 92 + 3.5 * i, 2.4);
    }
  }

  void addAmbience() {
    region("Ambience/Calm", 104, 24, 3);
    clip("rain", 0, 104, 24, 1);
    clip("wind", 0, 104, 24, 1);
    clip("gulls", 1, 112, 2.4);
    region("Ambience/Storm", 130, 24, 3);
    clip("rain", 1, 130, 24, 1);
    clip("wind", 1, 130, 24, 1);
  }

  void addMusic() {
    for (int i = 0; i < 2; ++i) {
      const double start = (i == 0 ? 96 : 108) * kBar;
      region(i == 0 ? "Music/Tide A" : "Music/Tide B", start, 9 * kBar, 4);
      for (const char* id : {"celesta", "harmonium", "bass"})
        clip(id, 0, start, 9 * kBar, 0.3).offset = at(i * 12 * kBar);
    }
  }

  void addTour() {
    double start = 204;
    for (int i = 0; i < 3; ++i) {
      const double length = 20 * (i + 1);
      region("Tour/" + std::to_string(20 * (i + 1)) + " s", start, length, 5);
      clip("guide", 0, start + 1, length - 2, 0.2);
      clip("hail", i % 2, start + length / 2, 4, 0.2);
      for (const char* id : {"celesta", "harmonium", "bass"}) clip(id, 0, start, length, 1.5);
      clip("rain", 0, start, length, 1);
      clip("wind", 0, start, length, 1).gainDb = -3;
      clip("bell-low", i, start, 5.5, 0.5).gainDb = -6;
      start += length + 4;
    }
  }

  void addMarkers() {
    MarkerSet set{"places", "Places", {}, {}};
    const auto add = [&](const char* id, const char* name, double seconds) {
      set.markers.push_back({id, name, at(seconds)});
    };
    add("m1", "Winch house", 2);
    add("m2", "Crane", 35);
    add("m3", "Bell tower", 60);
    add("m4", "Breakwater", 92);
    add("m5", "Tour begins", 204);
    session_.markerSets.push_back(std::move(set));
  }

  /// What some regions have otherwise than their briefs.
  void addOwnEnds() {
    for (Region& region : session_.regions.writable()) {
      if (region.name.starts_with("Ambience/")) region.ends.tail = Tail::None;
      if (region.name.starts_with("Tour/"))
        region.ends.exactSeconds = static_cast<double>(region.length) / session_.rate;
    }
  }

  /// Inside the ambiences there is sound on either side; the pieces of music begin from nothing.
  void addLoops() {
    region("Loop/Calm", 106, 20, 3);
    session_.regions.back().loop.way = LoopWay::Blend;
    session_.regions.back().loop.blendMs = 2000;
    region("Loop/Storm", 132, 18, 3);
    Region& storm = session_.regions.back();
    storm.loop.way = LoopWay::Overlap;
    storm.ends.tail = Tail::AsHeard;
    storm.ends.leadInSeconds = storm.ends.tailSeconds = 1.5;
    storm.ends.fadeInMs = storm.ends.fadeOutMs = 1500;
    region("Loop/Tide A", 160, 9 * kBar, 4);
    session_.regions.back().loop.way = LoopWay::Fold;
    region("Loop/Tide B", 180, 9 * kBar, 4);
    session_.regions.back().loop.keepIntro = true;
  }

  std::vector<std::string> regionsUnder(std::initializer_list<std::string> paths) const {
    std::vector<std::string> ids;
    for (const Region& region : session_.regions)
      for (const std::string& path : paths)
        if (region.name.starts_with(path + "/")) ids.push_back(region.id);
    return ids;
  }

  void addBriefs() {
    Brief& game = brief("game", "Game sounds, layers");
    game.where.regions = {false, regionsUnder({"Winch", "Crane"})};
    game.what.tracks = {false, {"gear", "chain", "brake", "motor"}};
    game.names.format = "{region.base}_{source}_{n.name:2}";
    game.names.letterCase = LetterCase::Snake;
    game.ends.tail = Tail::RingsOut;
    game.ends.limitSeconds = 6;
    game.ends.fadeOutMs = 5;
    game.delivery.folder = "Deliveries/Game";
    game.handOver.title = "Winches and crane";
    game.handOver.client = "the exhibit";
    game.handOver.notes = "Layers of one sound begin together and are equally long.";
    game.handOver.notePage = game.handOver.notePdf = game.handOver.checksums = game.handOver.manifest = true;
    Brief& single = brief("single", "Single sounds");
    single.where.regions = {false, regionsUnder({"Bell", "Gull", "Ambience"})};
    single.names.format = "{region}";
    single.files.encoding = Encoding::Pcm16;
    single.ends.tail = Tail::RingsOut;
    single.ends.limitSeconds = 6;
    single.ends.fadeOutMs = 15;
    single.names.letterCase = LetterCase::Kebab;
    single.delivery.folder = "Deliveries/Single";
    Brief& tour = brief("tour", "Tour, three lengths");
    tour.where.regions = {false, regionsUnder({"Tour"})};
    tour.what.groups = {false, {"bells", "weather", "music", "voice"}};
    tour.heard.counts = Counts::EverythingHeard;
    tour.heard.runUp.fromStart = true;
    tour.ends.fadeOutMs = 50;
    tour.levelling = {{LevelKind::Loudness, -16, LevelPer::Span, {}}, -1, CeilingBy::Gain};
    tour.names.format = "{region}/{n:2} {session} {source}";
    tour.delivery.folder = "Deliveries/Tour";
    Brief& stems = brief("stems", "Stems of the theme");
    stems.where.regions = {false, regionsUnder({"Music"})};
    stems.what.tracks = {false, {"celesta", "harmonium", "bass"}};
    stems.heard.counts = Counts::EverythingHeard;
    stems.heard.reach = {ReachStage::Groups, {}};
    stems.heard.withReturns = Returns::Out;
    stems.ends.leadInSeconds = 0.5;
    stems.ends.pictureFrames = true;
    stems.names.format = "{region} {source}";
    stems.files.encoding = Encoding::Float32;
    stems.delivery.folder = "Deliveries/Stems";
    addLoopBrief();
  }

  /// Four ways to a loop, each where it suits.
  void addLoopBrief() {
    Brief& loops = brief("loops", "Seamless loops");
    loops.where.regions = {false, regionsUnder({"Loop"})};
    loops.heard.counts = Counts::EverythingHeard;
    loops.loop.way = LoopWay::InnerLap;
    loops.names.format = "{region}";
    loops.names.letterCase = LetterCase::Snake;
    loops.delivery.folder = "Deliveries/Loops";
    Brief forReceivers = loops;
    loops.handOver.manifest = true;
    addHandOverBrief(std::move(forReceivers));
  }

  /// The same for three receivers, from one pass: to edit, for the game, to listen to. Not ticked.
  void addHandOverBrief(Brief loops) {
    loops.id = "hand-over";
    loops.name = "Loops for three receivers";
    loops.isOn = false;
    loops.delivery.folder = "Deliveries/Receivers";
    Output game{Encoding::Flac24}, small{Encoding::Opus};
    game.folder = "Game";
    small.folder = "Listen";
    small.coding.bitRate = 96;
    loops.files.outputs = {{Encoding::Pcm24}, game, small};
    loops.data.loopComments = true;
    loops.data.credit = "© {edition.date:yyyy} {author}";
    session_.briefs.push_back(std::move(loops));
  }

  /// What sounds are, by their paths, and where some of them are heard.
  void addFacts() {
    session_.vocabulary = {
        {"category",
         "what kind of sound it is",
         {{"machine", "wheels, chains, motors"},
          {"bell", ""},
          {"bird", ""},
          {"ambience", "a place without events"},
          {"music", ""}}},
        {"place", "where it is heard", {{"quay", ""}, {"tower", ""}, {"breakwater", "outside"}}}};
    const std::pair<const char*, const char*> categories[]{
        {"Winch", "machine"},     {"Crane", "machine"}, {"Bell", "bell"}, {"Gull", "bird"},
        {"Ambience", "ambience"}, {"Music", "music"},   {"Tour", "music"}};
    for (const auto& [path, category] : categories) session_.pathFacts[path] = {{"category", category}};
    for (Region& region : session_.regions.writable()) {
      if (region.name.starts_with("Winch/")) region.facts["place"] = "quay";
      if (region.name.starts_with("Bell/")) region.facts["place"] = "tower";
      if (region.name.starts_with("Loop/"))
        region.facts["category"] =
            region.name.ends_with("A") || region.name.ends_with("B") ? "music" : "ambience";
    }
  }
};

}  // namespace

Session tidewheelSession() { return Tidewheel().build(); }

}  // namespace octaphon::demo
