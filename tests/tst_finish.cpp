// The chain of stages between a tap and an encoder, on buffers alone.
#include <cmath>
#include <QtTest>
#include <random>

#include "finish/chain.h"
#include "finish/held_sound.h"

using namespace octaphon;

namespace {

/// Keeps what it is given, channels behind each other in each frame.
struct Collected : SampleSink {
  int channels = 2;
  std::vector<std::int32_t> integers;
  std::vector<float> floats;

  Result<> write(const std::int32_t* const* in, Frame frames) override { return keep(integers, in, frames); }
  Result<> write(const float* const* in, Frame frames) override { return keep(floats, in, frames); }
  template <class T>
  Result<> keep(std::vector<T>& to, const T* const* in, Frame frames) {
    for (Frame i = 0; i < frames; ++i)
      for (int c = 0; c < channels; ++c) to.push_back(in[c][i]);
    return {};
  }
  bool operator==(const Collected& other) const {
    return integers == other.integers && floats == other.floats;
  }
};

/// Noise, with silence in the middle, and whole steps of 16 bits at the end.
struct Sound {
  std::vector<std::vector<float>> channels;
  Sound(int count, Frame frames) {
    std::mt19937 random(7);
    std::uniform_real_distribution<float> level(-0.9f, 0.9f);
    for (int c = 0; c < count; ++c) {
      auto& samples = channels.emplace_back();
      for (Frame i = 0; i < frames; ++i) {
        const bool isSilent = i > frames / 3 && i < frames / 2;
        const float value = level(random);
        samples.push_back(isSilent ? 0.0f : i > frames * 3 / 4 ? std::round(value * 32768) / 32768 : value);
      }
    }
  }
  Frame frames() const { return static_cast<Frame>(channels[0].size()); }
};

/// Plays the sound in blocks of what `next` gives.
template <class Next>
Collected played(const Sound& sound, const FinishPlan& plan, const Next& next, Frame endAt = kMaxFrame) {
  Collected kept;
  kept.channels = plan.form.channels;
  FinishChain chain(plan, kept);
  const Frame end = std::min(sound.frames(), endAt);
  for (Frame at = 0; at < end;) {
    const Frame frames = std::min<Frame>(next(), end - at);
    std::vector<const float*> block;
    for (const auto& samples : sound.channels) block.push_back(samples.data() + at);
    if (!chain.take({block.data(), frames})) qFatal("the chain failed");
    at += frames;
  }
  if (!chain.end()) qFatal("the chain failed at the end");
  return kept;
}

FinishPlan planFor(int tapped, int channels, int bits, Frame latency, Frame frames) {
  FinishPlan plan;
  plan.tapped = tapped;
  plan.latency = latency;
  plan.extent.body = frames;
  plan.form = {channels, bits, bits < 32, "row", "file.wav"};
  return plan;
}

}  // namespace

class FinishTest : public QObject {
  Q_OBJECT
 private slots:
  // More than is held in memory comes back in order, also where it is taken and given in turn.
  void muchSoundIsHeldInOrder() {
    constexpr Frame kBlock = 100000;
    struct Checked : Stage {
      Frame come = 0;
      Result<> take(const SoundBlock& block) override {
        for (Frame i = 0; i < block.frames; ++i, ++come) {
          const bool isSilence = come / kBlock % 5 == 3;
          const auto expected = isSilence ? 0.0f : static_cast<float>(come % 9973);
          const float found = block.isSilent() ? 0.0f : block.channels[0][i] - block.channels[1][i];
          if (found != expected) return fail(ErrorCode::BadValue, std::to_string(come));
        }
        return {};
      }
      Result<> end() override { return {}; }
    } checked;
    HeldSound held(2);
    std::vector<float> left(kBlock), right(kBlock, -1.0f);
    Frame added = 0;
    const auto add = [&](int blocks) {
      for (int b = 0; b < blocks; ++b, added += kBlock) {
        for (Frame i = 0; i < kBlock; ++i)
          left[static_cast<std::size_t>(i)] = static_cast<float>((added + i) % 9973) - 1;
        const float* channels[]{left.data(), right.data()};
        const bool isSilence = added / kBlock % 5 == 3;
        QVERIFY(held.add({isSilence ? nullptr : channels, kBlock}, 0, kBlock));
      }
    };
    add(80);
    QVERIFY(static_cast<std::size_t>(held.frames()) * 2 * sizeof(float) > HeldSound::kMostBytes);
    QVERIFY(held.giveTo(checked, 50 * kBlock + 123));
    add(60);
    QVERIFY(held.giveTo(checked, held.frames()));
    add(60);
    QVERIFY(held.giveTo(checked, held.frames()));
    QCOMPARE(held.frames(), 0);
    QCOMPARE(checked.come, added);
  }

  void anyBlocksGiveTheSameBytes_data() {
    QTest::addColumn<int>("tapped");
    QTest::addColumn<int>("channels");
    QTest::addColumn<int>("bits");
    QTest::addColumn<int>("latency");
    for (const int bits : {16, 24, 32})
      for (const int latency : {0, 1, 168, 512})
        for (const auto& [tapped, channels] : {std::pair(1, 1), {2, 2}, {2, 1}, {1, 2}, {6, 2}})
          QTest::addRow("%d bit, %d late, %d to %d", bits, latency, tapped, channels)
              << tapped << channels << bits << latency;
  }
  void anyBlocksGiveTheSameBytes() {
    QFETCH(int, tapped);
    QFETCH(int, channels);
    QFETCH(int, bits);
    QFETCH(int, latency);
    const Sound sound(tapped, 20'011);
    const Frame length = 19'000;
    const FinishPlan plan = planFor(tapped, channels, bits, latency, length);
    const Collected whole = played(sound, plan, [] { return 1 << 20; });
    QCOMPARE(whole.integers.size() + whole.floats.size(), static_cast<std::size_t>(length * channels));
    for (const Frame block : {1, 255, 256, 257, 4096, 5000})
      QVERIFY(played(sound, plan, [&] { return block; }) == whole);
    for (unsigned seed = 1; seed <= 5; ++seed) {
      std::mt19937 random(seed);
      std::uniform_int_distribution<Frame> size(1, 3000);
      QVERIFY(played(sound, plan, [&] { return size(random); }) == whole);
    }
  }

  // With all that ends can ask for: another rate, trimmed or moved out or exact, faded, a tail that is
  // decided on the way.
  void anyBlocksGiveTheSameEnds_data() {
    QTest::addColumn<int>("rate");
    QTest::addColumn<QString>("what");
    for (const int rate : {44100, 48000, 96000})
      for (const char* what : {"trimmed", "moved out", "exact, cut", "exact, filled", "decided late"})
        QTest::addRow("%d, %s", rate, what) << rate << what;
  }
  void anyBlocksGiveTheSameEnds() {
    QFETCH(int, rate);
    QFETCH(QString, what);
    const Sound sound(2, 26'000);
    FinishPlan plan = planFor(2, 2, 16, 168, 18'000);
    plan.extent.rate = rate;
    plan.extent.leadIn = 700;
    plan.context = plan.before = rate == 48000 ? 0 : 960;
    plan.fadeIn = {300, FadeShape::Smooth};
    plan.fadeOut = {5'000, FadeShape::Fast};
    if (what == "trimmed") plan.trimDb = -1;
    if (what == "moved out") plan.extent.picture = *parsePictureRate("29.97");
    if (what == "exact, cut") plan.extent.exact = 9'999;
    if (what == "exact, filled") plan.extent.exact = 60'001;
    plan.extent.silence = 123;
    plan.isDecided = what != "decided late";
    plan.tail = plan.isDecided ? 0 : 4'000;
    const Frame certain = plan.before + plan.extent.leadIn + plan.extent.body;
    const auto given = [&](const std::function<Frame()>& next) {
      Collected kept;
      FinishChain chain(plan, kept);
      for (Frame at = 0; at < sound.frames();) {
        const Frame frames = std::min(next(), sound.frames() - at);
        const float* block[]{sound.channels[0].data() + at, sound.channels[1].data() + at};
        if (!chain.take({block, frames})) qFatal("the chain failed");
        at += frames;
        // Known 1 000 frames after it has ended.
        if (at < certain + 2'480 + 1'000) continue;
        if (!chain.decide(1'480)) qFatal("the chain failed to decide");
      }
      if (!chain.end()) qFatal("the chain failed at the end");
      if (kept.integers.size() != static_cast<std::size_t>(2 * chain.extent().frames()))
        qFatal("another length");
      return kept;
    };
    const Collected whole = given([] { return Frame{1} << 20; });
    for (const Frame block : {1, 257, 4096, 5000}) QVERIFY(given([&] { return block; }) == whole);
    std::mt19937 random(3);
    std::uniform_int_distribution<Frame> size(1, 3000);
    for (int i = 0; i < 4; ++i) QVERIFY(given([&] { return size(random); }) == whole);
  }

  // Dither counts from the first frame that is written: a tap that comes late gives the same file.
  void latencyIsNoPartOfTheFile() {
    const Sound sound(2, 12'000);
    const Collected prompt = played(sound, planFor(2, 2, 16, 0, 10'000), [] { return 4096; });
    for (const Frame latency : {1, 100, 168, 256, 4095}) {
      Sound late(2, 0);
      for (int c = 0; c < 2; ++c) {
        late.channels[static_cast<std::size_t>(c)].assign(static_cast<std::size_t>(latency), 0.5f);
        const auto& own = sound.channels[static_cast<std::size_t>(c)];
        late.channels[static_cast<std::size_t>(c)].insert(late.channels[static_cast<std::size_t>(c)].end(),
                                                          own.begin(), own.end());
      }
      QVERIFY(played(late, planFor(2, 2, 16, latency, 10'000), [] { return 4096; }) == prompt);
    }
  }

  // A sound may end anywhere: what came by then is in the file, and nothing else.
  void toldToEndAnywhere() {
    const Sound sound(2, 9'000);
    const FinishPlan plan = planFor(2, 2, 24, 100, 8'000);
    const Collected whole = played(sound, plan, [] { return 1 << 20; });
    for (const Frame end : {0, 1, 99, 100, 101, 355, 356, 357, 4196, 5000, 8099, 8100, 9000}) {
      const Collected part = played(
          sound, plan, [] { return 700; }, end);
      const auto frames = static_cast<std::size_t>(std::clamp<Frame>(end - 100, 0, 8'000));
      QCOMPARE(part.integers.size(), frames * 2);
      // Noise is a function of the frame; what differs is only whether a cell that was cut off holds whole
      // steps.
      const std::size_t cells = frames / kQuantiseCell * kQuantiseCell * 2;
      QVERIFY(std::equal(part.integers.begin(), part.integers.begin() + static_cast<std::ptrdiff_t>(cells),
                         whole.integers.begin()));
    }
  }

  // Silent blocks and blocks of zeros are the same thing.
  void silenceIsSilence() {
    const FinishPlan plan = planFor(2, 1, 16, 10, 9'000);
    Collected zeros, silent;
    zeros.channels = silent.channels = 1;
    FinishChain a(plan, zeros), b(plan, silent);
    const std::vector<float> nothing(700, 0.0f);
    const float* block[]{nothing.data(), nothing.data()};
    for (Frame at = 0; at < 9'100; at += 700) {
      QVERIFY(a.take({block, 700}).has_value());
      QVERIFY(b.take({nullptr, 700}).has_value());
      QCOMPARE(a.taken(), b.taken());
    }
    QVERIFY(!a.wantsMore());
    QVERIFY(a.end().has_value() && b.end().has_value());
    QVERIFY(zeros == silent);
    QCOMPARE(silent.integers, std::vector<std::int32_t>(9'000, 0));
  }

  void whatIsNoNumberStopsTheFile() {
    for (const float bad : {std::numeric_limits<float>::quiet_NaN(), std::numeric_limits<float>::infinity()})
      for (const int bits : {24, 32}) {
        Collected kept;
        FinishChain chain(planFor(2, 2, bits, 0, 5'000), kept);
        std::vector<float> samples(5'000, 0.1f);
        samples[4'500] = bad;
        const float* block[]{samples.data(), samples.data()};
        const Result<> taken = chain.take({block, 5'000});
        const Result<> outcome = taken ? chain.end() : taken;
        QVERIFY(!outcome);
        QCOMPARE(outcome.error().code, ErrorCode::NotFinite);
        QCOMPARE(outcome.error().place, std::string("file.wav"));
      }
  }

  // A twin of each: at full scale nothing is clipped, one step over it is.
  void fullScaleIsSaturatedAndCounted() {
    for (const auto& [peak, clipped] :
         {std::pair(32767.0f / 32768, 0u), {1.0f, 256u}, {-1.0f, 0u}, {1.5f, 256u}}) {
      Collected kept;
      kept.channels = 1;
      FinishChain chain(planFor(1, 1, 16, 0, 256), kept);
      const std::vector<float> samples(256, peak);
      const float* block[]{samples.data()};
      QVERIFY(chain.take({block, 256}).has_value() && chain.end().has_value());
      QCOMPARE(chain.level().clipped, static_cast<std::uint64_t>(clipped));
      QCOMPARE(kept.integers[0], peak < 0 ? -32768 : 32767);
      QCOMPARE(chain.level().peak, std::fabs(peak));
    }
  }
};

QTEST_APPLESS_MAIN(FinishTest)
#include "tst_finish.moc"
