#include <ebur128.h>

#include <QJsonDocument>
#include <QJsonObject>
#include <QRegularExpression>
#include <QtTest>

#include "base/decibels.h"
#include "base/denormals.h"
#include "level/programme_loudness.h"
#include "level/true_peak_meter.h"
#include "support.h"

using namespace octaphon;
using test::Samples;

namespace {

using Floats = std::vector<std::vector<float>>;

Floats floatsOf(const Samples& samples) {
  Floats floats;
  for (const auto& channel : samples) floats.emplace_back(channel.begin(), channel.end());
  return floats;
}

/// In blocks of odd sizes.
template <class Meter>
void give(Meter& meter, const Floats& sound) {
  const DenormalGuard guard;
  const auto frames = static_cast<Frame>(sound.front().size());
  for (Frame at = 0, block = 1; at < frames; at += block, block = block * 7 % 4001 + 1) {
    block = std::min(block, frames - at);
    std::vector<const float*> channels;
    for (const auto& channel : sound) channels.push_back(channel.data() + at);
    meter.take(channels.data(), block);
  }
}

ProgrammeLoudness loudnessOf(const Floats& sound, int rate = 48000) {
  ProgrammeLoudness meter(static_cast<int>(sound.size()), rate);
  give(meter, sound);
  return meter;
}

double truePeakDb(const Floats& sound) {
  TruePeakMeter meter(static_cast<int>(sound.size()));
  give(meter, sound);
  meter.end();
  return decibelsOf(meter.peak());
}

struct Stretch {
  std::vector<double> peaksDb;  // by channel
  double seconds;
};

/// A sine of 1 kHz, as the cases of the EBU have it.
Floats sines(const std::vector<Stretch>& stretches) {
  Floats sound(stretches.front().peaksDb.size());
  for (const Stretch& stretch : stretches)
    for (int i = 0; i < std::lround(stretch.seconds * 48000); ++i)
      for (std::size_t c = 0; c < sound.size(); ++c) {
        const auto at = static_cast<double>(sound[c].size());
        sound[c].push_back(
            static_cast<float>(gainOf(stretch.peaksDb[c]) * std::sin(2 * M_PI * 1000 * at / 48000)));
      }
  return sound;
}
Stretch stereo(double peakDb, double seconds) { return {{peakDb, peakDb}, seconds}; }

/// So many periods in a frame, faded in and out so that it begins and ends with no step.
Floats tone(double amplitude, double periods, double degrees, int frames = 24000) {
  Floats sound(1);
  for (int i = 0; i < frames; ++i) {
    const double fade = std::min(1.0, std::min(i, frames - 1 - i) / 2000.0);
    sound[0].push_back(
        static_cast<float>(fade * amplitude * std::sin(2 * M_PI * periods * i + degrees * M_PI / 180)));
  }
  return sound;
}

/// The largest magnitude of 32 times as many samples, through a sinc of 512 samples under a window of Hann.
double referenceDb(const std::vector<float>& sound) {
  constexpr int kPlaces = 32, kReach = 256;
  double largest = 0;
  const int frames = static_cast<int>(sound.size());
  for (int place = 0; place < kPlaces; ++place) {
    std::vector<double> taps;
    for (int t = 1 - kReach; t <= kReach; ++t) {
      const double x = t - static_cast<double>(place) / kPlaces;
      const double sinc = x == 0 ? 1 : std::sin(M_PI * x) / (M_PI * x);
      taps.push_back(sinc * 0.5 * (1 + std::cos(M_PI * x / kReach)));
    }
    for (int i = -kReach; i < frames + kReach; ++i) {
      double sum = 0;
      for (int t = 1 - kReach; t <= kReach; ++t)
        if (i + t >= 0 && i + t < frames)
          sum += taps[static_cast<std::size_t>(t + kReach - 1)] *
                 static_cast<double>(sound[static_cast<std::size_t>(i + t)]);
      largest = std::max(largest, std::fabs(sum));
    }
  }
  return decibelsOf(largest);
}

/// What libebur128 says, in LUFS.
double loudnessByLibrary(const Floats& sound, int rate) {
  std::vector<float> interleaved;
  for (std::size_t i = 0; i < sound[0].size(); ++i)
    for (const auto& channel : sound) interleaved.push_back(channel[i]);
  ebur128_state* const state =
      ebur128_init(static_cast<unsigned>(sound.size()), static_cast<unsigned long>(rate), EBUR128_MODE_I);
  if (sound.size() == 8)  // it knows no order of so many
    for (const auto& [channel, place] :
         {std::pair{4u, EBUR128_Mp135}, {5u, EBUR128_Mm135}, {6u, EBUR128_Mp090}, {7u, EBUR128_Mm090}})
      ebur128_set_channel(state, channel, place);
  ebur128_add_frames_float(state, interleaved.data(), sound[0].size());
  double expected = 0;
  ebur128_loudness_global(state, &expected);
  ebur128_state* gone = state;
  ebur128_destroy(&gone);
  return expected;
}

}  // namespace

class LevelTest : public QObject {
  Q_OBJECT
 private slots:
  // EBU Tech 3341, cases 1 to 6; those of Tech 3342. Cases 3341/4 and 3342/2 to 4 from memory.
  void standardLoudness_data() {
    QTest::addColumn<std::vector<Stretch>>("sound");
    QTest::addColumn<double>("lufs");
    QTest::newRow("3341/1") << std::vector{stereo(-23, 20)} << -23.0;
    QTest::newRow("3341/2") << std::vector{stereo(-33, 20)} << -33.0;
    QTest::newRow("3341/3") << std::vector{stereo(-36, 10), stereo(-23, 60), stereo(-36, 10)} << -23.0;
    QTest::newRow("3341/4") << std::vector{stereo(-72, 10), stereo(-36, 10), stereo(-23, 60), stereo(-36, 10),
                                           stereo(-72, 10)}
                            << -23.0;
    QTest::newRow("3341/5") << std::vector{stereo(-26, 20), stereo(-20, 20.1), stereo(-26, 20)} << -23.0;
    QTest::newRow("3341/6") << std::vector{Stretch{{-28, -28, -24, -30, -30}, 20}} << -23.0;
  }
  void standardLoudness() {
    QFETCH(std::vector<Stretch>, sound);
    QFETCH(double, lufs);
    const auto measured = loudnessOf(sines(sound)).integrated();
    QVERIFY(measured.has_value());
    QVERIFY2(std::fabs(*measured - lufs) < 0.1, qPrintable(QString::number(*measured)));
  }

  void standardRange_data() {
    QTest::addColumn<std::vector<Stretch>>("sound");
    QTest::addColumn<double>("range");
    QTest::newRow("3342/1") << std::vector{stereo(-20, 20), stereo(-30, 20)} << 10.0;
    QTest::newRow("3342/2") << std::vector{stereo(-20, 20), stereo(-15, 20)} << 5.0;
    QTest::newRow("3342/3") << std::vector{stereo(-40, 20), stereo(-20, 20)} << 20.0;
    QTest::newRow("3342/4") << std::vector{stereo(-50, 20), stereo(-35, 20), stereo(-20, 20), stereo(-35, 20),
                                           stereo(-50, 20)}
                            << 15.0;
  }
  void standardRange() {
    QFETCH(std::vector<Stretch>, sound);
    QFETCH(double, range);
    const auto measured = loudnessOf(sines(sound)).range();
    QVERIFY(measured.has_value());
    QVERIFY2(std::fabs(*measured - range) < 1, qPrintable(QString::number(*measured)));
  }

  // What has no loudness: too short, under the gate, nothing at all.
  void notJudged() {
    const Floats short_ = sines({stereo(-20, 0.39)});
    QVERIFY(!loudnessOf(short_).integrated());
    QVERIFY(loudnessOf(sines({stereo(-20, 0.4)})).integrated());
    QVERIFY(!loudnessOf(sines({stereo(-75, 5)})).integrated());
    QVERIFY(!loudnessOf(Floats(2, std::vector<float>(96000))).integrated());
    QVERIFY(!loudnessOf(sines({stereo(-20, 2.9)})).range());
    QVERIFY(!ProgrammeLoudness(1, 48000).integrated());
  }

  // Noise whose level wanders, against another library's.
  void asLibebur128_data() {
    QTest::addColumn<int>("channels");
    QTest::addColumn<int>("rate");
    for (const int channels : {1, 2, 4, 5, 6, 8})
      for (const int rate : {8000, 22050, 44100, 48000, 96000})
        QTest::addRow("%d channels, %d Hz", channels, rate) << channels << rate;
  }
  void asLibebur128() {
    QFETCH(int, channels);
    QFETCH(int, rate);
    Floats sound = floatsOf(test::noise(channels, 12 * rate + 77, 3, 0.5));
    for (std::size_t c = 0; c < sound.size(); ++c)
      for (std::size_t i = 0; i < sound[c].size(); ++i)
        sound[c][i] *= static_cast<float>(
            std::pow(std::sin(1.3 * static_cast<double>(i) / rate + static_cast<double>(c)), 2));
    const double expected = loudnessByLibrary(sound, rate);
    const auto measured = loudnessOf(sound, rate).integrated();
    QVERIFY(measured.has_value());
    QVERIFY2(std::fabs(*measured - expected) < 0.01,
             qPrintable(QString("%1 %2").arg(*measured).arg(expected)));
  }

  // Sound that single precision could be wrong about: low, offset, near half the rate; at high rates.
  void hostileLoudness_data() {
    QTest::addColumn<int>("rate");
    QTest::addColumn<QString>("what");
    for (const int rate : {8000, 44100, 96000, 176400, 192000})
      for (const char* what : {"25 Hz", "offset", "high", "quiet"})
        QTest::addRow("%s at %d Hz", what, rate) << rate << what;
  }
  void hostileLoudness() {
    QFETCH(int, rate);
    QFETCH(QString, what);
    Floats sound = floatsOf(test::noise(2, 6 * rate, 7, what == "quiet" ? 0.0006 : 0.003));
    const double hertz = what == "25 Hz" ? 25 : 0.47 * rate,
                 loud = what == "25 Hz" || what == "high" ? 0.9 : 0;
    for (std::size_t i = 0; i < sound[0].size(); ++i)
      sound[0][i] +=
          static_cast<float>((what == "offset" ? 0.8 : 0) +
                             loud * std::sin(2 * std::numbers::pi * hertz * static_cast<double>(i) / rate));
    const auto measured = loudnessOf(sound, rate).integrated();
    const double expected = loudnessByLibrary(sound, rate);
    QVERIFY(measured.has_value());
    QVERIFY2(std::fabs(*measured - expected) < 0.01,
             qPrintable(QString("%1 %2").arg(*measured).arg(expected)));
  }

  // EBU Tech 3341, cases 20 to 23 (from memory): a pulse that has its top on a sample, or a quarter, a half,
  // three quarters of one behind it.
  void standardPulses_data() {
    QTest::addColumn<double>("behind");
    for (int quarters = 0; quarters < 4; ++quarters) QTest::addRow("%d", 20 + quarters) << quarters / 4.0;
  }
  void standardPulses() {
    QFETCH(double, behind);
    Floats pulse{std::vector<float>(4800)};
    for (std::size_t i = 0; i < pulse[0].size(); ++i) {
      const double x = std::numbers::pi * 0.9 * (static_cast<double>(i) - 2400 - behind);
      const double window = std::exp(-x * x / 2e4);
      pulse[0][i] = static_cast<float>(window * (x == 0 ? 1 : std::sin(x) / x));
    }
    const double over = truePeakDb(pulse);
    QVERIFY2(over < 0.2 && over > -0.4, qPrintable(QString::number(over)));
  }

  // EBU Tech 3341, cases 15 to 19 (17 and 18 from memory), within its +0.2 and −0.4 dB.
  void standardTruePeaks_data() {
    QTest::addColumn<double>("amplitude");
    QTest::addColumn<double>("periods");
    QTest::addColumn<double>("degrees");
    QTest::addColumn<double>("decibels");
    QTest::newRow("15") << 0.5 << 1.0 / 4 << 0.0 << -6.0;
    QTest::newRow("16") << 0.5 << 1.0 / 4 << 45.0 << -6.0;
    QTest::newRow("17") << 0.5 << 1.0 / 6 << 60.0 << -6.0;
    QTest::newRow("18") << 0.5 << 1.0 / 8 << 67.5 << -6.0;
    QTest::newRow("19") << 1.41 << 1.0 / 4 << 45.0 << 3.0;
  }
  void standardTruePeaks() {
    QFETCH(double, amplitude);
    QFETCH(double, periods);
    QFETCH(double, degrees);
    QFETCH(double, decibels);
    const double over = truePeakDb(tone(amplitude, periods, degrees)) - decibels;
    QVERIFY2(over < 0.2 && over > -0.4, qPrintable(QString::number(over)));
  }

  // Against 32 times as many samples: within 0.1 dB where all sound is below 0.4 of the rate, else within the
  // standard's tolerance.
  void truePeaks_data() {
    QTest::addColumn<std::vector<float>>("sound");
    QTest::addColumn<double>("under");
    QTest::addColumn<double>("over");
    const auto row = [](const char* name, const Floats& sound, bool isHostile) {
      QTest::newRow(name) << sound[0] << (isHostile ? 0.4 : 0.1) << (isHostile ? 0.2 : 0.1);
    };
    for (const double degrees : {0.0, 11.25, 22.5, 30.0, 78.75})
      row(qPrintable(QString("a quarter of the rate, %1°").arg(degrees)), tone(0.9, 0.25, degrees, 6000),
          false);
    for (const double periods : {0.01, 0.123, 0.3, 0.39})
      row(qPrintable(QString("%1 of the rate").arg(periods)), tone(0.7, periods, 30, 6000), false);
    row("noise", floatsOf(test::noise(1, 12000, 9, 1.0)), true);
    Floats quiet = floatsOf(test::noise(1, 12000, 9, 0.001));
    for (const auto& [at, value] :
         {std::pair{1, 1.0f}, {3000, 1.0f}, {3001, -1.0f}, {6000, 0.9f}, {6001, 0.9f}, {11999, -0.5f}})
      quiet[0][static_cast<std::size_t>(at)] = value;
    row("clicks", quiet, true);
  }
  void truePeaks() {
    QFETCH(std::vector<float>, sound);
    QFETCH(double, under);
    QFETCH(double, over);
    const double difference = truePeakDb({sound}) - referenceDb(sound);
    QVERIFY2(difference > -under && difference < over, qPrintable(QString::number(difference)));
  }

  // What `inspect --levels` says of files, against ffmpeg.
  void inspected_data() {
    QTest::addColumn<QString>("name");
    for (const char* name : {"a.wav", "a.flac", "a.aiff", "a.ogg"}) QTest::newRow(name) << name;
  }
  void inspected() {
    QFETCH(QString, name);
    QTemporaryDir dir;
    const QString file = dir.filePath(name);
    Samples sound = test::noise(2, 48000 * 5, 4, 0.3);
    // Dull, and without a step at its start: on what is near half the rate, meters of true peaks differ.
    for (auto& channel : sound) channel[0] = 0;
    for (int turn = 0; turn < 4; ++turn)
      for (auto& channel : sound)
        for (std::size_t i = 1; i < channel.size(); ++i) channel[i] = 0.5 * channel[i - 1] + 0.5 * channel[i];
    test::writeSound(file, sound);
    const auto ran = test::cli({"inspect", "--levels", "--json", file});
    QCOMPARE(ran.exit, 0);
    const QJsonObject said = QJsonDocument::fromJson(ran.out).object();
    const auto judged = test::run("ffmpeg", {"-hide_banner", "-nostats", "-i", file, "-af",
                                             "ebur128=peak=sample+true:framelog=verbose", "-f", "null", "-"});
    const QString summary = QString::fromUtf8(judged.err);
    const auto number = [&](const QString& pattern) {
      return QRegularExpression(pattern).match(summary).captured(1).toDouble();
    };
    QVERIFY(summary.contains("True peak"));
    const auto differs = [&](const char* key, const QString& pattern, double most) {
      const double theirs = number(pattern), ours = said[key].toDouble();
      return std::fabs(ours - theirs) > most ? QString("%1: %2, not %3").arg(key).arg(ours).arg(theirs)
                                             : QString();
    };
    QCOMPARE(differs("lufs", "I: +(-?[0-9.]+) LUFS", 0.06), QString());
    QCOMPARE(differs("range_lu", "LRA: +(-?[0-9.]+) LU", 0.2), QString());
    QCOMPARE(differs("peak_db", "Sample peak:\\s+Peak: +(-?[0-9.]+) dBFS", 0.06), QString());
    QCOMPARE(differs("true_peak_db", "True peak:\\s+Peak: +(-?[0-9.]+) dBFS", 0.2), QString());
  }
  void inspectedSilence() {
    QTemporaryDir dir;
    test::writeSound(dir.filePath("s.wav"), Samples(2, std::vector<double>(48000)));
    test::writeSound(dir.filePath("t.wav"), test::sine(1, 9600, 1000, 0.5));
    const auto ran =
        test::cli({"inspect", "--levels", "--json", dir.filePath("s.wav"), dir.filePath("t.wav")});
    const QList<QByteArray> lines = ran.out.split('\n');
    const QJsonObject silent = QJsonDocument::fromJson(lines[0]).object();
    for (const char* key : {"peak_db", "true_peak_db", "lufs"}) QCOMPARE(silent[key].toDouble(), -144.0);
    QVERIFY(silent["range_lu"].isNull());
    const QJsonObject brief = QJsonDocument::fromJson(lines[1]).object();
    QVERIFY(brief["lufs"].isNull() && std::fabs(brief["true_peak_db"].toDouble() + 6.02) < 0.05);
  }

  // A peak of the last samples rings on behind them; silence between is passed over.
  void edges() {
    Floats sound(2, std::vector<float>(5000));
    sound[1][4999] = sound[1][4998] = 0.5f;
    const double alone = truePeakDb(sound);
    QVERIFY(alone > decibelsOf(0.5) + 1.5);
    for (auto& channel : sound) channel.resize(5100);
    QVERIFY(std::fabs(truePeakDb(sound) - alone) < 0.001);
    TruePeakMeter meter(2);
    meter.take(nullptr, 999);
    give(meter, sound);
    meter.take(nullptr, 10);
    meter.end();
    QVERIFY(std::fabs(decibelsOf(meter.peak()) - alone) < 0.001);
  }
};

QTEST_GUILESS_MAIN(LevelTest)
#include "tst_level.moc"
