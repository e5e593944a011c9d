#include "exchange/midi_file.h"

#include <algorithm>
#include <optional>

#include "base/files.h"
#include "base/unicode.h"

namespace octaphon {
namespace {

constexpr std::uint32_t kDefaultTempo = 500'000;  // microseconds a quarter note: 120 BPM

struct Event {
  std::uint64_t tick;
  int type;  // of the meta event
  std::string_view data;
};

class MidiReader {
 public:
  MidiReader(std::string_view bytes, std::string place) : bytes_(bytes), place_(std::move(place)) {}

  Result<> read() {
    if (bytes_.size() < 14 || bytes_.substr(0, 4) != "MThd") return wrong("it is no Standard MIDI File");
    at_ = 4;
    const std::uint64_t head = number(4);
    if (head < 6 || head > bytes_.size() - 8) return wrong("its head is cut off");
    const std::uint64_t format = number(2);
    number(2);
    division_ = static_cast<unsigned>(number(2));
    if (format > 1)
      return fail(ErrorCode::Unsupported, place_,
                  "its tracks do not run together (format " + std::to_string(format) + ")",
                  "Save it as format 0 or 1");
    if (division_ == 0 || (isSmpte() && (division_ & 0xFF) == 0)) return wrong("its ticks have no length");
    at_ = 8 + static_cast<std::size_t>(head);
    while (at_ + 8 <= bytes_.size()) OCTAPHON_TRY(readChunk());
    std::stable_sort(events_.begin(), events_.end(),
                     [](const Event& a, const Event& b) { return a.tick < b.tick; });
    return {};
  }

  bool isSmpte() const { return (division_ & 0x8000) != 0; }
  unsigned division() const { return division_; }
  const std::vector<Event>& events() const { return events_; }
  tl::unexpected<Error> wrong(const std::string& why) const {
    return fail(ErrorCode::Syntax, place_ + ", byte " + std::to_string(at_), why, "Export the file again");
  }

 private:
  /// Big-endian, as many bytes as there are.
  std::uint64_t number(int bytes) {
    std::uint64_t value = 0;
    for (; bytes > 0 && at_ < bytes_.size(); --bytes)
      value = value << 8 | static_cast<unsigned char>(bytes_[at_++]);
    return value;
  }

  Result<> readChunk() {
    const bool isTrack = bytes_.substr(at_, 4) == "MTrk";
    at_ += 4;
    const std::uint64_t size = number(4);
    if (size > bytes_.size() - at_) return wrong("a track is cut off");
    const std::size_t end = at_ + static_cast<std::size_t>(size);
    if (isTrack) OCTAPHON_TRY(readTrack(end));
    at_ = end;
    return {};
  }

  std::optional<std::uint64_t> variable(std::size_t end) {
    std::uint64_t value = 0;
    for (int i = 0; i < 4 && at_ < end; ++i) {
      const auto byte = static_cast<unsigned char>(bytes_[at_++]);
      value = value << 7 | (byte & 0x7Fu);
      if ((byte & 0x80) == 0) return value;
    }
    return std::nullopt;
  }

  Result<> readTrack(std::size_t end) {
    std::uint64_t tick = 0;
    unsigned status = 0;
    while (at_ < end) {
      const auto delta = variable(end);
      if (!delta || at_ >= end) return wrong("an event is cut off");
      tick += *delta;
      const auto first = static_cast<unsigned char>(bytes_[at_]);
      if (first >= 0x80) {
        status = first;
        ++at_;
      } else if (status < 0x80 || status >= 0xF0) {
        return wrong("an event has no status");
      }
      if (status == 0xFF || status == 0xF0 || status == 0xF7) {
        OCTAPHON_ASSIGN(const bool isEnd, readLong(status, tick, end));
        if (isEnd) return {};
      } else if (status >= 0xF0) {
        return wrong("an event that no file may hold");
      } else {
        at_ += (status & 0xF0) == 0xC0 || (status & 0xF0) == 0xD0 ? 1 : 2;
        if (at_ > end) return wrong("an event is cut off");
      }
    }
    return {};
  }

  /// A meta or system exclusive event; true for the end of the track.
  Result<bool> readLong(unsigned status, std::uint64_t tick, std::size_t end) {
    int type = -1;
    if (status == 0xFF) {
      if (at_ >= end) return wrong("an event is cut off");
      type = static_cast<unsigned char>(bytes_[at_++]);
    }
    const auto size = variable(end);
    if (!size || *size > end - at_) return wrong("an event is cut off");
    const std::string_view data = bytes_.substr(at_, static_cast<std::size_t>(*size));
    at_ += data.size();
    if (type == 0x06 || type == 0x07 || (type == 0x51 && data.size() >= 3) ||
        (type == 0x58 && data.size() >= 2))
      events_.push_back({tick, type, data});
    return type == 0x2F;
  }

  std::string_view bytes_;
  std::string place_;
  std::size_t at_ = 0;
  unsigned division_ = 0;
  std::vector<Event> events_;
};

/// Exact time of ticks: a sum of ticks · microseconds a quarter, over `division` and a million.
class Clock {
 public:
  Clock(const MidiReader& file, int rate) : rate_(rate) {
    if (file.isSmpte()) {
      const int fps = 256 - static_cast<int>(file.division() >> 8);
      const WideFrame ticks = file.division() & 0xFF;
      // 29 stands for 30 drop: 30000/1001 frames a second.
      ticksPerSecond_ = fps == 29 ? ticks * 30'000 : ticks * fps;
      divisor_ = fps == 29 ? 1001 : 1;
      usPerQuarter_ = 0;
    } else {
      division_ = file.division();
    }
  }

  std::optional<Frame> at(std::uint64_t tick) const {
    WideFrame top, bottom;
    if (usPerQuarter_ == 0) {
      top = WideFrame{tick} * divisor_ * rate_;
      bottom = ticksPerSecond_;
    } else {
      const WideFrame micro = sum_ + WideFrame{tick - tick_} * usPerQuarter_;
      top = micro * rate_;
      bottom = WideFrame{division_} * 1'000'000;
    }
    const WideFrame frame = (top * 2 + bottom) / (bottom * 2);
    if (frame > kMaxFrame) return std::nullopt;
    return static_cast<Frame>(frame);
  }

  void setTempo(std::uint64_t tick, std::uint32_t usPerQuarter) {
    sum_ += WideFrame{tick - tick_} * usPerQuarter_;
    tick_ = tick;
    usPerQuarter_ = usPerQuarter;
  }

 private:
  int rate_;
  WideFrame ticksPerSecond_ = 0, divisor_ = 1, division_ = 1;
  WideFrame sum_ = 0;
  std::uint64_t tick_ = 0;
  std::uint32_t usPerQuarter_ = kDefaultTempo;
};

class MapBuilder {
 public:
  MapBuilder(const MidiReader& file, int rate, const std::string& place)
      : file_(file), clock_(file, rate), place_(place) {}

  Result<MidiMap> build() {
    if (!file_.isSmpte()) map_.tempo.push_back({});
    for (const Event& event : file_.events()) {
      const auto at = clock_.at(event.tick);
      if (!at) return fail(ErrorCode::TooLarge, place_, "an event lies later than a session can be");
      if (event.type == 0x06 || event.type == 0x07)
        map_.markers.push_back({*at, printable(decodedText(event.data), 1000)});
      else if (!file_.isSmpte())
        OCTAPHON_TRY(event.type == 0x51 ? setTempo(event, *at) : setMetre(event, *at));
    }
    return std::move(map_);
  }

 private:
  TempoPoint& pointAt(Frame at) {
    if (map_.tempo.back().at != at) {
      map_.tempo.push_back(map_.tempo.back());
      map_.tempo.back().at = at;
    }
    return map_.tempo.back();
  }

  Result<> setTempo(const Event& event, Frame at) {
    std::uint32_t micro = 0;
    for (int i = 0; i < 3; ++i)
      micro = micro << 8 | static_cast<unsigned char>(event.data[static_cast<std::size_t>(i)]);
    const double bpm = micro == 0 ? 0 : 60e6 / micro;
    if (bpm < 1 || bpm > 1000)
      return fail(ErrorCode::BadValue, place_, "a tempo is not between 1 and 1000 BPM",
                  "Correct the tempo track");
    clock_.setTempo(event.tick, micro);
    pointAt(at).bpm = bpm;
    return {};
  }

  Result<> setMetre(const Event& event, Frame at) {
    const int beats = static_cast<unsigned char>(event.data[0]);
    const int power = static_cast<unsigned char>(event.data[1]);
    if (beats < 1 || beats > 64 || power > 6)
      return fail(ErrorCode::BadValue, place_,
                  "a metre of " + std::to_string(beats) + " beats cannot be used",
                  "Use 1 to 64 beats of a whole to a 64th note");
    TempoPoint& point = pointAt(at);
    point.beats = beats;
    point.unit = 1 << power;
    return {};
  }

  const MidiReader& file_;
  Clock clock_;
  std::string place_;
  MidiMap map_;
};

}  // namespace

Result<MidiMap> readMidi(std::string_view bytes, int rate, const std::string& place) {
  MidiReader file(bytes, place);
  OCTAPHON_TRY(file.read());
  return MapBuilder(file, rate, place).build();
}

}  // namespace octaphon
