#include "handover/file_json.h"

#include <nlohmann/json.hpp>

#include "formats/channel_text.h"

namespace octaphon::handover {
namespace {

using Json = nlohmann::ordered_json;

template <class Value>
Json orNull(const std::optional<Value>& value) {
  return value ? Json(*value) : Json(nullptr);
}

}  // namespace

Json placeJson(const DeliveredFile& file) {
  const MadePlace& place = file.made.place;
  if (place.sessionRate == 0)
    return {{"start", nullptr}, {"session_rate", nullptr}, {"frames", file.frames},
            {"lead_in", 0},     {"body", file.frames},     {"tail", 0}};
  return {{"start", place.start},  {"session_rate", place.sessionRate},
          {"frames", file.frames}, {"lead_in", place.leadIn},
          {"body", place.body},    {"tail", place.tail}};
}

Json formJson(const DeliveredFile& file) {
  if (file.made.rate == 0)  // it is gone, and the receipt knows its bytes alone
    return {{"rate", nullptr}, {"channels", nullptr}, {"layout", nullptr}, {"encoding", nullptr}};
  return {{"rate", file.made.rate},
          {"channels", file.made.channels},
          {"layout", channelText(file.made.channels)},
          {"encoding", file.made.encoding}};
}

Json levelsJson(const DeliveredFile& file) {
  return {{"peak_db", orNull(file.levels.peakDb)},
          {"true_peak_db", orNull(file.levels.truePeakDb)},
          {"lufs", orNull(file.levels.lufs)},
          {"range_lu", orNull(file.levels.rangeLu)}};
}

Json loopJson(const DeliveredFile& file) {
  const MadePlace& place = file.made.place;
  if (place.loopWay.empty()) return nullptr;
  return {{"way", place.loopWay},         {"start", place.leadIn}, {"length", place.body},
          {"beats", orNull(place.beats)}, {"laps", place.laps},    {"seam", orNull(file.made.seam)}};
}

}  // namespace octaphon::handover
