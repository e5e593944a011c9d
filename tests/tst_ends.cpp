// Where files begin and end: tails that ring out against formulas, lengths to the sample, other rates, and
// places in the session, from buffers and from outside.
#include <cmath>
#include <numbers>
#include <QtEndian>
#include <QtTest>
#include <random>
#include <set>

#include "finish/chain.h"
#include "finish/ring_meter.h"
#include "formats/wav_head.h"
#include "support.h"

using namespace octaphon;
using test::Samples;

namespace {

constexpr double kPi = std::numbers::pi;

/// A sine that decays by e in `tau` seconds.
double decay(double tau, double seconds, double level = 0.5, double hertz = 440) {
  return level * std::exp(-seconds / tau) * std::sin(2 * kPi * hertz * seconds);
}

Samples decaying(double tau, double seconds, int rate = 48000, double level = 0.5) {
  return test::sound(
      1, framesOf(seconds, rate),
      [=](int, Frame i) { return decay(tau, static_cast<double>(i) / rate, level); }, false);
}

/// Tracks `t0`, `t1` … each with one clip from frame 0, a region and a brief of each track alone.
struct Room {
  QTemporaryDir dir;
  test::SessionMaker make{dir.path()};
  int rate;

  explicit Room(const std::vector<Samples>& sounds, Frame length, int sessionRate = 48000)
      : rate(sessionRate) {
    make.session.rate = rate;
    for (std::size_t i = 0; i < sounds.size(); ++i) put(i, sounds[i]);
    make.region("r", "R", 0, length).finish = true;
    Brief& made = make.brief("B");
    made.what.mix = false;
    made.what.tracks = {true, {}};
    made.heard.reach.stage = ReachStage::Clips;
    made.files.encoding = Encoding::Float32;
    made.delivery.existing = Existing::Replace;
    made.names.format = "{region}_{source}";
    made.delivery.folder = "Deliveries";
  }

  void put(std::size_t index, const Samples& sound) {
    const std::string track = "t" + std::to_string(index), medium = "m" + std::to_string(index);
    const bool isNew = index >= make.session.tracks.size();
    if (!isNew) std::erase_if(make.session.media, [&](const Medium& m) { return m.id == medium; });
    make.medium(medium, sound, rate, test::Depth::Float);
    if (!isNew) return;
    make.track(track, static_cast<int>(sound.size()));
    make.clip(track, medium, 0, static_cast<Frame>(sound[0].size()));
  }
  Brief& brief() { return make.session.briefs[0]; }
  Ends& ends() { return brief().ends; }
  OwnEnds& own() { return make.session.regions[0].ends; }

  QJsonArray plan(const QStringList& more = {}) { return test::planOf(make.save(), more)["rows"].toArray(); }
  std::vector<QJsonObject> render(const QStringList& more = {}, int exit = 0) {
    std::vector<QJsonObject> rows;
    for (const QJsonObject& event : test::renderOf(make.save(), more, exit))
      if (event["event"].toString() == "row") rows.push_back(event);
    std::sort(rows.begin(), rows.end(), [](const QJsonObject& a, const QJsonObject& b) {
      return a["key"].toString() < b["key"].toString();
    });
    return rows;
  }
  Samples file(const QString& name) const { return test::readSound(dir.filePath("Deliveries/" + name)); }
  QByteArray bytes(const QString& name) const { return test::bytesOf(dir.filePath("Deliveries/" + name)); }
};

QStringList codes(const QJsonObject& row) {
  QStringList codes;
  for (const auto& remark : row["remarks"].toArray()) codes << remark.toObject()["code"].toString();
  return codes;
}

QStringList statesOf(const QJsonArray& rows) {
  QStringList states;
  for (const auto& row : rows) states << row.toObject()["state"].toString();
  return states;
}

/// Parts of a row that are there, and add up to its frames.
std::array<qint64, 4> partsOf(const QJsonObject& row) {
  return {row["lead_in"].toInteger(-1), row["body"].toInteger(-1), row["tail"].toInteger(-1),
          row["frames"].toInteger(-1)};
}

/// Keeps what a chain gives.
struct Collected : SampleSink {
  std::vector<float> samples;
  Result<> write(const std::int32_t* const*, Frame) override { return {}; }
  Result<> write(const float* const* in, Frame frames) override {
    samples.insert(samples.end(), in[0], in[0] + frames);
    return {};
  }
};

FinishPlan monoPlan(int in, int out, Frame body) {
  FinishPlan plan;
  plan.tapped = 1;
  plan.extent.sessionRate = in;
  plan.extent.rate = out;
  plan.extent.body = body;
  plan.form = {1, 32, false, "row", "file.wav"};
  return plan;
}

}  // namespace

class EndsTest : public QObject {
  Q_OBJECT
 private slots:
  // --- ringing out, on buffers: a · e^(−t/τ) falls to the threshold at τ · ln(a / threshold).
  void decaysEndWhereTheFormulaSays_data() {
    QTest::addColumn<double>("threshold");
    QTest::addColumn<bool>("relative");
    QTest::addColumn<int>("rate");
    for (const int rate : {44100, 48000, 96000})
      for (const double threshold : {-20.0, -40.0, -60.0, -80.0})
        for (const bool relative : {true, false})
          QTest::addRow("%g dB %s at %d", threshold, relative ? "of the peak" : "full scale", rate)
              << threshold << relative << rate;
  }
  void decaysEndWhereTheFormulaSays() {
    QFETCH(double, threshold);
    QFETCH(bool, relative);
    QFETCH(int, rate);
    const double tau = 0.3, level = 0.5;
    const Frame before = rate / 4;
    RingSetting setting;
    setting.rate = rate;
    setting.before = before;
    setting.thresholdDb = threshold;
    setting.relative = relative;
    setting.hold = rate / 2;
    setting.limit = rate * 8;
    std::vector<float> samples;
    for (Frame i = 0; i < before + setting.limit; ++i)
      samples.push_back(static_cast<float>(decay(tau, static_cast<double>(i) / rate, level)));
    const double least = relative ? std::max(level * std::pow(10, threshold / 20), std::pow(10, -90.0 / 20))
                                  : std::pow(10, threshold / 20);
    const double expected = std::max(0.0, tau * std::log(level / least) - 0.25);
    std::optional<Frame> first;
    for (const Frame size : {Frame{1 << 20}, Frame{4096}, Frame{479}, Frame{1}}) {
      RingMeter meter(setting, {1});
      for (Frame at = 0; at < static_cast<Frame>(samples.size()) && !meter.tail(); at += size) {
        const float* block[]{samples.data() + at};
        meter.sound(0).take({block, std::min(size, static_cast<Frame>(samples.size()) - at)});
        meter.decide();
      }
      QVERIFY(meter.tail().has_value());
      QVERIFY2(std::abs(static_cast<double>(*meter.tail()) / rate - expected) <= 0.01,
               qPrintable(
                   QString("%1 instead of %2").arg(static_cast<double>(*meter.tail()) / rate).arg(expected)));
      QVERIFY(!meter.isByLimit());
      QVERIFY(!first || *first == *meter.tail());
      first = meter.tail();
    }
  }

  // --- the same from outside
  void ringsOutFromOutside_data() {
    QTest::addColumn<QString>("what");
    QTest::addColumn<double>("expected");  // seconds of the tail
    QTest::addColumn<QString>("stopped");
    const double plain = 0.4 * std::log(1000) - 0.5;
    QTest::newRow("relative") << "" << plain << "quiet";
    QTest::newRow("dBFS") << "absolute" << 0.4 * std::log(0.5 / 0.01) - 0.5 << "quiet";
    QTest::newRow("limit") << "limit" << 1.003 << "limit";
    QTest::newRow("an offset is not heard") << "offset" << plain << "quiet";
    QTest::newRow("nor one larger than the sound")
        << "far off" << 0.4 * std::log(0.01 / std::pow(10, -4.5)) - 0.5 << "quiet";
    QTest::newRow("nor is hiss") << "hiss" << plain << "quiet";
    QTest::newRow("a pause longer than the hold ends it") << "short hold" << 0.0 << "quiet";
    QTest::newRow("a pause shorter than it does not") << "long hold" << 1.41 << "quiet";
    QTest::newRow("an echo is waited for") << "echo" << 3.21 << "quiet";
    QTest::newRow("silence comes behind") << "silence" << plain + 0.25 << "quiet";
    QTest::newRow("an earlier sound is not heard") << "earlier" << plain << "quiet";
    QTest::newRow("nor is the next") << "next" << plain << "quiet";
  }
  void ringsOutFromOutside() {
    QFETCH(QString, what);
    QFETCH(double, expected);
    QFETCH(QString, stopped);
    Samples sound = decaying(0.4, 8);
    std::mt19937 random(1);
    std::uniform_real_distribution<double> hiss(-5e-6, 5e-6);
    if (what == "offset")
      for (double& sample : sound[0]) sample += 0.1;
    if (what == "far off")
      for (double& sample : sound[0]) sample = sample / 50 + 0.5;
    if (what == "hiss")
      for (double& sample : sound[0]) sample += hiss(random);
    const bool isPulses = what.endsWith("hold") || what == "echo";
    if (isPulses)  // 10 ms each, at 0, 1.1 and 1.9 s; of the echo the first alone
      sound = test::sound(
          1, 48000 * 3,
          [&](int, Frame i) {
            const auto in = [&](Frame from) { return i >= from && i < from + 480; };
            const bool sounds = in(0) || (what != "echo" && (in(52800) || in(91200)));
            return sounds ? 0.5 * std::sin(2 * kPi * 1000 * static_cast<double>(i) / 48000) : 0;
          },
          false);
    Room room({sound}, 24000);
    room.ends().tail = Tail::RingsOut;
    room.ends().relative = what != "absolute";
    if (what == "absolute") room.ends().thresholdDb = -40;
    if (what == "limit") room.ends().limitSeconds = 1.003;
    if (what == "short hold") room.ends().holdMs = 300;
    if (what == "long hold") room.ends().holdMs = 810;
    if (what == "silence") room.ends().silenceSeconds = 0.25;
    if (what == "echo") {
      // As loud, then half as loud each time: −18 dB under the peak is the fourth, 3.2 s after the first.
      Insert echo{"e", "echo", {}, true, {}, {{"time", 800}, {"feedback", 50}, {"mix", 50}}, {}, {}};
      room.make.session.tracks[0].inserts.push_back(echo);
      room.brief().heard.reach.stage = ReachStage::Inserts;
      room.ends().thresholdDb = -20;
      room.ends().holdMs = 300;
      expected -= 0.5;
    }
    if (what == "earlier" || what == "next") {
      room.make.medium("other", test::noise(1, 48000, 5, 0.9));
      room.make.clip("t0", "other", what == "next" ? 24000 : 0, 48000);
      if (what == "earlier") {
        for (Clip& clip : room.make.session.tracks[0].clips.writable())
          clip.start += clip.medium == "m0" ? 24000 : 0;
        room.make.session.regions[0].start = 24000;
      }
    }
    const QJsonObject before = room.plan()[0].toObject();
    QVERIFY(before["frames"].isNull() && before["tail"].isNull());
    const auto most = 24000 + framesOf(room.ends().limitSeconds + room.ends().silenceSeconds, 48000);
    QCOMPARE(before["frames_max"].toInteger(), most);
    const auto rows = room.render();
    QCOMPARE(rows.size(), 1u);
    const auto [leadIn, body, tail, frames] = partsOf(rows[0]);
    QCOMPARE(leadIn + body + tail, frames);
    QCOMPARE(body, 24000);
    QVERIFY2(std::abs(static_cast<double>(tail) / 48000 - expected) <= 0.0101,
             qPrintable(QString("%1 instead of %2").arg(static_cast<double>(tail) / 48000).arg(expected)));
    QCOMPARE(rows[0]["tail_stopped"].toString(), stopped);
    QCOMPARE(codes(rows[0]).contains("tail-limited"), stopped == "limit");
    QCOMPARE(room.file("R_t0.wav")[0].size(), static_cast<std::size_t>(frames));
    const QJsonObject after = room.plan()[0].toObject();
    QCOMPARE(partsOf(after), partsOf(rows[0]));
    QVERIFY(!after.contains("frames_max"));
    QCOMPARE(after["state"].toString(), QString("up-to-date"));
    QCOMPARE(codes(after).contains("tail-limited"), stopped == "limit");
  }

  // Lengths come of all sources, whatever of them is made; they grow together, and shrink together only when
  // all are made anew.
  void siblingsHaveOneLength() {
    Room room({decaying(0.1, 6), decaying(0.3, 6), decaying(0.2, 6)}, 24000);
    room.ends().tail = Tail::RingsOut;
    const auto lengths = [&] {
      std::set<std::size_t> found;
      for (const char* name : {"R_t0.wav", "R_t1.wav", "R_t2.wav"}) found.insert(room.file(name)[0].size());
      return found;
    };
    const auto tailOf = [](double tau) { return tau * std::log(1000) - 0.5; };
    const auto isAbout = [&](std::size_t frames, double tau) {
      return std::abs(static_cast<double>(frames) / 48000 - 0.5 - tailOf(tau)) <= 0.0101;
    };
    room.render();
    QCOMPARE(lengths().size(), 1u);
    const std::size_t first = *lengths().begin();
    QVERIFY(isAbout(first, 0.3));

    // One alone, without what was kept.
    QVERIFY(QDir(room.dir.filePath("Deliveries")).removeRecursively());
    room.render({"--jobs", "1"});
    const QByteArray bytes = room.bytes("R_t0.wav");
    QVERIFY(QFile::remove(room.dir.filePath("Deliveries/R_t0.wav")));
    QCOMPARE(room.render().size(), 1u);
    QCOMPARE(room.bytes("R_t0.wav"), bytes);

    // A shorter sound: its file keeps the length of its siblings, which stay as they are.
    room.put(1, decaying(0.15, 6));
    QJsonArray plan = room.plan();
    QCOMPARE(statesOf(plan), (QStringList{"up-to-date", "stale", "up-to-date"}));
    QVERIFY(plan[1].toObject()["frames"].isNull());
    QCOMPARE(plan[0].toObject()["frames"].toInteger(), static_cast<qint64>(first));
    QCOMPARE(room.render().size(), 1u);
    QCOMPARE(lengths(), std::set<std::size_t>{first});
    QCOMPARE(statesOf(room.plan()), (QStringList{"up-to-date", "up-to-date", "up-to-date"}));

    // A longer one: all are stale, and are longer then.
    room.put(2, decaying(0.4, 6));
    QStringList told;
    for (const QJsonObject& event : test::renderOf(room.make.save()))
      told << event["event"].toString() + event["code"].toString();
    QCOMPARE(told.count("row"), 1);
    QVERIFY(told.contains("remarktail-grew"));
    QCOMPARE(statesOf(room.plan()), (QStringList{"stale", "stale", "up-to-date"}));
    QCOMPARE(room.render().size(), 2u);
    QCOMPARE(lengths().size(), 1u);
    QVERIFY(isAbout(*lengths().begin(), 0.4));
    QCOMPARE(statesOf(room.plan()), (QStringList{"up-to-date", "up-to-date", "up-to-date"}));

    // All made anew are as long as they are.
    room.put(2, decaying(0.2, 6));
    room.put(0, decaying(0.12, 6));
    room.put(1, decaying(0.13, 6));
    QCOMPARE(room.render().size(), 3u);
    QVERIFY(isAbout(*lengths().begin(), 0.2));
    QCOMPARE(lengths().size(), 1u);
  }

  void anyNumberOfWorkersGivesTheSameBytes() {
    std::vector<Samples> sounds;
    for (int i = 1; i <= 4; ++i) sounds.push_back(decaying(0.07 * i, 5));
    Room room(sounds, 24000);
    for (int i = 1; i < 5; ++i) {
      room.make.region("r" + std::to_string(i), "R" + std::to_string(i), i * 3000, 20000 + i * 777);
      for (int t = 0; t < 4; ++t)
        room.make.clip("t" + std::to_string(t), "m" + std::to_string(t), i * 3000, 100000 - i * 5000);
    }
    room.ends().tail = Tail::RingsOut;
    room.brief().files.encoding = Encoding::Pcm16;
    room.brief().files.rate = 44100;
    room.ends().fadeOutMs = 20;
    std::map<QString, QByteArray> first;
    for (const char* jobs : {"1", "2", "8"}) {
      room.render({"--jobs", jobs, "--out", room.dir.filePath(jobs)});
      std::map<QString, QByteArray> made;
      for (const QString& file : test::filesBelow(room.dir.filePath(jobs)))
        made[file] = test::bytesOf(room.dir.filePath(jobs) + "/" + file);
      QCOMPARE(made.size(), 20u);
      if (first.empty()) first = made;
      QVERIFY(made == first);
    }
  }

  // --- lengths
  void exactLengths_data() {
    QTest::addColumn<int>("rate");
    for (const int rate : {44100, 48000, 96000}) QTest::addRow("%d", rate) << rate;
  }
  void exactLengths() {
    QFETCH(int, rate);
    std::vector<Samples> sounds;
    for (int i = 0; i < 5; ++i) sounds.push_back(test::noise(1, 48000 * 3, static_cast<unsigned>(i), 0.3));
    Room room(sounds, 48000 * 30);
    room.brief().heard.counts = Counts::EverythingHeard;
    room.brief().files.rate = rate;
    room.ends().leadInSeconds = 0.5;
    room.ends().tail = Tail::RingsOut;
    for (const int seconds : {20, 40, 60}) {
      Brief& brief = seconds == 20 ? room.brief() : room.make.session.briefs.emplace_back(room.brief());
      brief.id = brief.name = std::to_string(seconds);
      brief.delivery.folder = "Deliveries/" + brief.name;
      brief.ends.exactSeconds = seconds;
    }
    const QJsonArray plan = room.plan();
    const auto rows = room.render();
    QCOMPARE(rows.size(), 15u);
    for (std::size_t i = 0; i < rows.size(); ++i) {
      const qint64 expected = rows[i]["brief"].toString().toInt() * rate;
      const auto parts = partsOf(rows[i]);
      QCOMPARE(parts[3], expected);
      QCOMPARE(parts[0], rate / 2);
      QCOMPARE(parts[0] + parts[1] + parts[2], expected);
      QCOMPARE(room.file(rows[i]["brief"].toString() + "/" + rows[i]["file"].toString())[0].size(),
               static_cast<std::size_t>(expected));
    }
    for (const auto& row : plan) QVERIFY(!row.toObject()["frames"].isNull());
  }

  // An exact length cuts with the fade out and says at which level, or fills with silence.
  void exactLengthsCutOrFill() {
    Room room({test::sine(1, 96000, 1000, 0.5)}, 48000);
    room.make.session.regions[0].finish = false;
    room.ends().exactSeconds = 0.5;
    auto rows = room.render();
    QCOMPARE(codes(rows[0]), QStringList{"cut-at-exact"});
    QVERIFY(rows[0]["remarks"].toArray()[0].toObject()["text"].toString().contains("−6.0 dBFS"));
    QCOMPARE(rows[0]["remarks"].toArray()[0].toObject()["severity"].toString(), QString("warning"));
    QCOMPARE(partsOf(rows[0]), (std::array<qint64, 4>{0, 24000, 0, 24000}));
    room.ends().fadeOutMs = 10;
    rows = room.render();
    QCOMPARE(rows[0]["remarks"].toArray()[0].toObject()["severity"].toString(), QString("note"));
    QVERIFY(std::abs(room.file("R_t0.wav")[0].back()) < 0.01);
    room.ends().exactSeconds = 1.5;
    room.ends().fadeOutMs = 0;
    rows = room.render();
    QCOMPARE(codes(rows[0]), QStringList{});
    QCOMPARE(partsOf(rows[0]), (std::array<qint64, 4>{0, 48000, 24000, 72000}));
    const auto samples = room.file("R_t0.wav")[0];
    QVERIFY(std::all_of(samples.begin() + 48000, samples.end(), [](double s) { return s == 0; }));
    // It ends with its last sample: nothing was cut.
    room.ends().exactSeconds = 1;
    QCOMPARE(codes(room.render()[0]), QStringList{});
    // Shorter than a frame is one frame, not as long as it is.
    room.ends().exactSeconds = 1e-6;
    QCOMPARE(partsOf(room.render()[0])[3], 1);
  }

  // A receipt may say anything of what trimming left.
  void whatIsKeptLiesInTheSound_data() {
    QTest::addColumn<qint64>("from");
    QTest::addColumn<qint64>("to");
    QTest::addColumn<QList<qint64>>("parts");
    QTest::newRow("all") << qint64{0} << qint64{kMaxFrame} << QList<qint64>{100, 200, 50};
    QTest::newRow("a middle") << qint64{50} << qint64{320} << QList<qint64>{50, 200, 20};
    QTest::newRow("behind it") << qint64{kMaxFrame} << qint64{kMaxFrame} << QList<qint64>{0, 0, 0};
    QTest::newRow("before it") << qint64{-900} << qint64{-800} << QList<qint64>{0, 0, 0};
    QTest::newRow("backwards") << qint64{300} << qint64{20} << QList<qint64>{0, 0, 0};
  }
  void whatIsKeptLiesInTheSound() {
    QFETCH(qint64, from);
    QFETCH(qint64, to);
    QFETCH(QList<qint64>, parts);
    ExtentPlan plan;
    plan.leadIn = 100;
    plan.body = 200;
    const Extent extent = extentOf(plan, 50, {from, to});
    QCOMPARE((QList<qint64>{extent.leadIn, extent.body, extent.tail}), parts);
    QVERIFY(extent.start >= 0 && extent.start <= 350);
  }

  // Each of a region's own values against the brief's.
  void whatARegionHasOfItsOwn_data() {
    QTest::addColumn<QString>("what");
    QTest::addColumn<QList<int>>("parts");  // of the brief's row, then of the region's own
    const QList<int> plain{4800, 24000, 9600};
    QTest::newRow("tail") << "tail" << plain + QList<int>{4800, 24000, 0};
    QTest::newRow("tail as heard") << "as-heard" << plain + QList<int>{4800, 24000, 9600};
    QTest::newRow("tail_seconds") << "tail_seconds" << plain + QList<int>{4800, 24000, 14400};
    QTest::newRow("tail_bars") << "tail_bars" << plain + QList<int>{4800, 24000, 96000};
    QTest::newRow("silence_seconds") << "silence" << plain + QList<int>{4800, 24000, 9600 + 2400};
    QTest::newRow("lead_in_seconds") << "lead_in_seconds" << plain + QList<int>{2400, 24000, 9600};
    QTest::newRow("lead_in_bars") << "lead_in_bars" << plain + QList<int>{48000, 24000, 9600};
    QTest::newRow("exact_seconds") << "exact" << plain + QList<int>{4800, 19200, 0};
    QTest::newRow("fades") << "fades" << plain + plain;
  }
  void whatARegionHasOfItsOwn() {
    QFETCH(QString, what);
    QFETCH(QList<int>, parts);
    Room room({test::sound(
                  1, 480000, [](int, Frame) { return 0.5; }, false)},
              24000);
    room.make.session.tempo = {{0, 120, 4, 4, {}}};  // a bar is 2 s
    room.make.session.regions[0].start = 96000;
    room.make.region("s", "Own", 192000, 24000);
    room.brief().heard.counts = Counts::EverythingHeard;
    room.ends().tail = Tail::Fixed;
    room.ends().tailSeconds = 0.2;
    room.ends().leadInSeconds = 0.1;
    OwnEnds& own = room.make.session.regions[1].ends;
    if (what == "tail") own.tail = Tail::None;
    if (what == "as-heard") own.tail = Tail::AsHeard;
    if (what == "tail_seconds") own.tailSeconds = 0.3;
    if (what == "tail_bars") own.tailBars = 1;
    if (what == "silence") own.silenceSeconds = 0.05;
    if (what == "lead_in_seconds") own.leadInSeconds = 0.05;
    if (what == "lead_in_bars") own.leadInBars = 0.5;
    if (what == "exact") own.exactSeconds = 0.5;
    if (what == "fades") own.fadeInMs = 10, own.fadeOutMs = 20;
    const auto rows = room.render();
    for (int i = 0; i < 2; ++i) {
      const auto found = partsOf(rows[static_cast<std::size_t>(i)]);
      for (int p = 0; p < 3; ++p) QCOMPARE(found[static_cast<std::size_t>(p)], parts[3 * i + p]);
    }
    const auto samples = room.file("Own_t0.wav")[0];
    QCOMPARE(samples.front(), what == "fades" ? 0.0 : 0.5);
    // A fixed tail has nothing of what sounds there; as heard it has all of it.
    QCOMPARE(samples.back(), what == "as-heard" || what == "exact" || what == "tail" ? 0.5 : 0.0);
  }

  void contradictionsAreRefused_data() {
    QTest::addColumn<QString>("what");
    QTest::addColumn<QString>("code");
    for (const char* what :
         {"exact and trim", "exact and picture", "lined up and trim", "tail twice", "lead-in twice"})
      QTest::newRow(what) << what << "contradicting-ends";
    for (const char* what : {"tail in bars", "lead-in in bars"}) QTest::newRow(what) << what << "no-bars";
    for (const char* what : {"exact alone", "picture and trim", "lined up", "bars and a tempo"})
      QTest::newRow(what) << what << "";
  }
  void contradictionsAreRefused() {
    QFETCH(QString, what);
    QFETCH(QString, code);
    Room room({decaying(0.1, 1)}, 24000);
    Ends& ends = room.ends();
    if (what.startsWith("exact")) ends.exactSeconds = 1;
    if (what.endsWith("trim")) ends.trimDb = -60;
    if (what.contains("picture")) ends.pictureFrames = true;
    if (what.startsWith("lined up")) ends.lengths = Lengths::LinedUp;
    ends.tail = Tail::Fixed;
    if (what == "tail twice") ends.tailSeconds = ends.tailBars = 1;
    if (what == "lead-in twice") ends.leadInSeconds = ends.leadInBars = 1;
    if (what == "tail in bars" || what == "bars and a tempo") ends.tailBars = 1;
    if (what == "lead-in in bars") ends.leadInBars = 1;
    if (what == "bars and a tempo" || what.endsWith("twice")) room.make.session.tempo = {{0, 120, 4, 4, {}}};
    const QJsonObject row = room.plan()[0].toObject();
    QCOMPARE(row["state"].toString() == "fault", !code.isEmpty());
    if (!code.isEmpty()) QVERIFY2(codes(row).contains(code), qPrintable(codes(row).join(' ')));
    room.render({}, code.isEmpty() ? 0 : 1);
    QCOMPARE(test::filesBelow(room.dir.filePath("Deliveries")).isEmpty(), !code.isEmpty());
  }

  // SMPTE ST 12-1 for 23.976 to 30 Hz, drop-frame included; 48 to 60 Hz are common practice, no source.
  void endsMoveOutToPictureFrames_data() {
    QTest::addColumn<QString>("name");
    QTest::addColumn<int>("numerator");
    QTest::addColumn<int>("denominator");
    QTest::addColumn<int>("rate");
    const std::map<QString, std::pair<int, int>> rates{{"23.976", {24000, 1001}},
                                                       {"24", {24, 1}},
                                                       {"25", {25, 1}},
                                                       {"29.97", {30000, 1001}},
                                                       {"29.97df", {30000, 1001}},
                                                       {"30", {30, 1}},
                                                       {"48", {48, 1}},
                                                       {"50", {50, 1}},
                                                       {"59.94", {60000, 1001}},
                                                       {"59.94df", {60000, 1001}},
                                                       {"60", {60, 1}}};
    for (const auto& [name, fraction] : rates)
      for (const int rate : {0, 44100, 96000})
        QTest::addRow("%s at %d", qPrintable(name), rate)
            << name << fraction.first << fraction.second << rate;
  }
  void endsMoveOutToPictureFrames() {
    QFETCH(QString, name);
    QFETCH(int, numerator);
    QFETCH(int, denominator);
    QFETCH(int, rate);
    Room room({test::sound(
                  1, 480000, [](int, Frame) { return 0.5; }, false)},
              24001);
    room.make.session.pictureRate = *parsePictureRate(name.toStdString());
    room.make.session.regions[0].start = 50003;
    room.brief().heard.counts = Counts::EverythingHeard;
    room.brief().files.rate = rate;
    room.ends().pictureFrames = true;
    const double fileRate = rate == 0 ? 48000 : rate;
    const double frame = fileRate * denominator / numerator;  // of a picture
    const double first = std::floor(50003.0 / 48000 * numerator / denominator);
    const double last = std::ceil((50003.0 + 24001) / 48000 * numerator / denominator);
    const auto row = room.render()[0];
    const auto [leadIn, body, tail, frames] = partsOf(row);
    QCOMPARE(body, std::llround(24001 * fileRate / 48000));
    QVERIFY(leadIn >= 0 && tail >= 0);
    QVERIFY(static_cast<double>(leadIn) < frame && static_cast<double>(tail) < frame);
    const double from = std::round(first * frame), to = std::round(last * frame);
    QCOMPARE(frames, std::llround(to - from));
    QCOMPARE(row["start"].toInteger(), std::llround(from * 48000 / fileRate));
    const auto samples = room.file("R_t0.wav")[0];
    if (leadIn > 0) QCOMPARE(samples[static_cast<std::size_t>(leadIn) - 1], 0.0);
    QVERIFY(std::abs(samples[static_cast<std::size_t>(leadIn) + 1000] - 0.5) < 1e-5);
    if (tail > 0) QCOMPARE(samples.back(), 0.0);
  }

  // --- the rest of the ends
  void leadInsTakeInWhatBeginsInThem() {
    Room room({test::sound(
                  1, 1000, [](int, Frame) { return 0.25; }, false)},
              10000);
    room.make.session.regions[0].start = 48000;
    Track& track = room.make.session.tracks[0];
    track.clips[0].start = 48000 - 2000;             // begins in the lead-in
    room.make.clip("t0", "m0", 48000 - 5500, 1000);  // begins before it
    room.ends().leadInSeconds = 0.1;
    const auto row = room.render()[0];
    QCOMPARE(partsOf(row), (std::array<qint64, 4>{4800, 10000, 0, 14800}));
    QCOMPARE(row["start"].toInteger(), 48000 - 4800);
    const auto samples = room.file("R_t0.wav")[0];
    QCOMPARE(samples[0], 0.0);
    QCOMPARE(samples[2799], 0.0);
    QCOMPARE(samples[2800], 0.25);
    QCOMPARE(samples[3799], 0.25);
    QCOMPARE(samples[3800], 0.0);
  }

  // Linear, power, smooth, slow and fast at both ends; a fade in begins at 0, a fade out ends one step over
  // it.
  void edgesFollowTheirFormulas() {
    Room room({test::sound(
                  1, 48000, [](int, Frame) { return 0.5; }, false)},
              48000);
    room.make.session.regions[0].finish = false;
    room.brief().heard.counts = Counts::EverythingHeard;
    room.ends().fadeInMs = 10;
    room.ends().fadeOutMs = 20;
    const std::function<double(double)> shapes[]{
        [](double t) { return t; }, [](double t) { return std::sin(kPi / 2 * t); },
        [](double t) { return (1 - std::cos(kPi * t)) / 2; }, [](double t) { return t * t; },
        [](double t) { return 1 - (1 - t) * (1 - t); }};
    for (int shape = 0; shape < 5; ++shape) {
      room.ends().fadeInShape = room.ends().fadeOutShape = static_cast<FadeShape>(shape);
      room.render();
      const auto samples = room.file("R_t0.wav")[0];
      QCOMPARE(samples.size(), 48000u);
      for (int i = 0; i < 480; ++i)
        QVERIFY(std::abs(samples[static_cast<std::size_t>(i)] - 0.5 * shapes[shape](i / 480.0)) < 1e-7);
      QCOMPARE(samples[480], 0.5);
      QCOMPARE(samples[48000 - 961], 0.5);
      for (int c = 1; c <= 960; ++c)
        QVERIFY(std::abs(samples[static_cast<std::size_t>(48000 - c)] - 0.5 * shapes[shape](c / 960.0)) <
                1e-7);
    }
  }

  void silenceIsTrimmedOffEachFile() {
    const auto between = [](Frame from, Frame to) {
      return test::sound(
          1, 48000,
          [=](int, Frame i) { return i >= from && i < to ? (i % 2 ? 0.3 : -0.3)
                                     : i % 2             ? 0.0005
                                                         : -0.0005; },
          false);
    };
    Room room({between(4800, 24000), between(10, 47990)}, 48000);
    room.make.session.regions[0].finish = false;
    room.make.session.regions[0].start = 960;
    for (Track& track : room.make.session.tracks) track.clips[0].start = 960;
    room.ends().trimDb = -60;
    room.ends().silenceSeconds = 0.01;
    const QJsonObject before = room.plan()[0].toObject();
    QVERIFY(before["frames"].isNull());
    QCOMPARE(before["frames_max"].toInteger(), 48480);
    const auto rows = room.render();
    QCOMPARE(partsOf(rows[0])[3], 24000 - 4800 + 480);
    QCOMPARE(rows[0]["start"].toInteger(), 960 + 4800);
    QCOMPARE(partsOf(rows[1])[3], 47980 + 480);
    const auto samples = room.file("R_t0.wav")[0];
    QVERIFY(std::abs(samples[0]) > 0.29 && std::abs(samples[19199]) > 0.29 && samples[19200] == 0);
    QCOMPARE(partsOf(room.plan()[0].toObject()), partsOf(rows[0]));
    QCOMPARE(room.plan()[0].toObject()["start"].toInteger(), 5760);
    // Sums of files that are moved apart are not judged.
    for (const QJsonObject& event : test::renderOf(room.make.save(), {"--out", room.dir.filePath("other")}))
      if (event["event"].toString() == "sum") QCOMPARE(event["verdict"].toString(), QString("not-judged"));
    // Of silence alone nothing is left, and it says so.
    room.ends().trimDb = -3;
    const auto failed = room.render({"--out", room.dir.filePath("third")}, 1);
    QVERIFY(failed[0]["error"].toString().contains("under −3.0 dBFS"));
    QVERIFY(test::filesBelow(room.dir.filePath("third")).isEmpty());
  }

  // Nothing is faded by itself at the edges of clips: a jump of over −40 dBFS is told, and so is an offset
  // over −60 dBFS. Clips that go on in the next one, and faded ones, have no jump; twins just below are not
  // told.
  void jumpsAndOffsetsAreTold_data() {
    QTest::addColumn<double>("level");
    QTest::addColumn<QString>("how");
    QTest::addColumn<QStringList>("expected");
    QTest::newRow("a jump") << 0.0101 << "alternating" << QStringList{"clip-step"};
    QTest::newRow("none") << 0.0099 << "alternating" << QStringList{};
    QTest::newRow("faded") << 0.5 << "faded" << QStringList{};
    QTest::newRow("two that touch") << 0.5 << "split and faded" << QStringList{};
    QTest::newRow("an offset") << 0.00101 << "offset" << QStringList{"offset"};
    QTest::newRow("no offset") << 0.00099 << "offset" << QStringList{};
  }
  void jumpsAndOffsetsAreTold() {
    QFETCH(double, level);
    QFETCH(QString, how);
    QFETCH(QStringList, expected);
    Room room(
        {test::sound(
            1, 24000, [&](int, Frame i) { return how == "offset" || i % 2 == 0 ? level : -level; }, false)},
        24000);
    std::vector<Clip>& clips = room.make.session.tracks[0].clips.writable();
    if (how.startsWith("split")) {
      clips[0].length = 12000;
      room.make.clip("t0", "m0", 12000, 12000, 12000);
    }
    if (how.endsWith("faded")) clips.front().fadeIn.length = clips.back().fadeOut.length = 100;
    const auto row = room.render()[0];
    QCOMPARE(codes(row), expected);
    for (const auto& remark : row["remarks"].toArray())
      QCOMPARE(remark.toObject()["severity"].toString(), QString("note"));
  }

  // Every source has a file, and all are equally long.
  void filesLineUp() {
    Room room({test::noise(1, 24000, 1), test::noise(1, 1000, 2)}, 24000);
    room.make.session.tracks[1].clips[0].start = 30000;  // behind the region
    QCOMPARE(room.plan().size(), 1);
    room.ends().lengths = Lengths::LinedUp;
    const auto rows = room.render();
    QCOMPARE(rows.size(), 2u);
    QCOMPARE(partsOf(rows[0]), partsOf(rows[1]));
    const auto silent = room.file("R_t1.wav")[0];
    QCOMPARE(silent, std::vector<double>(24000, 0.0));
  }

  // --- another rate
  void convertedLengths() {
    std::mt19937 random(3);
    const int rates[]{44100, 48000, 88200, 96000, 176400, 192000};
    std::uniform_int_distribution<std::size_t> which(0, 5);
    std::uniform_int_distribution<Frame> length(1, 30000);
    for (int i = 0; i < 300; ++i) {
      const int in = rates[which(random)], out = rates[which(random)];
      const Frame frames = length(random);
      Collected collected;
      FinishChain chain(monoPlan(in, out, frames), collected);
      const std::vector<float> samples(static_cast<std::size_t>(frames), 0.1f);
      const float* block[]{samples.data()};
      QVERIFY(chain.take({block, frames}).has_value() && chain.end().has_value());
      QCOMPARE(static_cast<Frame>(collected.samples.size()), (frames * out * 2 + in) / (in * 2));
      QCOMPARE(chain.extent().frames(), static_cast<Frame>(collected.samples.size()));
    }
  }

  // A sine against its formula, without delay; files of adjacent spans join.
  void convertedSines_data() {
    QTest::addColumn<int>("in");
    QTest::addColumn<int>("out");
    for (const int in : {44100, 48000, 96000})
      for (const int out : {44100, 48000, 88200, 96000, 192000})
        if (in != out) QTest::addRow("%d to %d", in, out) << in << out;
  }
  void convertedSines() {
    QFETCH(int, in);
    QFETCH(int, out);
    const double hertz = 997;
    Room room({test::sound(
                  1, in * 2,
                  [&](int, Frame i) { return 0.5 * std::sin(2 * kPi * hertz * static_cast<double>(i) / in); },
                  false)},
              in / 2, in);
    room.make.session.regions[0].start = in / 4;
    room.make.region("s", "S", in / 4 + in / 2, in / 4);
    room.brief().heard.counts = Counts::EverythingHeard;
    room.brief().files.rate = out;
    const auto rows = room.render();
    QCOMPARE(codes(test::planOf(room.make.save())["briefs"].toArray()[0].toObject()).contains("higher-rate"),
             out > in);
    double worst = 0;
    for (const auto& [file, seconds] : {std::pair("R_t0.wav", 0.25), {"S_t0.wav", 0.75}}) {
      const auto samples = room.file(file)[0];
      for (std::size_t i = 0; i < samples.size(); ++i)
        worst = std::max(
            worst, std::abs(samples[i] -
                            0.5 * std::sin(2 * kPi * hertz * (static_cast<double>(i) / out + seconds))));
    }
    QVERIFY2(20 * std::log10(worst) < -120, qPrintable(QString::number(20 * std::log10(worst))));
  }

  // --- the place in the session, by EBU Tech 3285 v2: description 256, originator 32, reference 32, date 10,
  // time 8, time reference 8, version 2, UMID 64, five loudness values, 180 reserved.
  void broadcastChunk() {
    Room room({test::noise(1, 96000, 1)}, 24000);
    room.make.session.pictureRate = *parsePictureRate("29.97df");
    room.make.session.startPicture = 107'892;  // 01:00:00;00, SMPTE ST 12-1
    room.make.session.regions[0].start = 12000;
    room.brief().heard.counts = Counts::EverythingHeard;
    room.brief().files.encoding = Encoding::Pcm24;
    room.brief().files.rate = 96000;
    room.ends().leadInSeconds = 0.05;
    room.render();
    const QByteArray bytes = room.bytes("R_t0.wav");
    QCOMPARE(bytes.mid(0, 4), QByteArray("RIFF"));
    QCOMPARE(bytes.mid(8, 8), QByteArray("WAVEbext"));
    QCOMPARE(qFromLittleEndian<quint32>(bytes.data() + 16), 602u);
    const QByteArray chunk = bytes.mid(20, 602);
    // 107 892 pictures of 1001/30000 s are 3599.9964 s.
    const quint64 expected = std::llround(107892.0 * 1001 / 30000 * 96000) + (12000 - 2400) * 2;
    QCOMPARE(qFromLittleEndian<quint64>(chunk.data() + 338), expected);
    QCOMPARE(qFromLittleEndian<quint16>(chunk.data() + 346), quint16{2});
    for (int i = 0; i < 5; ++i)
      QCOMPARE(qFromLittleEndian<quint16>(chunk.data() + 412 + 2 * i), quint16{0x7FFF});
    QCOMPARE(chunk.mid(320, 18),
             QDate::currentDate().toString("yyyy-MM-dd").toLatin1() + "00:00:00");  // the edition's day
    QCOMPARE(qFromLittleEndian<quint32>(bytes.data() + 4), static_cast<quint32>(bytes.size() - 8));
    const QString file = room.dir.filePath("Deliveries/R_t0.wav");
    const auto probed = QJsonDocument::fromJson(
        test::run("ffprobe", {"-v", "error", "-show_format", "-of", "json", file}).out);
    QCOMPARE(probed["format"]["tags"]["time_reference"].toString(), QString::number(expected));
    const QByteArray milliseconds = test::run("mediainfo", {"--Inform=Audio;%Delay%", file}).out;
    QCOMPARE(milliseconds.trimmed().toULongLong(), (expected + 48) / 96);
  }

  // Whatever the head says, sample data begin behind it.
  void headsKeepTheirLength() {
    for (const EncodingInfo& encoding : kEncodings)
      for (const int channels : {1, 2, 4, 6, 8}) {
        if (encoding.container != Container::Wav) continue;
        WavHead head;
        head.form = {encoding.encoding, channels};
        FileData data;
        const std::string before = head.bytes(data);
        head.dataBytes = 123'457;
        data.timeReference = Frame{1} << 40;
        const std::string after = head.bytes(data);
        QCOMPARE(after.size(), before.size());
        QCOMPARE(qFromLittleEndian<quint32>(after.data() + 4),
                 static_cast<quint32>(after.size() - 8 + 123'458));
        QCOMPARE(qFromLittleEndian<quint32>(after.data() + after.size() - 4), 123'457u);
      }
  }
};

QTEST_APPLESS_MAIN(EndsTest)
#include "tst_ends.moc"
