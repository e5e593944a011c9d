#include "session/read_values.h"

#include <algorithm>

namespace octaphon::reading {

using nlohmann::json;

bool isNothing(Fields& from, const char* key) {
  const json* value = from.raw(key);
  return value == nullptr || value->is_null();
}

void put(Fields& from, const char* key, const IdKind&, std::string& id) { id = from.reference(key, true); }

void put(Fields& from, const char* key, const ReferenceKind& kind, std::string& id) {
  id = from.reference(key, kind.isNeeded);
}

void put(Fields& from, const char* key, const StripReferenceKind&, std::string& id) {
  id = from.text(key);
  if (id != "main" && !isAllowedId(id)) from.wrong(key, "an id, or main, is needed");
}

void put(Fields& from, const char* key, const TextKind& kind, std::string& text) {
  text = from.text(key, text);
  if (kind.cureWhereMissing != nullptr && text.empty())
    from.wrong(key, "it is missing", kind.cureWhereMissing);
}

void put(Fields& from, const char* key, const FlagKind&, bool& flag) { flag = from.flag(key, flag); }

void put(Fields& from, const char* key, const NumberKind& kind, double& number) {
  number = from.number(key, number, kind.least, kind.most);
}

void put(Fields& from, const char* key, const OptionalNumberKind& kind, std::optional<double>& number) {
  if (!isNothing(from, key)) number = from.number(key, 0, kind.number.least, kind.number.most);
}

void put(Fields& from, const char* key, const IntegerKind& kind, int& number) {
  if (kind.cureWhereMissing != nullptr && !from.has(key))
    from.wrong(key, "it is missing", kind.cureWhereMissing);
  number = from.integer(key, number, kind.least, kind.most);
}

void put(Fields& from, const char* key, const OneOfKind& kind, int& number) {
  if (kind.zeroWords != nullptr && from.has(key) && isNothing(from, key)) return;
  number = from.integer(key, number, kind.zeroWords != nullptr ? 0 : kind.values.front(),
                        *std::max_element(kind.values.begin(), kind.values.end()));
  if (number == 0 && kind.zeroWords != nullptr) return;
  if (std::find(kind.values.begin(), kind.values.end(), number) != kind.values.end()) return;
  std::string values;
  for (const int value : kind.values)
    if (value != 0) values += (values.empty() ? "" : ", ") + std::to_string(value);
  from.wrong(key, "it cannot be " + std::to_string(number), "Use one of " + values);
}

void put(Fields& from, const char* key, const FramesKind& kind, Frame& frames) {
  frames = from.frame(key, kind.isNeeded ? std::nullopt : std::optional(frames));
}

void put(Fields& from, const char* key, const TagsKind&, std::vector<std::string>& tags) {
  tags = from.textList(key);
  if (std::find(tags.begin(), tags.end(), "") != tags.end()) from.wrong(key, "a tag may not be empty");
}

void put(Fields& from, const char* key, const TextListKind&, std::vector<std::string>& texts) {
  texts = from.textList(key);
}

void put(Fields& from, const char* key, const TextMapKind&, std::map<std::string, std::string>& texts) {
  texts = from.texts(key);
}

void put(Fields& from, const char* key, const NumberMapKind& kind, std::map<std::string, double>& numbers) {
  numbers = from.numbers(key, kind.most);
}

void put(Fields& from, const char* key, const TextMapsKind&, std::map<std::string, Facts>& maps) {
  maps = from.textMaps(key);
}

void put(Fields& from, const char* key, const SelectionKind&, Selection& selection) {
  const json* value = from.raw(key);
  if (value == nullptr) return;
  if (value->is_string() && *value == "all") {
    selection = Selection::everything();
  } else if (value->is_array()) {
    selection = {};
    from.eachOr(
        key,
        [&](std::string id) {
          selection.picks.push_back({false, PickBy::Id, std::move(id)});
        },
        [&](Fields& rule) { selection.picks.push_back(readObject<Pick>(rule)); });
  } else {
    from.wrong(key, "\"all\" or a list of ids and rules is needed");
  }
}

void put(Fields& from, const char* key, const ReachKind&, Reach& reach) {
  if (!from.has(key)) return;
  const std::string name = from.text(key);
  if (const auto parsed = parseReach(name))
    reach = *parsed;
  else
    from.wrong(key, "'" + name + "' is not known here",
               "Use one of clips, inserts, track, group-inserts:ID, group:ID, groups, main-inserts, main");
}

void put(Fields& from, const char* key, const RunUpKind&, RunUp& runUp) {
  const json* value = from.raw(key);
  runUp.fromStart = value != nullptr && value->is_string() && *value == "start";
  if (!runUp.fromStart) runUp.seconds = from.number(key, runUp.seconds, 0, kMaxRunUpSeconds);
}

void put(Fields& from, const char* key, const OutputChannelsKind&, OutputChannels& channels) {
  if (isNothing(from, key)) return;
  const json& value = *from.raw(key);
  if (value == "as tapped") return void(channels = OutputChannels::AsTapped);
  if (!value.is_number_integer()) return put(from, key, ChoiceKind<OutputChannels>{}, channels);
  for (const Choice<OutputChannels>& choice : kChoices<OutputChannels>)
    if (channelsOf(choice.value) == value) return void(channels = choice.value);
  from.wrong(key, "it cannot be " + value.dump(), "Use one of 0 (as tapped), 1, 2, 4, 6, 8");
}

void put(Fields& from, const char* key, const JsonKind&, std::string& object) {
  if (isNothing(from, key)) return;
  if (!from.raw(key)->is_object()) return from.wrong(key, "an object is needed");
  object = from.raw(key)->dump();
}

void put(Fields& from, const char* key, const PictureRateKind&, PictureRate& rate) {
  if (const auto parsed = parsePictureRate(from.text(key, pictureRateText(rate))))
    rate = *parsed;
  else
    from.wrong(key, parsed.error().text, parsed.error().cure);
}

/// A picture rate that cannot be read is told by its own field.
void put(Fields& from, const char* key, const TimecodeKind&, Frame& picture) {
  const PictureRate rate = parsePictureRate(from.text("picture_rate", "25")).value_or(PictureRate{});
  if (const auto parsed = parseTimecode(from.text(key, "00:00:00:00"), rate))
    picture = *parsed;
  else
    from.wrong(key, parsed.error().text, parsed.error().cure);
}

}  // namespace octaphon::reading

namespace octaphon {

void settleOldKeys(Fields& from, Brief& brief) {
  const bool isLong = brief.ends.tailSeconds > 0 || brief.ends.tailBars > 0;
  if (!from.has("tail") && isLong) brief.ends.tail = Tail::Fixed;
  std::vector<Output> more;
  reading::put(from, "more_outputs", ListKind<Output>{kMaxOutputs - 1}, more);
  if (more.empty() || !brief.files.outputs.empty()) return;
  brief.files.outputs = brief.outputs();
  brief.files.outputs.insert(brief.files.outputs.end(), more.begin(), more.end());
}

}  // namespace octaphon
