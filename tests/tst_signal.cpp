#include <cmath>
#include <QRandomGenerator>
#include <QtTest>

#include "finish/quantise.h"
#include "media/readable_media.h"
#include "rendered.h"
#include "routing/mixing_law.h"
#include "signal/curve.h"
#include "signal/fades.h"
#include "signal/graph.h"

using namespace octaphon;
using test::loudest;
using test::Rendered;
using test::RenderSpec;
using test::Samples;
using test::sourceOf;
using test::toDb;

namespace {

/// One source of a session over [start, start + length), everything heard, in blocks of a given size.
Rendered render(const Session& session, Strip source, Frame start, Frame length, Frame block = 1 << 20,
                Counting counting = {}) {
  RenderSpec spec;
  spec.start = start;
  spec.length = length;
  spec.block = block;
  spec.counting = counting;
  if (!source.isMain()) spec.source = sourceOf(session, session.tracks[source.track()].id);
  return test::render(session, spec);
}

}  // namespace

class SignalTest : public QObject {
  Q_OBJECT
 private slots:
  // Constant power: the squares sum to 1, −3.01 dB in the middle (textbook). Balance: unity in the centre.
  void panLaws() {
    for (double pan = -1; pan <= 1; pan += 0.125) {
      const MixMatrix mono = mixMatrix(1, 2, 1, pan);
      QVERIFY(std::abs(std::pow(mono.gain[0][0], 2) + std::pow(mono.gain[1][0], 2) - 1) < 1e-12);
      const MixMatrix stereo = mixMatrix(2, 2, 1, pan);
      QCOMPARE(stereo.gain[0][0], pan <= 0 ? 1 : 1 - pan);
      QCOMPARE(stereo.gain[1][1], pan >= 0 ? 1 : 1 + pan);
      QCOMPARE(stereo.gain[0][1], 0.0);
    }
    QVERIFY(std::abs(toDb(mixMatrix(1, 2, 1, 0).gain[0][0]) + 3.0103) < 1e-4);
    QCOMPARE(mixMatrix(1, 2, 1, 1).gain[0][0], 0.0);
    QVERIFY(mixMatrix(2, 2, 1, 0).isIdentity());
    QCOMPARE(mixMatrix(2, 1, 1, 0).gain[0][1], 0.5);
  }

  // Whatever stretch a curve is worked out over, each frame has its value; held outside its window, jumps
  // spread.
  void curvesDoNotDependOnStretches() {
    QRandomGenerator random(5);
    for (int round = 0; round < 40; ++round) {
      Automation curve;
      Frame at = static_cast<Frame>(random.bounded(50));
      for (int i = 0; i < 6; ++i) {
        curve.points.push_back({at,
                                random.bounded(20.0) - 10,
                                static_cast<Segment>(random.bounded(3)),
                                random.bounded(2.0) - 1,
                                {}});
        at += 1 + static_cast<Frame>(random.bounded(120));
      }
      const Frame smoothing = static_cast<Frame>(random.bounded(2) * random.bounded(90));
      const CurveWindow window{static_cast<Frame>(random.bounded(80)),
                               200 + static_cast<Frame>(random.bounded(300))};
      const ValueCurve values(0, &curve, window, smoothing, -9, 9);
      std::vector<double> whole(700), pieces(700);
      values.fill(0, 700, whole.data());
      for (Frame done = 0; done < 700;) {
        const Frame count = std::min<Frame>(700 - done, 1 + static_cast<Frame>(random.bounded(97)));
        values.fill(done, count, pieces.data() + done);
        done += count;
      }
      QCOMPARE(pieces, whole);
      for (Frame i = 0; i < 700; ++i) {
        QCOMPARE(values.at(i), whole[static_cast<std::size_t>(i)]);
        if (smoothing > 0) continue;
        const Frame held = std::clamp(i, window.from, window.to);
        QCOMPARE(whole[static_cast<std::size_t>(i)], std::clamp(valueAt(curve, held), -9.0, 9.0));
      }
    }
  }

  // Equal-gain fades sum to 1, equal-power ones in their squares; −6.02 and −3.01 dB at the middle
  // (textbook).
  void fades() {
    for (double t = 0; t <= 1; t += 0.0625) {
      for (const FadeShape shape : {FadeShape::Linear, FadeShape::Smooth})
        QVERIFY(std::abs(fadeGain(shape, t) + fadeGain(shape, 1 - t) - 1) < 1e-12);
      QVERIFY(std::abs(std::pow(fadeGain(FadeShape::Power, t), 2) +
                       std::pow(fadeGain(FadeShape::Power, 1 - t), 2) - 1) < 1e-12);
      QVERIFY(std::abs(fadeGain(FadeShape::Slow, t) + fadeGain(FadeShape::Fast, 1 - t) - 1) < 1e-12);
    }
    for (const FadeShape shape :
         {FadeShape::Linear, FadeShape::Power, FadeShape::Smooth, FadeShape::Slow, FadeShape::Fast}) {
      QCOMPARE(fadeGain(shape, 0), 0.0);
      QVERIFY(std::abs(fadeGain(shape, 1) - 1) < 1e-12);
    }
  }

  // A constant through clip gain, fades, cut and fader, against the formulas written out here.
  void clipsAgainstTheirFormula() {
    QTemporaryDir dir;
    test::SessionMaker make(dir.path());
    make.medium("one", test::sound(2, 20000, [](int, Frame) { return 0.5; }));
    make.track("t").gainDb = -6;
    Clip& clip = make.clip("t", "one", 1000, 8000, 100);
    clip.gainDb = 3;
    clip.fadeIn = {500, FadeShape::Power, {}};
    clip.fadeOut = {700, FadeShape::Smooth, {}};
    make.save();
    make.session.file = dir.filePath("test.octaphon").toStdString();
    const Counting counting{Counts::BeginsHere, Crossing::LeftOut, 240};
    const auto out = render(make.session, Strip::main(), 500, 8000, 333, counting);
    for (Frame f = 0; f < 8000; ++f) {
      const Frame at = 500 + f;
      double expected = at < 1000 ? 0 : 0.5 * std::pow(10, 3 / 20.0) * std::pow(10, -6 / 20.0);
      const double c = static_cast<double>(at - 1000);
      if (c < 500) expected *= std::sin(M_PI / 2 * c / 500);
      const double left = 8000 - c;
      if (left < 700) expected *= (1 - std::cos(M_PI * left / 700)) / 2;
      const double toEnd = static_cast<double>(8500 - at);
      if (toEnd < 240) expected *= toEnd / 240;
      if (at < 1000) expected = 0;
      QVERIFY2(std::abs(out.channels[0][static_cast<std::size_t>(f)] - expected) < 1e-6,
               qPrintable(QString::number(f)));
    }
  }

  void blocksDoNotMatter() {
    QTemporaryDir dir;
    test::SessionMaker make(dir.path());
    make.medium("n", test::noise(2, 9000, 1));
    make.medium("mono", test::noise(1, 9000, 2));
    make.group("g").gainDb = -2.5;
    make.track("a", 2, "g").pan = 0.3;
    make.track("b", 1, "g").pan = -0.7;
    make.clip("a", "n", 10, 5000).fadeIn = {3000, FadeShape::Power, {}};
    make.clip("a", "n", 2000, 5000, 50);
    make.clip("b", "mono", 100, 7000).fadeOut = {2500, FadeShape::Slow, {}};
    make.session.file = make.save().toStdString();
    const auto whole = render(make.session, Strip::main(), 0, 8000);
    QVERIFY(loudest(whole.channels[0]) > 0.1);
    for (const Frame block : {1, 255, 256, 4096})
      QVERIFY(render(make.session, Strip::main(), 0, 8000, block).channels == whole.channels);
  }

  // Rule of sums: residual peak under −120 dB of the louder of full scale and the loudest layer; and the
  // check can fail.
  void tracksAddUpToTheMix() {
    QTemporaryDir dir;
    test::SessionMaker make(dir.path());
    make.group("outer").gainDb = 2;
    make.group("inner", "outer").pan = 0.2;
    for (int i = 0; i < 12; ++i) {
      const std::string id = "t" + std::to_string(i);
      make.medium(id, test::noise(i % 2 + 1, 6000, static_cast<unsigned>(i) + 5));
      Track& track = make.track(id, i % 2 + 1, i < 4 ? "" : i < 8 ? "outer" : "inner");
      track.gainDb = -0.7 * i;
      track.pan = (i - 6) / 7.0;
      make.clip(id, id, i * 100, 5000);
    }
    make.session.main.gainDb = -1.3;
    make.session.file = make.save().toStdString();
    const auto mix = render(make.session, Strip::main(), 0, 6000);
    std::vector<std::vector<double>> sum(2, std::vector<double>(6000));
    double reference = 1;
    for (std::size_t t = 0; t < make.session.tracks.size(); ++t) {
      if (make.session.tracks[t].isGroup()) continue;
      const auto layer = render(make.session, Strip(t), 0, 6000);
      for (std::size_t c = 0; c < 2; ++c) {
        reference = std::max(reference, loudest(layer.channels[c]));
        for (std::size_t i = 0; i < 6000; ++i) sum[c][i] += layer.channels[c][i];
      }
    }
    double residual = 0;
    for (std::size_t c = 0; c < 2; ++c)
      for (std::size_t i = 0; i < 6000; ++i)
        residual = std::max(residual, std::abs(sum[c][i] - mix.channels[c][i]));
    QVERIFY2(toDb(residual / reference) < -120, qPrintable(QString::number(toDb(residual / reference))));
    make.session.tracks.back().gainDb += 0.01;
    const auto other = render(make.session, Strip::main(), 0, 6000);
    double changed = 0;
    for (std::size_t i = 0; i < 6000; ++i)
      changed = std::max(changed, std::abs(static_cast<double>(other.channels[0][i]) - mix.channels[0][i]));
    QVERIFY(toDb(changed) > -120);
  }

  void adjacentSpansJoinedAreTheWhole() {
    QTemporaryDir dir;
    test::SessionMaker make(dir.path());
    make.medium("n", test::noise(2, 20000, 3));
    make.track("t").pan = -0.4;
    make.clip("t", "n", 100, 15000).fadeIn = {9000, FadeShape::Smooth, {}};
    make.session.file = make.save().toStdString();
    const auto whole = render(make.session, Strip::main(), 0, 16000);
    auto joined = render(make.session, Strip::main(), 0, 7001);
    const auto rest = render(make.session, Strip::main(), 7001, 8999);
    for (std::size_t c = 0; c < 2; ++c)
      joined.channels[c].insert(joined.channels[c].end(), rest.channels[c].begin(), rest.channels[c].end());
    QVERIFY(joined.channels == whole.channels);
  }

  void channelsOfMediaAndTracks() {
    QTemporaryDir dir;
    test::SessionMaker make(dir.path());
    make.medium("mono", test::sound(1, 100, [](int, Frame) { return 0.5; }));
    make.medium("stereo", test::sound(2, 100, [](int c, Frame) { return c == 0 ? 0.5 : 0.25; }));
    make.medium("quad", test::sound(4, 100, [](int c, Frame) { return 0.125 * (c + 1); }));
    for (const char* id : {"mono", "stereo", "quad"}) {
      make.track(std::string("wide-") + id, 2);
      make.clip(std::string("wide-") + id, id, 0, 100);
      make.track(std::string("narrow-") + id, 1);
      make.clip(std::string("narrow-") + id, id, 0, 100);
    }
    make.session.file = make.save().toStdString();
    const double centre = std::sqrt(0.5);
    const double expected[6][2] = {{0.5, 0.5},    {0.5 * centre, 0.5 * centre},
                                   {0.5, 0.25},   {0.375 * centre, 0.375 * centre},
                                   {0.125, 0.25}, {0.3125 * centre, 0.3125 * centre}};
    for (int t = 0; t < 6; ++t) {
      const auto out = render(make.session, Strip(t), 0, 100);
      for (std::size_t c = 0; c < 2; ++c)
        QVERIFY2(std::abs(out.channels[c][50] - expected[t][c]) < 1e-6,
                 make.session.tracks[static_cast<std::size_t>(t)].id.c_str());
    }
  }

  void aThousandNestedGroups() {
    QTemporaryDir dir;
    test::SessionMaker make(dir.path());
    make.medium("n", test::noise(2, 1000, 3));
    for (int i = 0; i < 1000; ++i)
      make.group("g" + std::to_string(i), i == 0 ? "" : "g" + std::to_string(i - 1)).gainDb =
          i % 2 == 0 ? 1 : -1;
    make.track("t", 2, "g999");
    make.clip("t", "n", 0, 1000);
    make.session.file = make.save().toStdString();
    const auto out = render(make.session, Strip::main(), 0, 1000);
    const Samples expected = test::readSound(dir.filePath("media/n.wav"));
    for (std::size_t i = 0; i < 1000; ++i) QVERIFY(std::abs(out.channels[0][i] - expected[0][i]) < 1e-4);
  }

  void soundThatIsNoNumberNamesItsStage() {
    QTemporaryDir dir;
    test::SessionMaker make(dir.path());
    Samples bad = test::noise(2, 1000, 3);
    bad[1][500] = std::nan("");
    make.medium("bad", bad, 48000, test::Depth::Float);
    make.track("t");
    make.clip("t", "bad", 0, 1000);
    make.session.file = make.save().toStdString();
    QVERIFY(render(make.session, Strip::main(), 0, 1000).error.find("media/bad.wav") != std::string::npos);
  }

  void wholeStepsPassUntouched() {
    std::vector<float> in;
    for (int i = 0; i < 5000; ++i) in.push_back(static_cast<float>(i * 1677 - 4000000) / 8388608.0f);
    std::vector<std::int32_t> out(in.size());
    Level level;
    Quantiser(24, "row", 0).run(in.data(), 0, static_cast<Frame>(in.size()), out.data(), level);
    for (std::size_t i = 0; i < in.size(); ++i) QCOMPARE(out[i], static_cast<int>(i) * 1677 - 4000000);
    QCOMPARE(level.clipped, 0u);
  }

  // Lipshitz, Wannamaker, Vanderkooy 1992: full-scale sine in 16 bits, 98.09 dB; TPDF dither costs 4.77
  // dB: 93.3 dB.
  void ditherHasItsNoise() {
    std::vector<float> in(200000);
    for (std::size_t i = 0; i < in.size(); ++i)
      in[i] = static_cast<float>(0.9999 * std::sin(0.1234567 * static_cast<double>(i)));
    std::vector<std::int32_t> out(in.size());
    Level level;
    Quantiser(16, "row", 0).run(in.data(), 0, static_cast<Frame>(in.size()), out.data(), level);
    double noise = 0, signal = 0, mean = 0;
    for (std::size_t i = 0; i < in.size(); ++i) {
      const double error = out[i] / 32768.0 - in[i];
      noise += error * error;
      mean += error;
      signal += in[i] * in[i];
    }
    const double ratio = 10 * std::log10(signal / noise);
    QVERIFY2(std::abs(ratio - 93.3) < 0.15, qPrintable(QString::number(ratio)));
    QVERIFY(std::abs(mean / static_cast<double>(in.size())) < 0.01 / 32768);
    std::vector<std::int32_t> otherRow(in.size());
    Quantiser(16, "other", 0).run(in.data(), 0, static_cast<Frame>(in.size()), otherRow.data(), level);
    QVERIFY(otherRow != out);
  }

  void silenceStaysSilentAndOverIsSaturated() {
    std::vector<float> in(1000, 0.0f);
    for (int i = 300; i < 500; ++i) in[static_cast<std::size_t>(i)] = 0.1f + static_cast<float>(i) * 1e-7f;
    in[600] = 1.5f;
    in[601] = -2.0f;
    std::vector<std::int32_t> out(in.size());
    Level level;
    Quantiser(16, "row", 0).run(in.data(), 0, 1000, out.data(), level);
    for (std::size_t i = 0; i < 1000; ++i)
      if (in[i] == 0) QCOMPARE(out[i], 0);
    QCOMPARE(out[600], 32767);
    QCOMPARE(out[601], -32768);
    QCOMPARE(level.clipped, 2u);
    QCOMPARE(level.peak, 2.0f);
    in[700] = INFINITY;
    Quantiser(16, "row", 0).run(in.data(), 0, 1000, out.data(), level);
    QVERIFY(!level.finite);
  }
};

QTEST_GUILESS_MAIN(SignalTest)
#include "tst_signal.moc"
