#include "tidewheel_sounds.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdint>
#include <filesystem>
#include <functional>
#include <map>
#include <numbers>

namespace octaphon::demo {
namespace {

constexpr double kTurn = 2 * std::numbers::pi;

/// SplitMix64 (Steele, Lea, Flood 2014): small, and the same on every machine.
class Random {
 public:
  explicit Random(std::uint64_t seed) : state_(seed) {}
  double unit() { return static_cast<double>(next() >> 11) * 0x1.0p-53; }
  double between(double low, double high) { return low + (high - low) * unit(); }
  double noise() { return between(-1, 1); }

 private:
  std::uint64_t next() {
    std::uint64_t z = (state_ += 0x9E3779B97F4A7C15ull);
    z = (z ^ (z >> 30)) * 0xBF58476D1CE4E5B9ull;
    z = (z ^ (z >> 27)) * 0x94D049BB133111EBull;
    return z ^ (z >> 31);
  }
  std::uint64_t state_;
};

/// One take, mono, filled from its beginning.
class Take {
 public:
  Take(int rate, double seconds, int number, std::uint64_t seed)
      : random(seed * 1000 + static_cast<std::uint64_t>(number)),
        rate_(rate),
        number_(number),
        samples_(static_cast<std::size_t>(rate * seconds)) {}

  Random random;

  int number() const { return number_; }
  double seconds() const { return static_cast<double>(samples_.size()) / rate_; }
  std::vector<float>& samples() { return samples_; }

  /// Adds value(seconds since `from`) over a stretch.
  void add(double from, double length, const std::function<double(double)>& value) {
    const auto first = static_cast<std::size_t>(std::max(0.0, from) * rate_);
    const auto last = std::min(samples_.size(), static_cast<std::size_t>((from + length) * rate_));
    for (std::size_t i = first; i < last; ++i)
      samples_[i] += static_cast<float>(value(static_cast<double>(i) / rate_ - from));
  }

  void addPartial(double from, double length, double hertz, double level, double decaySeconds) {
    add(from, length, [=](double t) {
      const double attack = std::min(1.0, t / 0.002);
      return level * attack * std::exp(-t / decaySeconds) * std::sin(kTurn * hertz * t);
    });
  }

  /// Noise through a resonance (state variable filter, Chamberlin 1980).
  void addNoise(double from, double length, double hertz, double width,
                const std::function<double(double)>& level) {
    double low = 0;
    double band = 0;
    const double f = 2 * std::sin(std::numbers::pi * std::min(hertz, rate_ / 6.5) / rate_);
    add(from, length, [&](double t) {
      low += f * band;
      const double high = random.noise() - low - width * band;
      band += f * high;
      return band * level(t);
    });
  }

  void fadeEnds(double inSeconds, double outSeconds) {
    const auto in = static_cast<std::size_t>(inSeconds * rate_);
    const auto out = static_cast<std::size_t>(outSeconds * rate_);
    for (std::size_t i = 0; i < std::min(in, samples_.size()); ++i)
      samples_[i] *= static_cast<float>(i) / static_cast<float>(in);
    for (std::size_t i = 0; i < std::min(out, samples_.size()); ++i)
      samples_[samples_.size() - 1 - i] *= static_cast<float>(i) / static_cast<float>(out);
  }

  void normalise(double peak) {
    float largest = 1e-9f;
    for (const float sample : samples_) largest = std::max(largest, std::fabs(sample));
    for (float& sample : samples_) sample *= static_cast<float>(peak) / largest;
  }

 private:
  int rate_;
  int number_;
  std::vector<float> samples_;
};

double bell(double t, double length) { return std::sin(std::numbers::pi * std::clamp(t / length, 0.0, 1.0)); }

void gear(Take& take) {
  const double length = 2.2 + 0.25 * take.number();
  double tooth = 0.10;
  for (double at = 0.02; at < length; at += tooth) {
    take.addNoise(at, 0.05, take.random.between(900, 1500), 0.25,
                  [](double t) { return 0.8 * std::exp(-t / 0.008); });
    take.addPartial(at, 0.08, take.random.between(180, 220), 0.5, 0.02);
    tooth = std::max(0.045, tooth * 0.965);
  }
  take.addNoise(0, length, 240, 0.4, [=](double t) { return 0.12 * bell(t, length); });
}

void chain(Take& take) {
  const double length = 2.0 + 0.2 * take.number();
  for (int link = 0; link < 60; ++link) {
    const double at = take.random.between(0.05, length);
    const double pitch = take.random.between(1800, 5200);
    take.addPartial(at, 0.12, pitch, 0.22, 0.018);
    take.addPartial(at, 0.12, pitch * 1.47, 0.14, 0.012);
  }
  take.addNoise(0, length, 3200, 0.6, [=](double t) { return 0.05 * bell(t, length); });
}

void brake(Take& take) {
  const double base = 720 + 60 * take.number();
  take.add(0.05, 1.6, [=](double t) {
    const double glide = base * (1 - 0.18 * t);
    return 0.35 * bell(t, 1.6) * std::sin(kTurn * glide * t) * (1 + 0.4 * std::sin(kTurn * 31 * t));
  });
  take.addNoise(0, 1.7, 1600, 0.3,
                [](double t) { return 0.5 * bell(t, 1.7) * (t > 1.3 ? 2 * (1.7 - t) : 1); });
  take.addPartial(1.62, 0.5, 95, 0.9, 0.09);
}

void motor(Take& take) {
  const double length = take.seconds() - 0.3;
  take.add(0, length, [=, &take](double t) {
    const double speed = 48 + 9 * std::min(1.0, t / 0.8) + take.number();
    double sum = 0;
    for (int k = 1; k <= 7; ++k) sum += std::sin(kTurn * speed * k * t + k) / k;
    return 0.3 * sum * bell(t, length);
  });
  take.addNoise(0, length, 420, 0.5, [=](double t) { return 0.25 * bell(t, length); });
}

void tolled(Take& take, double base, double decay) {
  // Partials of a struck bell, hum to nominal: common practice, no source.
  constexpr std::array<double, 6> kRatios{0.5, 1.0, 1.19, 1.5, 2.0, 2.67};
  for (std::size_t i = 0; i < kRatios.size(); ++i)
    take.addPartial(0.01, take.seconds(), base * kRatios[i], 0.5 / (1 + 0.5 * static_cast<double>(i)),
                    decay / (1 + 0.6 * static_cast<double>(i)));
}

void gull(Take& take) {
  double at = 0.05;
  for (int cry = 0; cry < 3 + take.number() % 3; ++cry) {
    const double base = take.random.between(1300, 1700);
    const double length = take.random.between(0.18, 0.35);
    take.add(at, length, [=](double t) {
      const double sweep =
          base * t + 420 * length / std::numbers::pi * (1 - std::cos(std::numbers::pi * t / length));
      return bell(t, length) * (0.5 * std::sin(kTurn * sweep) + 0.25 * std::sin(2 * kTurn * sweep));
    });
    at += length + take.random.between(0.05, 0.2);
  }
}

void rain(Take& take) {
  take.addNoise(0, take.seconds(), 5200, 1.2, [](double) { return 0.10; });
  const int drops = static_cast<int>(take.seconds() * (take.number() == 0 ? 30 : 90));
  for (int i = 0; i < drops; ++i)
    take.addPartial(take.random.between(0, take.seconds()), 0.05, take.random.between(900, 4200),
                    take.random.between(0.05, 0.3), 0.006);
}

void wind(Take& take) {
  const double rate = take.number() == 0 ? 0.11 : 0.31;
  take.addNoise(0, take.seconds(), 330, 0.35,
                [=](double t) { return 0.25 * (1.3 + std::sin(kTurn * rate * t)); });
  take.addNoise(0, take.seconds(), 1100, 0.15,
                [=](double t) { return 0.06 * (1 + std::sin(kTurn * rate * 1.7 * t + 1)); });
}

constexpr double kBeat = 60.0 / 108;
double pitchOf(int note) { return 440 * std::pow(2, (note - 69) / 12.0); }

void celesta(Take& take) {
  constexpr std::array<int, 12> kTune{76, 79, 84, 83, 79, 76, 74, 77, 81, 79, 77, 74};
  for (double at = 0; at < take.seconds() - 1; at += kBeat) {
    const auto step =
        static_cast<std::size_t>(std::lround(at / kBeat)) + static_cast<std::size_t>(take.number()) * 3;
    const double hertz = pitchOf(kTune[step % kTune.size()]);
    take.addPartial(at, 2.0, hertz, 0.40, 0.55);
    take.addPartial(at, 1.0, hertz * 4, 0.10, 0.12);
  }
}

void harmonium(Take& take) {
  constexpr std::array<std::array<int, 3>, 4> kChords{
      {{60, 64, 67}, {57, 60, 64}, {62, 65, 69}, {55, 59, 62}}};
  const double bar = 3 * kBeat;
  for (int n = 0; n * bar < take.seconds(); ++n)
    for (const int note : kChords[static_cast<std::size_t>(n) % kChords.size()])
      take.add(n * bar, bar + 0.2, [=](double t) {
        const double phase = kTurn * pitchOf(note) * t;
        return 0.12 * std::min(1.0, t / 0.15) * std::clamp((bar + 0.2 - t) / 0.3, 0.0, 1.0) *
               (std::sin(phase) + 0.5 * std::sin(2 * phase) + 0.25 * std::sin(3 * phase));
      });
}

void bass(Take& take) {
  constexpr std::array<int, 4> kRoots{36, 33, 38, 31};
  const double bar = 3 * kBeat;
  for (int n = 0; n * bar < take.seconds() - 0.5; ++n)
    for (const double beat : {0.0, 2.0}) {
      const double hertz = pitchOf(kRoots[static_cast<std::size_t>(n) % kRoots.size()]);
      take.addPartial(n * bar + beat * kBeat, 1.0, hertz, 0.7, 0.35);
      take.addPartial(n * bar + beat * kBeat, 0.5, hertz * 2, 0.3, 0.12);
    }
}

/// Syllables without words: a buzz through two moving resonances.
void spoken(Take& take, double pitch) {
  double at = 0.15;
  while (at < take.seconds() - 0.6) {
    const double length = take.random.between(0.12, 0.26);
    const double first = take.random.between(350, 750);
    const double second = take.random.between(1100, 2100);
    const double tone = pitch * take.random.between(0.9, 1.15);
    take.add(at, length, [=](double t) {
      double sum = 0;
      for (int k = 1; k * tone < 3200; ++k) {
        const double f = k * tone;
        const double gain =
            1 / (1 + std::pow((f - first) / 120, 2)) + 0.6 / (1 + std::pow((f - second) / 180, 2));
        sum += gain * std::sin(kTurn * f * t);
      }
      return 0.25 * bell(t, length) * sum;
    });
    at += length +
          (take.random.unit() < 0.2 ? take.random.between(0.25, 0.6) : take.random.between(0.02, 0.08));
  }
}

using Synth = std::function<void(Take&)>;

const std::map<std::string, Synth>& synths() {
  static const std::map<std::string, Synth> all{
      {"media/gear.wav", gear},
      {"media/chain.wav", chain},
      {"media/brake.wav", brake},
      {"media/motor.wav", motor},
      {"media/bell low.wav", [](Take& t) { tolled(t, 196 + 3 * t.number(), 2.6); }},
      {"media/bell high.wav", [](Take& t) { tolled(t, 523 + 7 * t.number(), 1.4); }},
      {"media/buoy.wav", [](Take& t) { tolled(t, 330 - 5 * t.number(), 0.9); }},
      {"media/gulls.wav", gull},
      {"media/rain.wav", rain},
      {"media/wind.wav", wind},
      {"media/celesta.wav", celesta},
      {"media/harmonium.wav", harmonium},
      {"media/bass.wav", bass},
      {"media/guide.wav", [](Take& t) { spoken(t, 165); }},
      {"media/hail.wav", [](Take& t) { spoken(t, 118); }},
  };
  return all;
}

/// The second side of a stereo take: the same sound some milliseconds later and a little lower.
float otherSide(const std::vector<float>& samples, std::size_t i, int rate) {
  const auto delay = static_cast<std::size_t>(rate * 0.007);
  return i < delay ? 0.0f : 0.85f * samples[i - delay];
}

}  // namespace

const std::vector<Recording>& recordings() {
  static const std::vector<Recording> all{
      {"media/gear.wav", 48000, 1, 6, 5},     {"media/chain.wav", 48000, 1, 6, 5},
      {"media/brake.wav", 48000, 1, 2, 4},    {"media/motor.wav", 48000, 2, 3, 6},
      {"media/bell low.wav", 48000, 2, 3, 6}, {"media/bell high.wav", 48000, 2, 3, 5},
      {"media/buoy.wav", 44100, 1, 2, 4},     {"media/gulls.wav", 48000, 1, 3, 4},
      {"media/rain.wav", 48000, 2, 2, 66},    {"media/wind.wav", 48000, 2, 2, 66},
      {"media/celesta.wav", 48000, 2, 1, 62}, {"media/harmonium.wav", 48000, 2, 1, 62},
      {"media/bass.wav", 48000, 1, 1, 62},    {"media/guide.wav", 44100, 1, 1, 62},
      {"media/hail.wav", 48000, 1, 2, 8},
  };
  return all;
}

Sound synthesise(const Recording& recording) {
  Sound sound{recording.rate, recording.channels, {}};
  const std::string name = std::filesystem::path(recording.file).replace_extension(".wav");
  std::uint64_t seed = 1907;
  for (const char c : name) seed = seed * 31 + static_cast<unsigned char>(c);
  for (int number = 0; number < recording.takes; ++number) {
    Take take(recording.rate, recording.slotSeconds, number, seed);
    synths().at(name)(take);
    take.normalise(0.5);
    take.fadeEnds(0.002, 0.05);
    for (std::size_t i = 0; i < take.samples().size(); ++i) {
      sound.samples.push_back(take.samples()[i]);
      if (recording.channels == 2) sound.samples.push_back(otherSide(take.samples(), i, recording.rate));
    }
  }
  return sound;
}

}  // namespace octaphon::demo
