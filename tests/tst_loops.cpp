// Loops: how good a join is measured to be, five ways to make one, and what files say of it.
#include <cmath>
#include <numbers>
#include <QtEndian>
#include <QtTest>
#include <random>

#include "check/file_seam.h"
#include "formats/file_facts.h"
#include "formats/wav_mark_chunks.h"
#include "loop/blend.h"
#include "loop/first_onset.h"
#include "media/sound_file.h"
#include "play/player.h"
#include "support.h"

using namespace octaphon;
using test::Samples;

namespace {

constexpr double kPi = std::numbers::pi;
constexpr int kRate = 48000;

Lap lapOf(const std::vector<double>& samples, int rate = kRate) {
  Lap lap{rate, {{}}};
  for (const double sample : samples) lap.channels[0].push_back(static_cast<float>(sample));
  return lap;
}

std::vector<double> sineOf(double hertz, Frame frames) {
  std::vector<double> samples;
  for (Frame i = 0; i < frames; ++i)
    samples.push_back(0.5 * std::sin(2 * kPi * hertz * static_cast<double>(i) / kRate));
  return samples;
}

std::vector<double> noiseOf(Frame frames, unsigned seed, double level = 0.1) {
  std::mt19937 random(seed);
  std::normal_distribution<double> normal(0, level);
  std::vector<double> samples(static_cast<std::size_t>(frames));
  for (double& sample : samples) sample = normal(random);
  return samples;
}

void hit(std::vector<double>& bar, Frame at, double level, double hertz, double decay) {
  static const std::vector<double> noise = noiseOf(kRate / 2, 5, 0.3);
  for (std::size_t i = 0; i < noise.size() && static_cast<std::size_t>(at) + i < bar.size(); ++i) {
    const double t = static_cast<double>(i) / kRate;
    bar[static_cast<std::size_t>(at) + i] +=
        level * std::exp(-t / decay) * (std::sin(2 * kPi * hertz * t) + noise[i] * std::exp(-t / 0.01));
  }
}

/// A bar of four beats with a hit on the downbeat.
std::vector<double> barOf(double bpm) {
  const auto beat = static_cast<Frame>(std::llround(kRate * 60 / bpm));
  std::vector<double> bar(static_cast<std::size_t>(4 * beat));
  hit(bar, 0, 0.8, 60, 0.08);
  for (int i = 0; i < 4; ++i) hit(bar, i * beat, 0.3, 200, 0.08);
  for (int i = 0; i < 8; ++i) hit(bar, i * beat / 2, 0.1, 2000, 0.02);
  return bar;
}

/// The middle of a file, by its own channels.
Lap readLap(const QString& file) {
  auto sound = SoundFile::open(file.toStdString());
  Lap lap;
  if (!sound) return lap;
  lap.rate = sound->info().rate;
  const auto channels = static_cast<std::size_t>(sound->info().channels);
  lap.channels.resize(channels);
  std::vector<float> turn(4096 * channels);
  for (Frame got; (got = sound->read(turn.data(), 4096)) > 0;)
    for (std::size_t i = 0; i < static_cast<std::size_t>(got) * channels; ++i)
      lap.channels[i % channels].push_back(turn[i]);
  return lap;
}

double differenceDb(const Samples& a, const Samples& b, Frame from = 0) {
  double largest = 0;
  for (std::size_t c = 0; c < b.size(); ++c)
    for (std::size_t i = 0; i < b[c].size(); ++i)
      largest = std::max(largest, std::abs(a[c][static_cast<std::size_t>(from) + i] - b[c][i]));
  return largest > 0 ? 20 * std::log10(largest) : -400;
}

/// Bursts on two tracks, in laps of `body` frames from 2 s on; one begins before and one runs over the end.
struct Room {
  QTemporaryDir dir;
  test::SessionMaker make{dir.path()};
  static constexpr Frame kStart = 2 * kRate;

  explicit Room(Frame body, int laps = 1) {
    make.medium("short", burst(kRate / 3, 1), kRate, test::Depth::Float);
    make.medium("long", burst(2 * kRate, 2), kRate, test::Depth::Float);
    make.track("a");
    make.track("b");
    for (int lap = 0; lap < laps; ++lap) {
      for (int i = 0; i < 3; ++i) make.clip("a", "short", kStart + lap * body + i * body / 3, kRate / 3);
      make.clip("b", "long", kStart + lap * body + body / 2, 2 * kRate);
    }
    make.region("r", "R", kStart, body);
  }

  static Samples burst(Frame frames, unsigned seed) {
    const std::vector<double> noise = noiseOf(frames, seed);
    return test::sound(
        2, frames,
        [&](int c, Frame i) {
          return noise[static_cast<std::size_t>(i)] * (c == 0 ? 1 : 0.5) *
                 std::exp(-static_cast<double>(i) / kRate / 0.3);
        },
        false);
  }

  Insert& insert(const std::string& effect, std::map<std::string, double> values) {
    for (Track& track : make.session.tracks) {
      Insert& made = track.inserts.emplace_back();
      made.id = effect + track.id;
      made.effect = effect;
      made.values = values;
    }
    return make.session.tracks[0].inserts.back();
  }

  Brief& brief(LoopWay way, const char* folder = "out") {
    Brief& made = make.brief(folder);
    made.files.encoding = Encoding::Float32;
    made.delivery.existing = Existing::Replace;
    made.delivery.folder = folder;
    made.names.format = "{region}_{source}";
    made.heard.keyed = false;
    made.loop.way = way;
    return made;
  }
  std::vector<QJsonObject> render() {
    std::vector<QJsonObject> rows;
    for (const QJsonObject& event : test::renderOf(make.save(), {}))
      if (event["event"].toString() == "row") rows.push_back(event);
    std::sort(rows.begin(), rows.end(), [](const QJsonObject& a, const QJsonObject& b) {
      return a["key"].toString() < b["key"].toString();
    });
    return rows;
  }
  QJsonArray plan() { return test::planOf(make.save(), {})["rows"].toArray(); }
  QString path(const QString& name) const { return dir.filePath(name); }
  Samples file(const QString& name) const { return test::readSound(path(name)); }
};

QStringList codes(const QJsonObject& row) {
  QStringList codes;
  for (const auto& remark : row["remarks"].toArray()) codes << remark.toObject()["code"].toString();
  return codes;
}

}  // namespace

class LoopsTest : public QObject {
  Q_OBJECT
 private slots:
  // --- the seam, on buffers

  void joinsOfKnownWorth_data() {
    QTest::addColumn<QList<double>>("samples");
    QTest::addColumn<double>("least");
    QTest::addColumn<double>("most");
    const auto row = [](const char* name, const std::vector<double>& samples, double least, double most) {
      QTest::newRow(name) << QList<double>(samples.begin(), samples.end()) << least << most;
    };
    const auto longer = [](std::vector<double> samples, Frame frames) {
      samples.resize(samples.size() + static_cast<std::size_t>(frames));
      return samples;
    };
    row("silence", std::vector<double>(4800), 100, 100);
    row("nothing", {}, 100, 100);
    row("one frame", {0.5}, 90, 100);
    for (const double hertz : {50.0, 100.0, 440.0, 997.0}) {
      const auto whole = sineOf(hertz, kRate);
      row(qPrintable(QString("%1 Hz, whole").arg(hertz)), whole, 90, 100);
      row(qPrintable(QString("%1 Hz, a quarter short").arg(hertz)),
          {whole.begin(), whole.end() - std::lround(kRate / hertz / 4)}, 0, 50);
    }
    for (const double bpm : {75.0, 93.7, 120.0, 140.0}) {
      const auto bar = barOf(bpm);
      row(qPrintable(QString("a bar at %1").arg(bpm)), bar, 80, 100);
      row(qPrintable(QString("10 ms too long at %1").arg(bpm)), longer(bar, 480), 0, 40);
      row(qPrintable(QString("10 ms too short at %1").arg(bpm)), {bar.begin(), bar.end() - 480}, 0, 40);
    }
    // Longer than what is kept of it: the middle is left out, which is no part of the rhythm.
    auto bars = barOf(93.7);
    for (int i = 0; i < 2; ++i) bars.insert(bars.end(), bars.begin(), bars.end());
    row("four bars", bars, 80, 100);
    row("four bars, 10 ms too long", longer(bars, 480), 0, 40);
    auto ticks = std::vector<double>(2 * kRate);
    const auto tick = noiseOf(48, 9, 0.5);
    for (std::size_t i = 0; i < 4; ++i)
      std::copy(tick.begin(), tick.end(), ticks.begin() + static_cast<std::ptrdiff_t>(i) * kRate / 2);
    row("ticks that begin at once", ticks, 80, 100);
    row("ticks, 10 ms too long", longer(ticks, 480), 0, 40);
    auto single = std::vector<double>(2 * kRate);
    hit(single, 0, 0.8, 60, 0.08);
    row("a hit and nothing else", single, 80, 100);
    row("noise", noiseOf(3 * kRate, 3), 90, 100);
    auto fading = noiseOf(3 * kRate, 3);
    for (std::size_t i = 0; i < fading.size(); ++i)
      fading[i] *= 1 - 0.75 * static_cast<double>(i) / static_cast<double>(fading.size());
    row("noise that fades by 12 dB", fading, 0, 60);
  }
  void joinsOfKnownWorth() {
    QFETCH(QList<double>, samples);
    QFETCH(double, least);
    QFETCH(double, most);
    const Seam seam = measureSeam(lapOf({samples.begin(), samples.end()}));
    QVERIFY2(seam.score >= least && seam.score <= most,
             qPrintable(QString("%1 %2").arg(seam.score).arg(QString::fromStdString(seamText(seam)))));
  }

  void theFirstOnsetIsFound_data() {
    QTest::addColumn<double>("late");
    for (const double late : {0.0, 14.0, -6.5, 120.0})
      QTest::newRow(qPrintable(QString("%1 ms").arg(late))) << late;
    QTest::newRow("nothing begins") << 1e9;
  }
  void theFirstOnsetIsFound() {
    QFETCH(double, late);
    constexpr Frame kDownbeat = kRate / 2;
    auto take = noiseOf(2 * kRate, 4, 1e-4);
    if (late < 1e9) hit(take, kDownbeat + std::lround(late * kRate / 1000), 0.6, 150, 0.1);
    const auto found = firstOnsetMs(lapOf(take), kDownbeat);
    QCOMPARE(found.has_value(), late < 1e9);
    if (found) QVERIFY2(std::abs(*found - late) < 1, qPrintable(QString::number(*found)));
  }

  // What is kept of a long loop is all that its join is judged and heard by.
  void whatIsAroundALoopIsEnough_data() {
    QTest::addColumn<Frame>("frames");
    QTest::newRow("short") << Frame{3 * kRate};
    QTest::newRow("long") << Frame{60 * kRate};
  }
  void whatIsAroundALoopIsEnough() {
    QFETCH(Frame, frames);
    const std::vector<double> all = noiseOf(frames + 2 * kRate, 8);
    const LoopPlace place{kRate, frames};
    HeardLoop heard = HeardLoop::around(place, 960, kRate, 1, {0, static_cast<Frame>(all.size())});
    const Lap whole = lapOf(all);
    for (Frame at = 0; at < whole.frames(); at += 1000) {
      const float* const channel = whole.channels[0].data() + at;
      heard.take(&channel, at, std::min<Frame>(1000, whole.frames() - at));
    }
    QVERIFY(heard.sound.frames() <= 26 * kRate);
    for (const LoopPlace& moved :
         {place, LoopPlace{kRate - 480, frames + 7}, LoopPlace{kRate + 481, frames - 999}}) {
      QVERIFY(heard.holds(moved));
      QCOMPARE(heard.seamAt(moved).score, measureSeam(partOf(whole, moved.start, moved.length)).score);
      QCOMPARE(heard.at(0, moved.start), whole.channels[0][static_cast<std::size_t>(moved.start)]);
    }
    QVERIFY(!heard.holds({kRate, frames + 2 * kRate}) && !heard.holds({-1, frames}) &&
            !heard.holds({kRate, 0}));
    // The next zero on either side, of the very sound.
    const Frame zero = heard.nextZero(place.end(), 1).value();
    QVERIFY(zero > place.end());
    for (Frame at = place.end() + 1; at <= zero; ++at)
      QCOMPARE((heard.at(0, at - 1) < 0) != (heard.at(0, at) < 0), at == zero);
    QCOMPARE(heard.nextZero(zero + 1, -1).value(), zero);
  }

  // Over and over without a gap, and the join as it is.
  void theSeamIsHeardOverAndOver() {
    const auto samples = sineOf(100, 3 * kRate);
    const LoopPlace place{100, 2 * kRate};
    HeardLoop heard = HeardLoop::around(place, 0, kRate, 1, {0, 3 * kRate});
    const Lap whole = lapOf(samples);
    const float* const channel = whole.channels[0].data();
    heard.take(&channel, 0, whole.frames());
    const SeamLoop loop = seamLoopOf(heard, place, 0.25);
    QCOMPARE(loop.frames(), Frame{kRate / 2});
    for (Frame i = -100; i < 100; ++i) {
      const Frame from = i < 0 ? place.end() + i : place.start + i;
      QCOMPARE(loop.stereo[static_cast<std::size_t>(2 * (loop.join + i))],
               whole.channels[0][static_cast<std::size_t>(from)]);
    }
    QTemporaryDir dir;
    MediaCache cache(dir.path().toStdString());
    Player player(std::make_shared<const Session>(), nullptr, cache);
    player.start(loop);
    std::vector<float> heardNow(static_cast<std::size_t>(2 * 480));
    std::vector<float> all;
    while (all.size() < 5 * loop.stereo.size()) {
      const Frame at = player.position();
      const Frame inside = static_cast<Frame>(all.size() / 2) % loop.frames();
      QCOMPARE(at, inside < loop.join ? place.end() - loop.join + inside : place.start + inside - loop.join);
      // What is not there yet is no gap: it comes the next time.
      const Frame got = player.read(heardNow.data(), 480);
      all.insert(all.end(), heardNow.begin(), heardNow.begin() + 2 * got);
    }
    for (std::size_t i = 0; i < all.size(); ++i) QCOMPARE(all[i], loop.stereo[i % loop.stereo.size()]);
    QVERIFY(!player.atEnd());
  }

  void itSaysHowLateTheNextBeatIs() {
    auto bar = barOf(120);
    QVERIFY(std::abs(measureSeam(lapOf(bar)).pulseMs().value()) < 2);
    bar.resize(bar.size() - 480);
    const Seam early = measureSeam(lapOf(bar));
    QVERIFY2(std::abs(*early.pulseMs() + 10) < 2, qPrintable(QString::number(*early.pulseMs())));
    QVERIFY(seamText(early).find("10 ms early") != std::string::npos);
  }

  // A whole real loop joins better than the same one cut short.
  // Sounds: CC0, Debian's package sonic-pi-samples.
  void realLoopsAreToldFromCutOnes() {
    int better = 0, all = 0;
    QString told;
    for (const QString& file : QDir("/usr/share/sonic-pi/samples").entryList({"loop_*.flac"})) {
      const Lap whole = readLap("/usr/share/sonic-pi/samples/" + file);
      const auto scoreOf = [&](double share) {
        return measureSeam(partOf(whole, 0, static_cast<Frame>(static_cast<double>(whole.frames()) * share)))
            .score;
      };
      const double score = scoreOf(1), seven = scoreOf(0.93), thirteen = scoreOf(0.87);
      better += score > seven && score > thirteen ? 1 : 0;
      told += QString("%1 %2 %3 %4; ").arg(file).arg(score).arg(seven).arg(thirteen);
      ++all;
    }
    QVERIFY2(all >= 10, "the sounds of sonic-pi-samples are not there: ./setup.sh installs them");
    QVERIFY2(better * 10 >= all * 8, qPrintable(told));
  }

  // Ambiences join better where they are blended. Sounds: as above.
  void ambiencesAreBetterBlended() {
    int better = 0, all = 0;
    QString told;
    for (const char* name :
         {"ambi_choir", "ambi_haunted_hum", "ambi_lunar_land", "ambi_glass_hum", "ambi_drone"}) {
      const Lap sound = readLap(QString("/usr/share/sonic-pi/samples/%1.flac").arg(name));
      const Frame blend = sound.frames() / 4, body = sound.frames() / 2;
      const Lap plain = partOf(sound, blend, body);
      Lap blended = plain;
      const Lap coming = partOf(sound, 0, blend);
      const bool isAlike = correlationOf(partOf(sound, body, blend), coming) >= kAlike;
      for (std::size_t c = 0; c < blended.channels.size(); ++c)
        for (Frame i = 0; i < blend; ++i) {
          const double place = (static_cast<double>(i) + 0.5) / static_cast<double>(blend);
          const BlendGains gains = isAlike ? equalGain(place) : equalPower(place);
          float& sample = blended.channels[c][static_cast<std::size_t>(body - blend + i)];
          sample = static_cast<float>(sample * gains.going +
                                      coming.channels[c][static_cast<std::size_t>(i)] * gains.coming);
        }
      const double before = measureSeam(plain).score, after = measureSeam(blended).score;
      better += after > before ? 1 : 0;
      told += QString("%1 %2 %3; ").arg(name).arg(before).arg(after);
      ++all;
    }
    QVERIFY2(better * 10 >= all * 8, qPrintable(told));
  }

  void theSearchLeadsBackToWholePeriods_data() {
    QTest::addColumn<double>("hertz");
    for (const double hertz : {50.0, 100.0, 220.0, 440.0})
      QTest::newRow(qPrintable(QString::number(hertz))) << hertz;
  }
  void theSearchLeadsBackToWholePeriods() {
    QFETCH(double, hertz);
    const double period = kRate / hertz;
    const Lap sound = lapOf(sineOf(hertz, kRate));
    const auto cut = static_cast<Frame>(std::lround(kRate - period / 4));
    const auto found = searchLoop(sound, {0, cut}, {framesOf(0.03, kRate)});
    const double periods = static_cast<double>(found.front().place.length) / period;
    QVERIFY2(std::abs(periods - std::round(periods)) * period <= 0.5,
             qPrintable(QString::number(found.front().place.length)));
    for (std::size_t i = 1; i < found.size(); ++i) QVERIFY(found[i].seam.score <= found[i - 1].seam.score);
  }

  void theSearchKeepsToItsRoom() {
    const Lap sound = lapOf(noiseOf(kRate, 9));
    const LoopPlace asked{1000, 40000};
    for (const LoopCandidate& found : searchLoop(sound, asked, {300}))
      QVERIFY(std::abs(found.place.start - 1000) <= 300 && std::abs(found.place.end() - 41000) <= 300);
    for (const LoopCandidate& found : searchLoop(sound, asked, {300, true}))
      QCOMPARE(found.place.length, 40000);
    // At the very ends of a sound there is room to one side only.
    for (const LoopCandidate& found : searchLoop(sound, {0, kRate}, {300}))
      QVERIFY(found.place.start >= 0 && found.place.end() <= kRate);
  }

  // --- ways

  // Linear sessions: what is folded is what a later lap would be, below the limit for sums.
  void foldIsAnInnerLap_data() {
    QTest::addColumn<qint64>("body");
    QTest::newRow("tail shorter than the body") << qint64{4 * kRate};
    QTest::newRow("three times longer") << qint64{kRate};
    QTest::newRow("much longer, of no round length") << qint64{kRate / 3 + 77};
  }
  void foldIsAnInnerLap() {
    QFETCH(qint64, body);
    Room room(body);
    room.insert("reverb", {{"decay", 1.0}, {"mix", 40}});
    for (const auto& [way, folder] : {std::pair(LoopWay::Fold, "fold"), std::pair(LoopWay::InnerLap, "lap")})
      room.brief(way, folder).what.tracks = {true, {}};
    for (const QJsonObject& row : room.render()) {
      QCOMPARE(row["frames"].toInteger(), body);
      QVERIFY(!codes(row).contains("laps-differ"));
    }
    for (const char* name : {"R_a.wav", "R_b.wav", "R_mix.wav"}) {
      const double difference =
          differenceDb(room.file(QString("fold/") + name), room.file(QString("lap/") + name));
      QVERIFY2(difference < -120, qPrintable(QString::number(difference)));
    }
    // Stems of a loop add up to the looping mix.
    Samples sum = room.file("fold/R_a.wav");
    const Samples other = room.file("fold/R_b.wav");
    for (std::size_t c = 0; c < sum.size(); ++c)
      for (std::size_t i = 0; i < sum[c].size(); ++i) sum[c][i] += other[c][i];
    QVERIFY(differenceDb(sum, room.file("fold/R_mix.wav")) < -120);
    for (const auto& row : room.plan()) QCOMPARE(row.toObject()["state"].toString(), "up-to-date");
  }

  // With dynamics and something that moves, an inner lap is that lap of a long render; a folded one is not.
  void innerLapsAreThoseOfALongRender() {
    constexpr Frame kBody = kRate;
    const auto prepare = [](Room& room, int laps) {
      room.insert("compressor", {{"threshold", -40}, {"release", 200}});
      room.insert("equaliser", {{"bell1_gain", 12}, {"bell1_q", 2}});
      for (Track& track : room.make.session.tracks) {
        Automation& curve = track.automation.emplace_back();
        curve.target = "insert:equaliser" + track.id + ":bell1_freq";
        for (int lap = 0; lap < laps; ++lap) {  // up and down once a lap
          const Frame at = Room::kStart + lap * kBody;
          curve.points.push_back({at, 300, Segment::Linear, 0, {}});
          curve.points.push_back({at + kBody / 2, 3000, Segment::Linear, 0, {}});
        }
        curve.points.push_back({Room::kStart + laps * kBody, 300, Segment::Linear, 0, {}});
      }
    };
    Room room(kBody);
    prepare(room, 1);
    room.brief(LoopWay::InnerLap, "lap");
    room.brief(LoopWay::Fold, "fold");
    Brief& intro = room.brief(LoopWay::InnerLap, "intro");
    intro.loop.keepIntro = true;
    intro.loop.laps = 5;
    intro.ends.leadInSeconds = 0.5;
    int laps = 0;
    for (const QJsonObject& row : room.render()) {
      if (row["brief"].toString() == "lap")
        laps = static_cast<int>(row["loop"].toObject()["laps"].toInteger());
      QCOMPARE(codes(row).contains("fold-of-dynamics"), row["brief"].toString() == "fold");
      if (row["brief"].toString() != "intro") continue;
      QCOMPARE(row["loop"].toObject()["start"].toInteger(), kRate / 2 + 3 * kBody);
      QCOMPARE(row["frames"].toInteger(), kRate / 2 + 4 * kBody);
    }
    QVERIFY(laps >= 3);
    Room longer(kBody, laps);
    prepare(longer, laps);
    longer.make.session.regions[0].length = laps * kBody;
    longer.brief(LoopWay::None, "long");
    longer.render();
    const Samples whole = longer.file("long/R_mix.wav");
    const Frame kept = (laps - 2) * kBody;
    QVERIFY(differenceDb(whole, room.file("lap/R_mix.wav"), kept) < -120);
    QVERIFY(differenceDb(whole, room.file("fold/R_mix.wav"), kept) > -60);
    // The intro comes out of silence, half a second before the first lap.
    Samples head = room.file("intro/R_mix.wav");
    for (auto& channel : head)
      channel = {channel.begin() + kRate / 2, channel.begin() + kRate / 2 + 3 * kBody};
    QVERIFY(differenceDb(whole, head) < -120);
  }

  void lapsThatNeverMeetAreTold() {
    Room room(kRate);
    room.insert("reverb", {{"decay", 6}, {"mix", 60}});
    room.brief(LoopWay::InnerLap).loop.laps = 2;
    QVERIFY(codes(room.render()[0]).contains("laps-differ"));
  }

  // What feeds itself on for longer than anyone waits is folded up to a limit, and that is told.
  void whatHardlyEndsIsTold() {
    Room room(kRate / 2);
    room.insert("echo", {{"time", 4000}, {"feedback", 95}, {"mix", 50}});
    room.brief(LoopWay::Fold);
    const QJsonObject row = room.render()[0];
    QCOMPARE(row["frames"].toInteger(), kRate / 2);
    QVERIFY(codes(row).contains("tail-limited"));
  }

  // Through groups with effects, sends and curves: stems of a loop go the same way, and add up to the looping
  // mix, which is the inner lap of it all.
  void stemsOfALoopAddUp_data() {
    QTest::addColumn<LoopWay>("way");
    for (const LoopWay way :
         {LoopWay::Fold, LoopWay::InnerLap, LoopWay::Overlap, LoopWay::Blend, LoopWay::Plain})
      QTest::newRow(std::string(nameOf(way)).c_str()) << way;
  }
  void stemsOfALoopAddUp() {
    QFETCH(LoopWay, way);
    Room room(kRate);
    Session& session = room.make.session;
    Track& group = room.make.group("g");
    group.inserts = {{"v", "reverb", {}, true, {}, {{"mix", 40}, {"decay", 0.4}}, {}, {}}};
    for (Track& track : session.tracks)
      if (track.holdsClips()) track.group = "g";
    Track& hall = room.make.track("hall");
    hall.kind = TrackKind::Return;
    hall.inserts = {{"e", "echo", {}, true, {}, {{"time", 130}, {"feedback", 20}}, {}, {}}};
    Track& a = *findTrack(session, "a");
    a.sends = {{"s", "hall", -6, false, true, {}}};
    a.automation = {{"gain",
                     true,
                     {{Room::kStart, 0, Segment::Linear, 0, {}},
                      {Room::kStart + kRate / 2, -12, Segment::Linear, 0, {}},
                      {Room::kStart + kRate, 0, Segment::Linear, 0, {}}},
                     {}}};
    Brief& brief = room.brief(way);
    brief.what.tracks = {true, {}};
    brief.loop.blendMs = 60;
    for (const QJsonObject& event : test::renderOf(room.make.save(), {}))
      if (event["event"].toString() == "sum") QCOMPARE(event["verdict"].toString(), "adds-up");
    // What was written, too, but for its rounding to 32 bit.
    const Samples mix = room.file("out/R_mix.wav");
    Samples sum = mix;
    for (auto& channel : sum) std::fill(channel.begin(), channel.end(), 0.0);
    int stems = 0;
    for (const QString& file : QDir(room.path("out")).entryList({"R_*.wav"})) {
      if (file == "R_mix.wav") continue;
      const Samples stem = room.file("out/" + file);
      QCOMPARE(stem[0].size(), mix[0].size());
      for (std::size_t c = 0; c < sum.size(); ++c)
        for (std::size_t i = 0; i < sum[c].size(); ++i) sum[c][i] += stem[c][i];
      ++stems;
    }
    QVERIFY(stems >= 2);
    QVERIFY2(differenceDb(sum, mix) < -110, qPrintable(QString::number(differenceDb(sum, mix))));
  }

  // A clip set is a loop as a region is, its own way included.
  void clipSetsLoop() {
    Room room(kRate);
    room.insert("reverb", {{"decay", 0.5}, {"mix", 50}});
    ClipSet& set = room.make.session.clipSets.writable().emplace_back();
    set.id = "s";
    set.name = "Set";
    for (const Track& track : room.make.session.tracks)
      for (const Clip& clip : track.clips) set.clips.push_back(clip.id);
    set.span = TimeSpan{Room::kStart, kRate};
    set.loop.way = LoopWay::Fold;
    Brief& brief = room.brief(LoopWay::None, "set");
    brief.where.regions = {false, {}};
    brief.where.clipSets = {true, {}};
    room.brief(LoopWay::Fold, "region");
    const auto rows = room.render();
    const QJsonObject loop = rows[0]["loop"].toObject();
    QCOMPARE(loop["way"].toString(), "fold");
    QCOMPARE(loop["length"].toInteger(), kRate);
    QVERIFY(differenceDb(room.file("set/Set_mix.wav"), room.file("region/R_mix.wav")) < -120);
    set.loop.way = LoopWay::Blend;
    QCOMPARE(room.plan()[0].toObject()["loop"].toObject()["way"].toString(), "blend");
  }

  // 1.5 s + 10 s + 2.5 s = 14 s; 10 s is 6 bars of 3/4 at 108 BPM (common practice, no source).
  void overlapHandsOverItsLength_data() {
    QTest::addColumn<int>("rate");
    QTest::addColumn<QList<qint64>>("frames");
    QTest::newRow("48 kHz") << 0 << QList<qint64>{72000, 480000, 672000};
    QTest::newRow("44.1 kHz") << 44100 << QList<qint64>{66150, 441000, 617400};
  }
  void overlapHandsOverItsLength() {
    QFETCH(int, rate);
    QFETCH(QList<qint64>, frames);
    Room room(10 * kRate);
    room.make.session.tempo = {{0, 108, 3, 4, {}}};
    Brief& brief = room.brief(LoopWay::Overlap);
    brief.loop.bars = 6;
    brief.files.rate = rate;
    brief.ends.leadInSeconds = 1.5;
    brief.ends.tail = Tail::Fixed;
    brief.ends.tailSeconds = 2.5;
    const auto check = [&](const QJsonObject& row) {
      const QJsonObject loop = row["loop"].toObject();
      QCOMPARE(loop["way"].toString(), "overlap");
      QCOMPARE(
          (QList<qint64>{loop["start"].toInteger(), loop["length"].toInteger(), row["frames"].toInteger()}),
          frames);
      QCOMPARE(loop["beats"].toDouble(), 18.0);
    };
    check(room.plan()[0].toObject());
    check(room.render()[0]);
  }

  // Bars are rounded once, from the region's start; beats are exact, also across a change of tempo.
  void bodiesOfBars_data() {
    QTest::addColumn<double>("bpm");
    QTest::addColumn<double>("second");  // from the 12th second on
    QTest::addColumn<qint64>("frames");
    QTest::newRow("93.7") << 93.7 << 0.0 << qint64{std::llround(16 * 60 / 93.7 * kRate)};
    // Seven of 12 s are left at 93.7 from 5 s on; the rest of 16 beats at 110.
    const double before = 7 * 93.7 / 60;
    QTest::newRow("to 110") << 93.7 << 110.0 << qint64{std::llround((7 + (16 - before) * 60 / 110) * kRate)};
  }
  void bodiesOfBars() {
    QFETCH(double, bpm);
    QFETCH(double, second);
    QFETCH(qint64, frames);
    Room room(kRate);
    room.make.session.regions[0].start = 5 * kRate;
    room.make.session.tempo = {{0, bpm, 4, 4, {}}};
    if (second > 0) room.make.session.tempo.push_back({12 * kRate, second, 4, 4, {}});
    room.brief(LoopWay::Fold).loop.bars = 4;
    const QJsonObject loop = room.plan()[0].toObject()["loop"].toObject();
    QVERIFY2(std::abs(loop["length"].toInteger() - frames) <= 1,
             qPrintable(QString::number(loop["length"].toInteger())));
    QCOMPARE(loop["beats"].toDouble(), 16.0);
  }

  // The level across a blend stays: noise by equal power, tones by equal gain. Mean of 20 seeds over windows
  // of 100 ms.
  void blendsKeepTheirLevel_data() {
    QTest::addColumn<bool>("isTone");
    QTest::newRow("noise") << false;
    QTest::newRow("tone") << true;
  }
  void blendsKeepTheirLevel() {
    QFETCH(bool, isTone);
    constexpr Frame kBody = 2 * kRate, kWindow = kRate / 10;
    QTemporaryDir dir;
    test::SessionMaker make(dir.path());
    for (int seed = 0; seed < 20; ++seed) {
      const std::string id = std::to_string(seed);
      const auto samples =
          isTone ? sineOf(200 + 10 * seed, 4 * kRate) : noiseOf(4 * kRate, 100 + static_cast<unsigned>(seed));
      make.medium(
          "m" + id,
          test::sound(
              1, 4 * kRate, [&](int, Frame i) { return samples[static_cast<std::size_t>(i)]; }, false),
          kRate, test::Depth::Float);
      if (seed == 0) make.track("t", 1);
      make.clip("t", "m" + id, seed * 5 * kRate, 4 * kRate);
      make.region("r" + id, "L" + id, seed * 5 * kRate + kRate, kBody);
    }
    Brief& brief = make.brief("B");
    brief.loop.way = LoopWay::Blend;
    brief.loop.blendMs = 500;
    brief.files.encoding = Encoding::Float32;
    brief.names.format = "{region}";
    brief.delivery.folder = "out";
    test::renderOf(make.save(), {});
    std::vector<double> power(static_cast<std::size_t>(kBody / kWindow), 0.0);
    for (int seed = 0; seed < 20; ++seed) {
      const Samples lap = test::readSound(dir.filePath(QString("out/L%1.wav").arg(seed)));
      QCOMPARE(static_cast<Frame>(lap[0].size()), kBody);
      for (std::size_t i = 0; i < lap[0].size(); ++i) power[i / kWindow] += lap[0][i] * lap[0][i];
    }
    const double inside = std::accumulate(power.begin(), power.begin() + 14, 0.0) / 14;
    for (std::size_t window = 14; window < power.size(); ++window) {
      const double change = 10 * std::log10(power[window] / inside);
      QVERIFY2(std::abs(change) < 0.5, qPrintable(QString("window %1: %2 dB").arg(window).arg(change)));
    }
  }

  // A plain join is moved to where the sound goes on like itself; where its length is given, it keeps that.
  void plainJoinsAreMoved() {
    QTemporaryDir dir;
    test::SessionMaker make(dir.path());
    make.medium(
        "m",
        test::sound(
            1, 4 * kRate,
            [&](int, Frame i) { return 0.5 * std::sin(2 * kPi * 100 * static_cast<double>(i) / kRate); },
            false),
        kRate, test::Depth::Float);
    make.track("t", 1);
    make.clip("t", "m", 0, 4 * kRate);
    make.region("r", "L", kRate / 2, 2 * kRate - 120);  // a quarter of a period short
    for (const char* folder : {"as-it-is", "moved", "kept"}) {
      Brief& brief = make.brief(folder);
      brief.loop.way = LoopWay::Plain;
      brief.loop.searchMs = *folder == 'a' ? 0 : 20;
      if (*folder == 'k') brief.loop.frames = 2 * kRate;
      brief.files.encoding = Encoding::Float32;
      brief.names.format = "{region}";
      brief.delivery.folder = folder;
    }
    const QJsonArray planned = test::planOf(make.save(), {})["rows"].toArray();
    QVERIFY(planned[1].toObject()["frames"].isNull());
    QVERIFY(planned[1].toObject()["loop"].toObject()["length"].isNull());
    QCOMPARE(planned[2].toObject()["frames"].toInteger(), 2 * kRate);
    std::map<QString, QJsonObject> rows;
    for (const QJsonObject& event : test::renderOf(make.save(), {}))
      if (event["event"].toString() == "row") rows[event["brief"].toString()] = event;
    QCOMPARE(rows["as-it-is"]["frames"].toInteger(), 2 * kRate - 120);
    QVERIFY(rows["as-it-is"]["seam"].toObject()["score"].toDouble() < 50);
    QCOMPARE(rows["moved"]["frames"].toInteger() % 480, 0);
    QVERIFY(rows["moved"]["seam"].toObject()["score"].toDouble() > 90);
    QCOMPARE(rows["kept"]["frames"].toInteger(), 2 * kRate);
    // What was found is remembered.
    const QJsonObject again = test::planOf(make.save(), {})["rows"].toArray()[1].toObject();
    QCOMPARE(again["frames"], rows["moved"]["frames"]);
    QCOMPARE(again["state"].toString(), "up-to-date");
  }

  // Places and gains are found in the mix: where it changes, files of other tracks go another way, too.
  void whatIsFoundInTheMixMakesAllStale_data() {
    QTest::addColumn<LoopWay>("way");
    QTest::addColumn<bool>("isFound");
    QTest::newRow("plain") << LoopWay::Plain << true;
    QTest::newRow("blend by likeness") << LoopWay::Blend << true;
    QTest::newRow("fold finds nothing") << LoopWay::Fold << false;
  }
  void whatIsFoundInTheMixMakesAllStale() {
    QFETCH(LoopWay, way);
    QFETCH(bool, isFound);
    Room room(kRate);
    Brief& brief = room.brief(way);
    brief.what.mix = false;
    brief.what.tracks = {true, {}};
    brief.heard.reach.stage = ReachStage::Clips;
    brief.loop.blendMs = 100;
    room.render();
    const auto stateOfA = [&] { return room.plan()[0].toObject()["state"].toString(); };
    QCOMPARE(stateOfA(), "up-to-date");
    room.make.session.tracks[1].clips[0].gainDb = -20;
    QCOMPARE(stateOfA(), isFound ? "stale" : "up-to-date");
  }

  // Converted with itself on both sides, at the ratio of its rounded lengths: 491 782 frames become 451 825,
  // and the error at the seam is no larger than elsewhere, against sines that come round exactly.
  void lapsAreConvertedWithThemselves() {
    constexpr Frame kBody = 491782, kOut = 451825;
    const auto sines = [](Frame i, Frame n) {
      const double turn = 2 * kPi * static_cast<double>(i) / static_cast<double>(n);
      return 0.3 * std::sin(1801 * turn) + 0.2 * std::sin(4003 * turn + 1);
    };
    QTemporaryDir dir;
    test::SessionMaker make(dir.path());
    make.medium("m",
                test::sound(
                    1, kBody, [&](int, Frame i) { return sines(i, kBody); }, false),
                kRate, test::Depth::Float);
    make.track("t", 1);
    make.clip("t", "m", 0, kBody);
    make.region("r", "L", 0, kBody);
    Brief& brief = make.brief("B");
    brief.what.mix = false;
    brief.what.tracks = {true, {}};
    brief.heard.reach.stage = ReachStage::Clips;
    brief.loop.way = LoopWay::Fold;
    brief.files.encoding = Encoding::Float32;
    brief.files.rate = 44100;
    brief.names.format = "{region}";
    brief.delivery.folder = "out";
    test::renderOf(make.save(), {});
    const Samples lap = test::readSound(dir.filePath("out/L.wav"));
    QCOMPARE(static_cast<Frame>(lap[0].size()), kOut);
    double atSeam = 0, elsewhere = 0;
    for (Frame i = 0; i < kOut; ++i) {
      const double error = std::abs(lap[0][static_cast<std::size_t>(i)] - sines(i, kOut));
      (i < 200 || i >= kOut - 200 ? atSeam : elsewhere) =
          std::max(i < 200 || i >= kOut - 200 ? atSeam : elsewhere, error);
    }
    QVERIFY2(atSeam <= elsewhere * 1.2 && elsewhere < 1e-5,
             qPrintable(QString("%1 %2").arg(atSeam).arg(elsewhere)));
  }

  // Ten laps end to end: nothing at the joins is beyond what the sound has elsewhere.
  void headToTailTenTimes() {
    Room room(2 * kRate + 13);
    room.insert("reverb", {{"decay", 2}, {"mix", 50}});
    room.brief(LoopWay::Fold);
    room.render();
    const Samples lap = room.file("out/R_mix.wav");
    double inside = 0, atJoin = 0;
    for (const auto& channel : lap)
      for (std::size_t turn = 0, i = 1; turn < 10; ++turn, i = 0)
        for (; i < channel.size(); ++i) {
          const double step = std::abs(channel[i] - channel[i == 0 ? channel.size() - 1 : i - 1]);
          (i == 0 ? atJoin : inside) = std::max(i == 0 ? atJoin : inside, step);
        }
    QVERIFY(atJoin > 0 && atJoin <= inside);
    // Nor is there a gap, or a change of level, that the sound does not have itself: 20 ms behind each place
    // against the 20 ms before it.
    const auto loudness = [&](std::size_t from) {
      double sum = 1e-9;
      for (const auto& channel : lap)
        for (std::size_t i = from; i < from + kRate / 50; ++i)
          sum += std::pow(channel[i % channel.size()], 2);
      return 10 * std::log10(sum);
    };
    double most = 0;
    for (std::size_t place = kRate / 50; place + kRate / 25 < lap[0].size(); place += kRate / 100)
      most = std::max(most, std::abs(loudness(place) - loudness(place - kRate / 50)));
    const double change = loudness(0) - loudness(lap[0].size() - kRate / 50);
    QVERIFY2(std::abs(change) <= most, qPrintable(QString("%1 of %2 dB").arg(change).arg(most)));
    QVERIFY(loudness(lap[0].size() - kRate / 50) > -60);
  }

  void variationsAreEquallyLong() {
    Room room(kRate);
    room.make.session.regions[0].name = "Amb 01";
    room.make.region("r2", "Amb 02", 6 * kRate, 2 * kRate + 77);
    room.make.region("r3", "Other 01", 12 * kRate, kRate / 2);
    room.make.region("r4", "Amb 03", 16 * kRate, kRate).loop.way = LoopWay::None;
    room.brief(LoopWay::Fold, "longest");
    room.brief(LoopWay::Fold, "refused").loop.equal = LoopEqual::Refused;
    room.brief(LoopWay::Fold, "given").loop.seconds = 1.5;
    QList<qint64> frames;
    QStringList states;
    for (const auto& row : room.plan()) {
      frames << row.toObject()["frames"].toInteger();
      states << row.toObject()["state"].toString();
    }
    QCOMPARE(frames.first(4), (QList<qint64>{2 * kRate + 77, 2 * kRate + 77, kRate / 2, kRate}));
    QCOMPARE(states.mid(4, 4), (QStringList{"fault", "to-make", "to-make", "to-make"}));
    QCOMPARE(frames.last(4), (QList<qint64>{kRate * 3 / 2, kRate * 3 / 2, kRate * 3 / 2, kRate}));
  }

  // Whatever cannot be had together is refused, and a region's own loop stands against the brief's.
  void contradictionsAreRefused_data() {
    QTest::addColumn<QString>("what");
    QTest::addColumn<QString>("code");
    QTest::newRow("two lengths") << "two lengths"
                                 << "contradicting-ends";
    QTest::newRow("exact") << "exact"
                           << "contradicting-ends";
    QTest::newRow("picture frames") << "picture"
                                    << "contradicting-ends";
    QTest::newRow("trimmed") << "trim"
                             << "contradicting-ends";
    QTest::newRow("bars without a tempo") << "bars"
                                          << "no-bars";
    QTest::newRow("a tail goes well") << "tail"
                                      << "";
    QTest::newRow("exact, and the region no loop") << "own none"
                                                   << "";
  }
  void contradictionsAreRefused() {
    QFETCH(QString, what);
    QFETCH(QString, code);
    Room room(kRate);
    Brief& brief = room.brief(LoopWay::Fold);
    if (what == "two lengths") brief.loop.seconds = 1, brief.loop.frames = 5000;
    if (what == "exact" || what == "own none") brief.ends.exactSeconds = 1;
    if (what == "picture") brief.ends.pictureFrames = true;
    if (what == "trim") brief.ends.trimDb = -60;
    if (what == "bars") brief.loop.bars = 2;
    if (what == "tail") brief.ends.tail = Tail::RingsOut;
    if (what == "own none") room.make.session.regions[0].loop.way = LoopWay::None;
    const QJsonObject row = room.plan()[0].toObject();
    QCOMPARE(row["state"].toString() == "fault", !code.isEmpty());
    if (!code.isEmpty()) QVERIFY2(codes(row).contains(code), qPrintable(codes(row).join(' ')));
  }

  // --- handed over

  // smpl: the end is the last frame played (RIFF/WAVE, IBM & Microsoft 1994), in the file's own frames; read
  // by bytes, by libsndfile's own program and by ffprobe.
  void loopPointsStandInTheFile() {
    Room room(kRate);
    room.make.session.markerSets = {
        {"s", "S", {{"k", "Creak\none", Room::kStart + kRate / 4, false, {}, {}}}, {}}};
    Brief& brief = room.brief(LoopWay::InnerLap);
    brief.loop.keepIntro = true;
    brief.loop.laps = 3;
    brief.files.rate = 44100;
    const QJsonObject row = room.render()[0];
    const qint64 start = row["loop"].toObject()["start"].toInteger();
    QCOMPARE(start, 44100);
    const QByteArray bytes = test::bytesOf(room.path("out/R_mix.wav"));
    const qsizetype at = bytes.indexOf("smpl");
    QVERIFY(at > 0);
    const auto word = [&](qsizetype index) {
      return qFromLittleEndian<quint32>(bytes.constData() + at + 8 + 4 * index);
    };
    QCOMPARE(word(2), 1'000'000'000u / 44100);
    QCOMPARE((QList<quint32>{word(7), word(10), word(11), word(12)}),
             (QList<quint32>{1, 0, 44100, 2 * 44100 - 1}));
    QCOMPARE(qFromLittleEndian<quint32>(bytes.constData() + 4), static_cast<quint32>(bytes.size() - 8));
    const auto info = test::run("sndfile-info", {room.path("out/R_mix.wav")});
    QVERIFY2(info.out.contains("Start :  44100") || info.out.contains("Start : 44100"), info.out);
    const auto probed =
        test::run("ffprobe", {"-v", "error", "-show_chapters", "-of", "json", room.path("out/R_mix.wav")});
    const QJsonArray chapters = QJsonDocument::fromJson(probed.out).object()["chapters"].toArray();
    QCOMPARE(chapters.size(), 2);
    QCOMPARE(chapters[0].toObject()["start"].toInteger(), 44100);
    QCOMPARE(chapters[1].toObject()["start"].toInteger(), 44100 + 44100 / 4);
    QCOMPARE(chapters[1].toObject()["tags"].toObject()["title"].toString(), "Creak_one");
    // And our own reading, by which `seam` finds the loop.
    const auto measured = test::cli({"seam", room.path("out/R_mix.wav"), "--json"});
    const QJsonObject seam = QJsonDocument::fromJson(measured.out).object();
    QCOMPARE(seam["start"].toInteger(), 44100);
    QCOMPARE(seam["length"].toInteger(), 44100);
  }

  void manyMarksComeBack() {
    std::vector<FileMark> marks;
    for (int i = 0; i < 5000; ++i)
      marks.push_back({i * 100,
                       i % 7,
                       "Mark " + std::to_string(i) + std::string(static_cast<std::size_t>(i % 5), 'x'),
                       {}});
    std::string chunks;
    for (const std::string& chunk : wavMarkChunks(marks, FileLoop{10, 4000}, kRate)) chunks += chunk;
    QByteArray fmt("fmt \x10\0\0\0\x01\0\x01\0\x80\xBB\0\0\0\x77\x01\0\x02\0\x10\0", 24);
    QByteArray data("data");
    data += QByteArray("\x40\x42\x0F\0", 4) + QByteArray(1'000'000, 1);
    QByteArray wav = "WAVE" + fmt + data + QByteArray::fromStdString(chunks);
    QByteArray size(4, 0);
    qToLittleEndian(static_cast<quint32>(wav.size()), size.data());
    wav = "RIFF" + size + wav;
    const ByteSource source{static_cast<std::uint64_t>(wav.size()),
                            [&](std::uint64_t at, void* to, std::size_t count) {
                              if (at + count > static_cast<std::uint64_t>(wav.size())) return false;
                              std::memcpy(to, wav.constData() + at, count);
                              return true;
                            }};
    const auto read = readFileFacts(source, "made.wav");
    QVERIFY(read.has_value());
    QCOMPARE(read->marks.size(), marks.size());
    for (std::size_t i = 0; i < marks.size(); ++i) {
      QCOMPARE(read->marks[i].at, marks[i].at);
      QCOMPARE(read->marks[i].length, marks[i].length);
      QCOMPARE(read->marks[i].label, marks[i].label);
    }
    QCOMPARE(read->loops.size(), 1u);
    QCOMPARE((QList<qint64>{read->loops[0].start, read->loops[0].end}), (QList<qint64>{10, 4000}));
  }

  // --- the command

  void theCommandMeasuresFilesAndRegions() {
    QTemporaryDir dir;
    const QString file = dir.filePath("sine.wav");
    const Frame cut = kRate - 120;
    test::writeSound(file, test::sine(2, cut, 100, 0.5), kRate, test::Depth::Pcm16);
    const auto of = [&](const QStringList& arguments) {
      const auto ran = test::cli(QStringList{"seam"} + arguments + QStringList{"--json"});
      return std::pair(ran.exit, QJsonDocument::fromJson(ran.out).object());
    };
    const auto [exit, whole] = of({file, "--search", "20"});
    QCOMPARE(exit, 0);
    QVERIFY(whole["score"].toDouble() < 50 && whole["click_db"].toDouble() > 10);
    QCOMPARE(whole["length"].toInteger(), cut);
    QCOMPARE(whole["candidates"].toArray()[0].toObject()["length"].toInteger() % 480, 0);
    QVERIFY(of({file, "--start", "480", "--length", "4800"}).second["score"].toDouble() > 90);
    for (const QStringList& wrong :
         {QStringList{file, "--start", "47000", "--length", "4800"}, {dir.filePath("none.wav")}}) {
      const auto [code, told] = of(wrong);
      QVERIFY(code == 1 && !told["text"].toString().isEmpty());
    }
    // What overlaps is judged as the player lets it: the same as the fold of it.
    Room room(kRate);
    room.insert("reverb", {{"decay", 1}, {"mix", 60}});
    room.brief(LoopWay::Overlap, "over").ends.tail = Tail::Fixed;
    room.make.session.briefs.back().ends.tailSeconds = 4;
    const QJsonObject made = room.render().at(0);
    const auto over = overlapSeamOf(room.path("over/R_mix.wav").toStdString());
    QVERIFY(over.has_value());
    QCOMPARE(over->seam.score, made["seam"].toObject()["score"].toDouble());
    QCOMPARE(over->heard.sound.frames(), Frame{kRate});  // one lap, whole
    const SeamLoop laps = lapLoopOf(over->heard, over->place, 0.25);
    QCOMPARE(laps.frames(), Frame{kRate});
    for (Frame i = 0; i < kRate; ++i)
      QCOMPARE(laps.stereo[static_cast<std::size_t>(2 * i)],
               over->heard.at(0, (i + kRate - kRate / 4) % kRate));
    test::SessionMaker make(dir.path());
    make.medium("m", test::sine(2, 2 * kRate, 100, 0.5));
    make.track("t");
    make.clip("t", "m", 0, 2 * kRate);
    make.region("r", "L", 4800, kRate);
    make.region("r2", "L", 4800, kRate - 120);
    const auto ran = test::cli({"seam", make.save(), "--region", "L", "--json"});
    const QList<QByteArray> lines = ran.out.trimmed().split('\n');
    QCOMPARE(lines.size(), 2);
    QVERIFY(QJsonDocument::fromJson(lines[0]).object()["score"].toDouble() > 90);
    QVERIFY(QJsonDocument::fromJson(lines[1]).object()["score"].toDouble() < 50);
    QCOMPARE(test::cli({"seam", make.save(), "--region", "Nowhere", "--json"}).exit, 2);
  }
};

QTEST_GUILESS_MAIN(LoopsTest)
#include "tst_loops.moc"
