// The built-in effects against their definitions: formulas of the Audio EQ Cookbook, the curve and time
// constants of the compressor, true peaks as another meter finds them, Schroeder's integral of the reverb.
#include <ebur128.h>

#include <cmath>
#include <complex>
#include <QtTest>
#include <random>
#include <set>

#include "base/decibels.h"
#include "rendered.h"
#include "signal/effect_runner.h"
#include "signal/effects/biquad.h"
#include "signal/effects/processor.h"

using namespace octaphon;
using test::toDb;

namespace {

constexpr int kRate = 48000;
using Sound = std::vector<std::vector<float>>;

EffectSetting settingOf(const char* effect, const std::map<std::string, double>& values, int channels = 1) {
  Insert insert;
  insert.effect = effect;
  insert.values = values;
  EffectSetting setting;
  setting.info = builtInEffect(effect);
  setting.rate = kRate;
  setting.channels = channels;
  for (const ParameterInfo& parameter : setting.info->parameters)
    setting.values.emplace_back(valueOf(insert, parameter));
  return setting;
}

/// In blocks of `block`; of dynamics the gain.
Sound processed(Processor& processor, const Sound& in, std::size_t outputs, Frame block = 1000,
                Frame at = 0) {
  const auto frames = static_cast<Frame>(in[0].size());
  Sound out(outputs, std::vector<float>(in[0].size()));
  for (Frame done = 0; done < frames; done += block) {
    const float* from[8];
    float* to[8];
    for (std::size_t c = 0; c < in.size(); ++c) from[c] = in[c].data() + done;
    for (std::size_t c = 0; c < outputs; ++c) to[c] = out[c].data() + done;
    processor.process(from, to, at + done, std::min(block, frames - done));
  }
  return out;
}

std::vector<float> tone(double hertz, double level, std::size_t frames, double phase = 0) {
  std::vector<float> samples(frames);
  for (std::size_t i = 0; i < frames; ++i)
    samples[i] =
        static_cast<float>(level * std::sin(2 * M_PI * hertz * static_cast<double>(i) / kRate + phase));
  return samples;
}

/// Response at a frequency, from an impulse response.
double magnitudeDb(const std::vector<float>& impulse, double hertz) {
  std::complex<double> sum = 0;
  for (std::size_t i = 0; i < impulse.size(); ++i)
    sum +=
        static_cast<double>(impulse[i]) * std::polar(1.0, -2 * M_PI * hertz * static_cast<double>(i) / kRate);
  return toDb(std::abs(sum));
}

double truePeakDb(const std::vector<float>& samples) {
  ebur128_state* meter = ebur128_init(1, kRate, EBUR128_MODE_TRUE_PEAK);
  ebur128_add_frames_float(meter, samples.data(), samples.size());
  double peak = 0;
  ebur128_true_peak(meter, 0, &peak);
  ebur128_destroy(&meter);
  return toDb(peak);
}

}  // namespace

class EffectsTest : public QObject {
  Q_OBJECT
 private slots:
  void everyEffectIsDescribedAndMade() {
    for (const EffectInfo& info : builtInEffects()) {
      QVERIFY(makeProcessor(settingOf(info.id.c_str(), {}, 2)) != nullptr);
      std::set<std::string> keys;
      for (const ParameterInfo& parameter : info.parameters) {
        QVERIFY(keys.insert(parameter.key).second);
        QVERIFY(parameter.least <= parameter.defaultValue && parameter.defaultValue <= parameter.most);
        QVERIFY(parameter.scale != Scale::Ratio || parameter.least > 0);
      }
    }
  }

  // Audio EQ Cookbook: at DC, f0 and Nyquist a bell has 0, its gain and 0 dB; a low shelf its gain, half of
  // it and 0; a cut with Q = 1/√2 has −3.01 dB at its frequency.
  void equaliserAgainstTheCookbook_data() {
    QTest::addColumn<QVariantMap>("values");
    QTest::addColumn<double>("hertz");
    QTest::addColumn<double>("expected");
    const auto row = [](const char* name, QVariantMap values, double hertz, double expected) {
      QTest::newRow(name) << values << hertz << expected;
    };
    const QVariantMap bell{{"bell1_freq", 1000}, {"bell1_gain", 9}, {"bell1_q", 2}};
    row("bell at DC", bell, 0, 0), row("bell at f0", bell, 1000, 9), row("bell at Nyquist", bell, 24000, 0);
    const QVariantMap low{{"low_freq", 200}, {"low_gain", -8}};
    row("low shelf at DC", low, 0, -8), row("low shelf at f0", low, 200, -4),
        row("low shelf at Nyquist", low, 24000, 0);
    const QVariantMap high{{"high_freq", 5000}, {"high_gain", 6}};
    row("high shelf at DC", high, 0, 0), row("high shelf at f0", high, 5000, 3),
        row("high shelf at Nyquist", high, 24000, 6);
    const QVariantMap cut{{"low_cut", 1}, {"low_cut_freq", 300}};
    row("low cut at f0", cut, 300, -3.0103), row("low cut far above", cut, 20000, 0);
    const QVariantMap top{{"high_cut", 1}, {"high_cut_freq", 3000}};
    row("high cut at f0", top, 3000, -3.0103), row("high cut at DC", top, 0, 0);
    row("bells add in dB", {{"bell1_freq", 1000}, {"bell1_gain", 4}, {"bell2_freq", 1000}, {"bell2_gain", 3}},
        1000, 7);
  }
  void equaliserAgainstTheCookbook() {
    QFETCH(QVariantMap, values);
    QFETCH(double, hertz);
    QFETCH(double, expected);
    std::map<std::string, double> set;
    for (auto it = values.begin(); it != values.end(); ++it)
      set[it.key().toStdString()] = it.value().toDouble();
    const auto equaliser = makeProcessor(settingOf("equaliser", set));
    Sound impulse(1, std::vector<float>(1 << 16, 0.0f));
    impulse[0][0] = 1;
    const double found = magnitudeDb(processed(*equaliser, impulse, 1)[0], hertz);
    QVERIFY2(std::abs(found - expected) < 0.01, qPrintable(QString::number(found)));
  }

  void anEqualiserAtZeroTouchesNothing() {
    const auto equaliser = makeProcessor(settingOf("equaliser", {}));
    const Sound in{tone(440, 0.7, 4800)};
    QVERIFY(processed(*equaliser, in, 1) == in);
  }

  // The curve of the formula (knee in the middle of the threshold: slope · (W/2)² / 2W), in the steady state.
  void compressorCurve_data() {
    QTest::addColumn<double>("level");
    QTest::addColumn<double>("gain");
    QTest::newRow("far below") << -60.0 << 0.0;
    QTest::newRow("the knee begins") << -23.0 << 0.0;
    QTest::newRow("at the threshold") << -20.0 << (1.0 / 4 - 1) * 9 / 12;
    QTest::newRow("the knee ends") << -17.0 << (1.0 / 4 - 1) * 3;
    QTest::newRow("far above") << -4.0 << (1.0 / 4 - 1) * 16;
  }
  void compressorCurve() {
    QFETCH(double, level);
    QFETCH(double, gain);
    const auto compressor = makeProcessor(settingOf(
        "compressor", {{"threshold", -20}, {"ratio", 4}, {"knee", 6}, {"attack", 1}, {"release", 50}}));
    const Sound steady{std::vector<float>(kRate, static_cast<float>(gainOf(level)))};
    const double found = toDb(processed(*compressor, steady, 1)[0].back());
    QVERIFY2(std::abs(found - gain) < 0.01, qPrintable(QString::number(found)));
  }

  // After its time constant a step in decibels is through by 1 − 1/e.
  void compressorTimes() {
    const auto compressor = makeProcessor(settingOf(
        "compressor", {{"threshold", -30}, {"ratio", 100}, {"knee", 0}, {"attack", 20}, {"release", 100}}));
    Sound steps{std::vector<float>(3 * kRate, static_cast<float>(gainOf(-60)))};
    std::fill(steps[0].begin() + kRate, steps[0].begin() + 2 * kRate, static_cast<float>(gainOf(-10)));
    const auto gain = processed(*compressor, steps, 1)[0];
    const double whole = 20 * (1 - 1.0 / 100);
    const auto after = [&](double seconds) { return toDb(gain[static_cast<std::size_t>(seconds * kRate)]); };
    QVERIFY(std::abs(after(1.020) + whole * (1 - std::exp(-1))) < 0.02);
    QVERIFY(std::abs(after(2.100) + whole * std::exp(-1)) < 0.02);
    QVERIFY(std::abs(after(1.9) + whole) < 0.01);
  }

  // Never over its ceiling by true peak, as libebur128 measures it (ITU-R BS.1770), whatever comes.
  void limiterHoldsItsCeiling_data() {
    QTest::addColumn<QString>("what");
    for (const char* what : {"quarter rate", "quarter rate between", "clicks", "noise", "noise bursts",
                             "square", "steps of a tone", "near Nyquist"})
      QTest::newRow(what) << QString(what);
  }
  void limiterHoldsItsCeiling() {
    QFETCH(QString, what);
    std::mt19937 random(5);
    std::uniform_real_distribution<float> any(-1, 1);
    std::vector<float> in(2 * kRate);
    if (what == "quarter rate") in = tone(12000, 1, in.size());
    if (what == "quarter rate between") in = tone(12000, 1.41, in.size(), M_PI / 4);
    if (what == "near Nyquist") in = tone(22000, 1, in.size());
    if (what == "clicks")
      for (std::size_t i = 100; i < in.size(); i += 997) in[i] = i % 2 == 0 ? 1.0f : -1.0f;
    if (what.startsWith("noise"))
      for (std::size_t i = 0; i < in.size(); ++i)
        in[i] = what == "noise" || (i / 700) % 5 == 0 ? any(random) : 0.02f * any(random);
    if (what == "square")
      for (std::size_t i = 0; i < in.size(); ++i) in[i] = (i / 37) % 2 == 0 ? 1.0f : -1.0f;
    if (what == "steps of a tone") {
      in = tone(997, 1, in.size());
      for (std::size_t i = 0; i < in.size(); ++i) in[i] *= (i / 4800) % 2 == 0 ? 0.1f : 1.0f;
    }
    for (std::size_t i = 0; i < 2000; ++i) {  // an abrupt start or end is a click of its own
      in[i] *= static_cast<float>(i) / 2000;
      in[in.size() - 1 - i] *= static_cast<float>(i) / 2000;
    }
    const EffectSetting setting = settingOf("limiter", {{"gain", 12}, {"ceiling", -1}, {"release", 20}});
    const auto limiter = makeProcessor(setting);
    Sound padded{in};
    const auto latency = static_cast<std::size_t>(setting.info->latency(kRate));
    padded[0].resize(in.size() + latency, 0.0f);
    const auto gain = processed(*limiter, padded, 1)[0];
    std::vector<float> out(in.size());
    for (std::size_t i = 0; i < in.size(); ++i) out[i] = in[i] * gain[i + latency];
    const double peak = truePeakDb(out);
    QVERIFY2(peak <= -1.0, qPrintable(QString::number(peak)));
    QVERIFY2(peak > -2.5, qPrintable(QString::number(peak)));  // and it does not just turn everything down
  }

  void aLimiterWithNothingToDoIsExact() {
    const auto limiter = makeProcessor(settingOf("limiter", {}, 2));
    const auto gain = processed(*limiter, {tone(300, 0.5, 9600), tone(400, 0.5, 9600)}, 1)[0];
    QVERIFY(std::all_of(gain.begin(), gain.end(), [](float g) { return g == 1.0f; }));
  }

  // After a long release it rests, to the bit: no step below unity for ever after.
  void aLimiterComesToRest() {
    const auto limiter = makeProcessor(settingOf("limiter", {{"ceiling", -12}, {"release", 1000}}));
    std::vector<float> in(25 * kRate, 0.25f * 0.5f);
    for (std::size_t i = 100; i < 5000; ++i) in[i] = i % 2 == 0 ? 1.0f : -1.0f;
    const auto gain = processed(*limiter, {in}, 1)[0];
    QVERIFY(*std::min_element(gain.begin(), gain.end()) < 0.3f);
    QVERIFY(std::all_of(gain.end() - kRate, gain.end(), [](float g) { return g == 1.0f; }));
    QVERIFY(!limiter->isAtRest());
    (void)processed(*limiter, {std::vector<float>(kRate, 0.0f)}, 1);
    QVERIFY(limiter->isAtRest());
  }

  // Schroeder, "New method of measuring reverberation time", JASA 37, 1965: the energy still to come,
  // backwards integrated, falls by 60 dB in the stated time; read between −5 and −35 dB, as ISO 3382 does for
  // T30.
  void reverbDecay_data() {
    QTest::addColumn<double>("seconds");
    for (const double seconds : {0.4, 1.2, 3.0}) QTest::addRow("%.1f s", seconds) << seconds;
  }
  void reverbDecay() {
    QFETCH(double, seconds);
    const auto reverb =
        makeProcessor(settingOf("reverb", {{"decay", seconds}, {"damp", 20000}, {"mix", 100}}));
    Sound impulse{std::vector<float>(static_cast<std::size_t>(kRate * (seconds + 1)), 0.0f)};
    impulse[0][0] = 1;
    auto tail = processed(*reverb, impulse, 1)[0];
    BiquadState low, high;  // an octave around 500 Hz, where the air is not counted
    const Biquad below = biquad::lowPass(707, 0.7071, kRate), above = biquad::highPass(354, 0.7071, kRate);
    std::vector<double> left(tail.size() + 1, 0.0);
    for (float& s : tail) s = static_cast<float>(high.step(above, low.step(below, s)));
    for (std::size_t i = tail.size(); i-- > 0;)
      left[i] = left[i + 1] + static_cast<double>(tail[i]) * tail[i];
    const auto timeOf = [&](double decibels) {
      std::size_t i = 0;
      while (10 * std::log10(left[i] / left[0]) > decibels) ++i;
      return static_cast<double>(i) / kRate;
    };
    const double measured = 2 * (timeOf(-35) - timeOf(-5));
    QVERIFY2(std::abs(measured / seconds - 1) < 0.1, qPrintable(QString::number(measured)));
  }

  void echoRepeats() {
    const auto echo =
        makeProcessor(settingOf("echo", {{"time", 100}, {"feedback", 50}, {"damp", 20000}, {"mix", 50}}));
    Sound impulse{std::vector<float>(kRate, 0.0f)};
    impulse[0][0] = 1;
    const auto out = processed(*echo, impulse, 1)[0];
    QCOMPARE(out[0], 0.5f);
    QCOMPARE(out[4800], 0.5f);
    double second = 0;  // dulled a little: its sum is what feedback left of it
    for (std::size_t i = 9600; i < 9700; ++i) second += out[i];
    QVERIFY(std::abs(second - 0.25) < 1e-3);
  }

  // Soft sounds pass, loud ones stay below 1/drive; what it makes of a tone folds back little.
  void saturationBends() {
    const EffectSetting setting = settingOf("saturation", {{"drive", 12}});
    const auto run = [&](double hertz, double level) {
      const auto saturation = makeProcessor(setting);
      return processed(*saturation, {tone(hertz, level, 3 * kRate)}, 1)[0];
    };
    const auto soft = run(1000, 0.001);
    const Frame latency = setting.info->latency(kRate);
    const auto original = tone(1000, 0.001, 3 * kRate);
    double worst = 0;
    for (std::size_t i = 2000; i < 20000; ++i)
      worst = std::max<double>(worst, std::abs(soft[i + static_cast<std::size_t>(latency)] - original[i]));
    QVERIFY2(toDb(worst / 0.001) < -60, qPrintable(QString::number(toDb(worst / 0.001))));
    QVERIFY(test::loudest(run(1000, 1)) < 1.02 * gainOf(-12));
    // The 9th harmonic of 7 kHz would fold to 15 kHz; the tone itself stays.
    auto bent = run(7000, 1);
    bent.erase(bent.begin(), bent.begin() + kRate);
    QVERIFY(magnitudeDb(bent, 15000) - magnitudeDb(bent, 7000) < -70);
  }

  // From equal states equal sounds follow, whatever the blocks; a copy goes on like the original; and what
  // has rung out is left alone until something comes.
  void statesAreValues_data() {
    QTest::addColumn<QString>("effect");
    for (const EffectInfo& info : builtInEffects())
      QTest::newRow(info.id.c_str()) << QString::fromStdString(info.id);
  }
  void statesAreValues() {
    QFETCH(QString, effect);
    const EffectSetting setting =
        settingOf(effect.toUtf8(), {{"drive", 20}, {"bell1_gain", 6}, {"gain", 3}}, 2);
    const bool isGain = setting.info->linearity == EffectInfo::Linearity::Dynamics;
    Sound in(2);
    for (std::size_t c = 0; c < 2; ++c) {
      in[c] = tone(300 + 100 * static_cast<double>(c), 0.9, 10000);
      std::fill(in[c].begin() + 6000, in[c].end(), 0.0f);
    }
    const std::size_t outputs = isGain ? 1 : 2;
    const auto runner = [&] {
      return EffectRunner(makeProcessor(setting), 2, static_cast<int>(outputs), isGain, true);
    };
    const auto run = [&](EffectRunner& effect_, Frame from, Frame to, Frame block, Sound& out) {
      for (Frame at = from; at < to; at += block) {
        const float* a[2]{in[0].data() + at, in[1].data() + at};
        float* b[2]{out[0].data() + at, out[outputs - 1].data() + at};
        if (!effect_.process(a, b, at + 77, std::min(block, to - at)))
          for (std::size_t c = 0; c < outputs; ++c) std::fill_n(b[c], std::min(block, to - at), 0.0f);
      }
    };
    Sound whole(outputs, std::vector<float>(10000)), parts = whole;
    EffectRunner first = runner();
    run(first, 0, 10000, 10000, whole);
    EffectRunner second = runner();
    run(second, 0, 3333, 101, parts);
    EffectRunner copy = second.clone();
    run(second, 3333, 5000, 7, parts);
    run(copy, 3333, 10000, 1024, parts);
    QVERIFY(whole == parts);
  }
};

QTEST_GUILESS_MAIN(EffectsTest)
#include "tst_effects.moc"
