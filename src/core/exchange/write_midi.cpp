#include "exchange/write_midi.h"

#include <algorithm>
#include <bit>
#include <cmath>
#include <cstdint>

#include "base/unicode.h"

namespace octaphon {
namespace {

constexpr std::uint32_t kMostTicks = 0x0FFFFFFF;  // of one step, that a file can hold
constexpr char kMarker = 0x06, kTempo = 0x51, kMetre = 0x58, kEnd = 0x2F, kName = 0x03;

std::string bigEndian(std::uint32_t value, int bytes) {
  std::string text;
  for (int i = bytes - 1; i >= 0; --i) text += static_cast<char>(value >> (8 * i) & 0xFF);
  return text;
}

std::string variableLength(std::uint32_t value) {
  std::string text(1, static_cast<char>(value & 0x7F));
  while (value >>= 7) text.insert(text.begin(), static_cast<char>(0x80 | (value & 0x7F)));
  return text;
}

/// Tempo as a file holds it, and the tick that it begins at.
struct Stretch {
  Frame at;
  double tick;
  std::uint32_t micro;  // a quarter note
};

std::vector<Stretch> stretchesOf(const Session& session) {
  std::vector<TempoPoint> points = session.tempo;
  if (points.empty()) points.push_back({});
  std::vector<Stretch> stretches;
  for (const TempoPoint& point : points) {
    double tick = 0;
    if (!stretches.empty()) {
      const Stretch& before = stretches.back();
      const double seconds = static_cast<double>(point.at - before.at) / session.rate;
      tick = std::round(before.tick + seconds * 1e6 / before.micro * kMidiTicks);
    }
    stretches.push_back({point.at, tick, static_cast<std::uint32_t>(std::lround(60e6 / point.bpm))});
  }
  return stretches;
}

class Writer {
 public:
  explicit Writer(const Session& session) : session_(session), stretches_(stretchesOf(session)) {}

  std::string file() {
    meta(0, kName, session_.displayName());
    addTempo();
    addMarks();
    std::stable_sort(events_.begin(), events_.end(),
                     [](const Event& a, const Event& b) { return a.tick < b.tick; });
    std::string track;
    std::uint64_t now = 0;
    for (const Event& event : events_) {
      const std::uint64_t step = std::min<std::uint64_t>(event.tick - now, kMostTicks);
      track += variableLength(static_cast<std::uint32_t>(step)) + event.bytes;
      now += step;
    }
    track += variableLength(0) + std::string{'\xFF', kEnd, 0};
    return "MThd" + bigEndian(6, 4) + bigEndian(0, 2) + bigEndian(1, 2) + bigEndian(kMidiTicks, 2) + "MTrk" +
           bigEndian(static_cast<std::uint32_t>(track.size()), 4) + track;
  }

 private:
  struct Event {
    std::uint64_t tick;
    std::string bytes;
  };

  std::uint64_t tickOf(Frame at) const {
    auto stretch = std::find_if(stretches_.rbegin(), stretches_.rend(),
                                [&](const Stretch& one) { return one.at <= at; });
    const Stretch& in = stretch == stretches_.rend() ? stretches_.front() : *stretch;
    const double seconds = static_cast<double>(at - in.at) / session_.rate;
    return static_cast<std::uint64_t>(
        std::llround(std::max(0.0, in.tick + seconds * 1e6 / in.micro * kMidiTicks)));
  }

  void meta(std::uint64_t tick, char type, const std::string& data) {
    events_.push_back(
        {tick, std::string{'\xFF', type} + variableLength(static_cast<std::uint32_t>(data.size())) + data});
  }

  void addTempo() {
    for (std::size_t i = 0; i < session_.tempo.size(); ++i) {
      const TempoPoint& point = session_.tempo[i];
      const auto tick = static_cast<std::uint64_t>(stretches_[i].tick);
      const bool isNew =
          i == 0 || point.beats != session_.tempo[i - 1].beats || point.unit != session_.tempo[i - 1].unit;
      const auto power = std::countr_zero(static_cast<unsigned>(point.unit));
      if (isNew)  // a click each beat; a quarter note has eight 32nds
        meta(tick, kMetre,
             {static_cast<char>(point.beats), static_cast<char>(power), static_cast<char>(96 / point.unit),
              8});
      meta(tick, kTempo, bigEndian(stretches_[i].micro, 3));
    }
    if (session_.tempo.empty()) meta(0, kTempo, bigEndian(stretches_.front().micro, 3));
  }

  void addMarks() {
    const auto mark = [&](Frame at, const std::string& name) {
      meta(tickOf(at), kMarker, withoutControls(name, " "));
    };
    for (const Region& region : session_.regions) {
      mark(region.start, region.name);
      mark(region.end(), region.name + " (end)");
    }
    for (const MarkerSet& set : session_.markerSets)
      for (const Marker& marker : set.markers) mark(marker.at, marker.name);
  }

  const Session& session_;
  std::vector<Stretch> stretches_;
  std::vector<Event> events_;
};

}  // namespace

std::string midiOf(const Session& session) { return Writer(session).file(); }

}  // namespace octaphon
