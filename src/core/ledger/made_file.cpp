#include "ledger/made_file.h"

#include <algorithm>
#include <cmath>

#include <nlohmann/json.hpp>

namespace octaphon {
namespace {

using Json = nlohmann::ordered_json;

constexpr std::size_t kFiguresOfAChannel = 4, kNumbersOfAMark = 3, kNumbersOfALoop = 2, kTextsOfARemark = 2;
constexpr std::size_t kNumbersOfAPlace = 5;  // rate and start in the session, lead-in, body, tail
constexpr int kMostChannels = 64;
constexpr Frame kMostLayers = 1'000'000, kMostLaps = 1'000'000, kMostRate = 10'000'000;

Json figuresJson(const SoundFigures& figures) {
  Json list = Json::array();
  for (const ChannelFigures& channel : figures.channels)
    for (const double figure : {channel.peak, channel.sum, channel.energy, channel.moment})
      list.push_back(figure);
  return list;
}

Json marksJson(const std::vector<FileMark>& marks) {
  Json list = Json::array();
  for (const FileMark& mark : marks) {
    list.push_back(mark.at);
    list.push_back(mark.length);
    list.push_back(mark.label);
  }
  return list;
}

Json loopsJson(const std::vector<FileLoop>& loops) {
  Json list = Json::array();
  for (const FileLoop& loop : loops) {
    list.push_back(loop.start);
    list.push_back(loop.end);
  }
  return list;
}

/// A part of the file's own JSON: keys lie beside those of the file.
void add(Json& json, const MadePlace& place) {
  if (place.sessionRate <= 0) return;
  json["place"] = {place.sessionRate, place.start, place.leadIn, place.body, place.tail};
  if (place.loopWay.empty()) return;
  json["way"] = place.loopWay;
  json["laps"] = place.laps;
  if (place.beats) json["beats"] = *place.beats;
}

Json remarksJson(const std::vector<MadeRemark>& remarks) {
  Json list = Json::array();
  for (const MadeRemark& remark : remarks) {
    list.push_back(remark.code);
    list.push_back(remark.text);
  }
  return list;
}

/// What is of another kind is as good as not there.
class Values {
 public:
  explicit Values(const Json& json) : json_(json) {}

  std::string text(const char* key) const {
    const auto found = json_.find(key);
    return found != json_.end() && found->is_string() ? found->get<std::string>() : std::string();
  }
  Frame frames(const char* key, Frame otherwise = 0) const {
    const auto found = json_.find(key);
    return found != json_.end() ? frame(*found).value_or(otherwise) : otherwise;
  }
  std::optional<double> number(const char* key) const {
    const auto found = json_.find(key);
    return found != json_.end() && found->is_number() ? std::optional(found->get<double>()) : std::nullopt;
  }
  /// Of a list of groups of `size`; none where it has another length.
  const Json& list(const char* key, std::size_t size) const {
    static const Json kNone = Json::array();
    const auto found = json_.find(key);
    return found != json_.end() && found->is_array() && found->size() % size == 0 ? *found : kNone;
  }
  static std::optional<Frame> frame(const Json& json) {
    if (!json.is_number_integer()) return std::nullopt;
    const auto value = json.get<Frame>();
    return value >= -1 && value <= kMaxFrame ? std::optional(value) : std::nullopt;
  }

 private:
  const Json& json_;
};

std::vector<ChannelFigures> figuresFrom(const Json& list) {
  std::vector<ChannelFigures> channels;
  for (std::size_t i = 0; i < list.size(); i += kFiguresOfAChannel) {
    double figures[kFiguresOfAChannel];
    for (std::size_t k = 0; k < kFiguresOfAChannel; ++k) {
      if (!list[i + k].is_number()) return {};
      figures[k] = list[i + k].get<double>();
      if (!std::isfinite(figures[k])) return {};
    }
    channels.push_back({figures[0], figures[1], figures[2], figures[3]});
  }
  return channels;
}

std::vector<FileMark> marksFrom(const Json& list) {
  std::vector<FileMark> marks;
  for (std::size_t i = 0; i < list.size(); i += kNumbersOfAMark) {
    const auto at = Values::frame(list[i]), length = Values::frame(list[i + 1]);
    if (!at || !length || !list[i + 2].is_string()) return {};
    marks.push_back({*at, *length, list[i + 2].get<std::string>(), {}});
  }
  return marks;
}

std::vector<FileLoop> loopsFrom(const Json& list) {
  std::vector<FileLoop> loops;
  for (std::size_t i = 0; i < list.size(); i += kNumbersOfALoop) {
    const auto start = Values::frame(list[i]), end = Values::frame(list[i + 1]);
    if (!start || !end) return {};
    loops.push_back({*start, *end});
  }
  return loops;
}

MadePlace placeFrom(const Values& values) {
  const Json& list = values.list("place", kNumbersOfAPlace);
  if (list.size() != kNumbersOfAPlace) return {};
  Frame numbers[kNumbersOfAPlace];
  for (std::size_t i = 0; i < kNumbersOfAPlace; ++i) {
    if (!list[i].is_number_integer()) return {};
    numbers[i] = list[i].get<Frame>();
    const bool mayBeBefore = i == 1;  // the start, of the session
    if (numbers[i] > kMaxFrame || numbers[i] < (mayBeBefore ? -kMaxFrame : 0)) return {};
  }
  if (numbers[0] < 1 || numbers[0] > kMostRate) return {};
  MadePlace place{static_cast<int>(numbers[0]), numbers[1], numbers[2], numbers[3], numbers[4]};
  place.loopWay = values.text("way");
  place.laps = static_cast<int>(std::clamp<Frame>(values.frames("laps"), 0, kMostLaps));
  place.beats = values.number("beats");
  return place;
}

std::vector<MadeRemark> remarksFrom(const Json& list) {
  std::vector<MadeRemark> remarks;
  for (std::size_t i = 0; i < list.size(); i += kTextsOfARemark) {
    if (!list[i].is_string() || !list[i + 1].is_string()) return {};
    remarks.push_back({list[i].get<std::string>(), list[i + 1].get<std::string>()});
  }
  return remarks;
}

std::vector<std::pair<std::string, std::string>> tagsFrom(const Json& json) {
  std::vector<std::pair<std::string, std::string>> tags;
  const auto found = json.find("texts");
  if (found == json.end() || !found->is_object()) return tags;
  for (const auto& [name, value] : found->items())
    if (value.is_string()) tags.emplace_back(name, value.get<std::string>());
  return tags;
}

}  // namespace

Json asJson(const MadeFile& made) {
  const SoundFigures& figures = made.figures;
  Json json{{"encoding", made.encoding},       {"rate", made.rate},      {"channels", made.channels},
            {"frames", figures.frames},        {"onset", figures.onset}, {"flat", figures.longestFlat},
            {"figures", figuresJson(figures)}, {"span", made.span},      {"source", made.source}};
  if (made.clipped > 0) json["clipped"] = made.clipped;
  if (made.seam) json["seam"] = *made.seam;
  if (!made.family.empty()) json["family"] = made.family;
  if (!made.addsTo.empty()) json["adds_to"] = made.addsTo;
  if (made.layers > 0) json["layers"] = made.layers;
  if (made.ceilingDb) json["ceiling_db"] = *made.ceilingDb;
  if (made.lufs) json["lufs"] = *made.lufs;
  Json texts = Json::object();
  for (const auto& [name, value] : made.tags) texts[name] = value;
  if (!texts.empty()) json["texts"] = std::move(texts);
  if (!made.marks.empty()) json["marks"] = marksJson(made.marks);
  if (!made.loops.empty()) json["loops"] = loopsJson(made.loops);
  add(json, made.place);
  if (!made.remarks.empty()) json["remarks"] = remarksJson(made.remarks);
  return json;
}

std::string madeText(const MadeFile& made) {
  return asJson(made).dump(-1, ' ', false, Json::error_handler_t::replace);
}

std::optional<MadeFile> madeFileIn(const std::string& text) {
  return text.empty() ? std::nullopt : madeFileFrom(Json::parse(text, nullptr, false));
}

std::optional<MadeFile> madeFileFrom(const Json& json) {
  if (!json.is_object()) return std::nullopt;
  const Values values(json);
  MadeFile made;
  made.encoding = values.text("encoding");
  made.rate = static_cast<int>(values.frames("rate"));
  made.channels = static_cast<int>(values.frames("channels"));
  made.figures.frames = values.frames("frames");
  made.figures.onset = values.frames("onset", -1);
  made.figures.longestFlat = values.frames("flat");
  made.figures.channels = figuresFrom(values.list("figures", kFiguresOfAChannel));
  made.clipped = static_cast<std::uint64_t>(std::max<Frame>(0, values.frames("clipped")));
  made.seam = values.number("seam");
  made.span = values.text("span");
  made.source = values.text("source");
  made.family = values.text("family");
  made.addsTo = values.text("adds_to");
  made.layers = static_cast<int>(std::clamp<Frame>(values.frames("layers"), 0, kMostLayers));
  made.ceilingDb = values.number("ceiling_db");
  made.lufs = values.number("lufs");
  made.tags = tagsFrom(json);
  made.marks = marksFrom(values.list("marks", kNumbersOfAMark));
  made.loops = loopsFrom(values.list("loops", kNumbersOfALoop));
  made.place = placeFrom(values);
  made.remarks = remarksFrom(values.list("remarks", kTextsOfARemark));
  const bool isWell = !made.encoding.empty() && made.rate > 0 && made.channels > 0 &&
                      made.channels <= kMostChannels && made.figures.frames >= 0 &&
                      made.figures.channels.size() == static_cast<std::size_t>(made.channels);
  return isWell ? std::optional(std::move(made)) : std::nullopt;
}

}  // namespace octaphon
