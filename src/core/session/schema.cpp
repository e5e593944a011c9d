#include "session/schema.h"
#include "formats/tables.h"
#include "naming/tables.h"

#include <nlohmann/json.hpp>

#include "base/unicode.h"
#include "session/description.h"
#include "session/session_json.h"

namespace octaphon {
namespace {

using Json = nlohmann::ordered_json;

constexpr const char* kIdPattern = "^(?!main$)[A-Za-z0-9._-]{1,64}$";

// --- the schema of single kinds

Json texts() { return {{"type", "array"}, {"items", {{"type", "string"}}}}; }
Json textMap() { return {{"type", "object"}, {"additionalProperties", {{"type", "string"}}}}; }

Json typeOf(const IdKind&) { return {{"type", "string"}, {"pattern", kIdPattern}}; }
Json typeOf(const ReferenceKind& kind) {
  if (kind.isNeeded) return typeOf(IdKind{});
  return {{"oneOf", {typeOf(IdKind{}), {{"const", ""}}}}};
}
Json typeOf(const StripReferenceKind&) { return {{"oneOf", {typeOf(IdKind{}), {{"const", "main"}}}}}; }
Json typeOf(const TextKind& kind) {
  Json type{{"type", "string"}};
  if (kind.cureWhereMissing != nullptr) type["minLength"] = 1;
  return type;
}
Json typeOf(const FlagKind&) { return {{"type", "boolean"}}; }
Json typeOf(const NumberKind& kind) {
  return {{"type", "number"}, {"minimum", kind.least}, {"maximum", kind.most}};
}
Json orNull(Json type) { return {{"oneOf", {std::move(type), {{"type", "null"}}}}}; }
Json typeOf(const OptionalNumberKind& kind) { return orNull(typeOf(kind.number)); }
Json typeOf(const IntegerKind& kind) {
  return {{"type", "integer"}, {"minimum", kind.least}, {"maximum", kind.most}};
}
Json typeOf(const OneOfKind& kind) {
  Json values = Json::array();
  if (kind.zeroWords != nullptr) values = Json::array({0, nullptr});
  for (const int value : kind.values)
    if (value != 0) values.push_back(value);
  return {{"enum", values}};
}
Json typeOf(const FramesKind&) { return {{"type", "integer"}, {"minimum", 0}, {"maximum", kMaxFrame}}; }
Json typeOf(const TagsKind&) {
  Json type = texts();
  type["items"]["minLength"] = 1;
  return type;
}
Json typeOf(const TextListKind&) { return texts(); }
Json typeOf(const TextMapKind&) { return textMap(); }
Json typeOf(const NumberMapKind& kind) {
  return {{"type", "object"}, {"additionalProperties", typeOf(NumberKind{-kind.most, kind.most})}};
}
Json typeOf(const TextMapsKind&) { return {{"type", "object"}, {"additionalProperties", textMap()}}; }
Json typeOf(const SelectionKind&) {
  const Json item{{"oneOf", {{{"type", "string"}}, {{"$ref", "#/$defs/pick"}}}}};
  return {{"oneOf", {{{"const", "all"}}, {{"type", "array"}, {"items", item}}}}};
}
Json typeOf(const ReachKind&) {
  return {{"type", "string"},
          {"pattern", "^(clips|inserts|track|groups|main-inserts|main|group-inserts:.+|group:.+)$"}};
}
Json typeOf(const RunUpKind&) {
  return {{"oneOf", {{{"const", "start"}}, typeOf(NumberKind{0, kMaxRunUpSeconds})}}};
}
Json typeOf(const JsonKind&) { return {{"type", "object"}}; }
Json typeOf(const OutputChannelsKind&) {
  Json values = Json::array({nullptr, "as tapped"});
  for (const Choice<OutputChannels>& choice : kChoices<OutputChannels>) {
    values.push_back(choice.name);
    values.push_back(channelsOf(choice.value));
  }
  return {{"enum", values}};
}
Json typeOf(const PictureRateKind&) {
  Json rates = Json::array();
  for (const std::string_view rate : kPictureRates) rates.push_back(rate);
  return {{"enum", rates}};
}
Json typeOf(const TimecodeKind&) {
  return {{"type", "string"}, {"pattern", "^[0-9]{2}:[0-9]{2}:[0-9]{2}[:;][0-9]{2}$"}};
}
template <class E>
Json typeOf(const ChoiceKind<E>&) {
  Json names = Json::array();
  for (const Choice<E>& choice : kChoices<E>) names.push_back(choice.name);
  return {{"enum", names}};
}

template <class E>
Json typeOf(const OptionalChoiceKind<E>&) {
  return orNull(typeOf(ChoiceKind<E>{}));
}

template <class T>
std::string reference() {
  return std::string("#/$defs/") + describe(static_cast<const T*>(nullptr)).name;
}
template <class T>
Json typeOf(const ObjectKind<T>&) {
  return orNull({{"$ref", reference<T>()}});
}
template <class T>
Json typeOf(const ListKind<T>& kind) {
  Json type{{"type", "array"}, {"items", {{"$ref", reference<T>()}}}};
  if (kind.most > 0) type["maxItems"] = kind.most;
  return type;
}

// --- whether a field has to be there, and what it is without

template <class Kind>
bool isNeeded(const Kind& kind) {
  if constexpr (std::is_same_v<Kind, IdKind> || std::is_same_v<Kind, StripReferenceKind>) return true;
  if constexpr (requires { kind.isNeeded; }) return kind.isNeeded;
  if constexpr (requires { kind.cureWhereMissing; }) return kind.cureWhereMissing != nullptr;
  return false;
}

/// As the writer writes it; null where there is none to tell of.
template <class Kind, class Value>
Json defaultOf(const Kind& kind, const Value& value) {
  if (isNeeded(kind)) return nullptr;
  if constexpr (std::is_same_v<Kind, SelectionKind>)
    return value.isEverything() ? Json("all") : Json::array();
  else if constexpr (std::is_same_v<Kind, ReachKind>)
    return reachName(value);
  else if constexpr (std::is_same_v<Kind, RunUpKind>)
    return value.seconds;
  else if constexpr (std::is_same_v<Kind, PictureRateKind>)
    return pictureRateText(value);
  else if constexpr (std::is_same_v<Kind, TimecodeKind>)
    return "00:00:00:00";
  else if constexpr (std::is_enum_v<Value>)
    return nameOf(value);
  else if constexpr (std::is_arithmetic_v<Value> || std::is_same_v<Value, std::string>)
    return value;
  else
    return nullptr;
}

// --- the schema of things

template <class T>
void addProperties(Json& object, bool mayBeNeeded = true) {
  static const T kUsual;
  forEachField<T>([&](const auto& field) {
    using Value = std::remove_cvref_t<decltype(field.in(kUsual))>;
    if constexpr (requires { typeOf(field.kind); }) {
      Json type = typeOf(field.kind);
      if (const Json usual = defaultOf(field.kind, field.in(kUsual)); !usual.is_null())
        type["default"] = usual;
      if (*field.meaning != '\0') type["description"] = field.meaning;
      object["properties"][field.key] = std::move(type);
      if (mayBeNeeded && isNeeded(field.kind)) object["required"].push_back(field.key);
    } else if constexpr (kIsOptional<Value>) {
      addProperties<typename Value::value_type>(object, false);
      Json keys = Json::array();
      forEachField<typename Value::value_type>([&](const auto& inner) { keys.push_back(inner.key); });
      for (const Json& key : keys)  // all of them or none
        for (const Json& other : keys)
          if (other != key) object["dependentRequired"][key.get<std::string>()].push_back(other);
    } else {
      addProperties<Value>(object, mayBeNeeded);
    }
  });
}

template <class T>
Json objectType() {
  Json object{{"type", "object"}, {"properties", Json::object()}, {"required", Json::array()}};
  addProperties<T>(object);
  return object;
}

template <class... Things, class Visit>
void forEachThing(const Visit& visit) {
  (visit(static_cast<const Things*>(nullptr)), ...);
}

/// Every thing of a session but the session itself.
template <class Visit>
void forEachPart(const Visit& visit) {
  forEachThing<Main, TempoPoint, Medium, Track, Clip, Fade, Insert, Send, Automation, CurvePoint, Region,
               OwnLoop, Loop, OwnLevelAim, LevelAim, MarkerSet, Marker, ClipSet, Brief, Pick, TimeSpan,
               Overrides, TrackException, SumSource, Output, InsideData, DataFact, RowException,
               AcceptedRemark, VocabularyFact, VocabularyValue, Preset>(visit);
}

/// What holds between the fields of a thing, as far as a schema can say it.
void addRules(Json& parts) {
  parts["medium"]["properties"]["file"]["pattern"] = "^[^/]";
  parts["medium"]["properties"]["content"]["pattern"] = "^([0-9a-f]{32})?$";
  parts["curve"]["properties"]["points"]["minItems"] = 1;
  parts["curve"]["required"].push_back("points");
  parts["track"]["if"] = {{"properties", {{"kind", {{"enum", {"group", "return"}}}}}},
                          {"required", {"kind"}}};
  parts["track"]["then"] = {{"properties", {{"clips", {{"maxItems", 0}}}}}};
}

// --- tables

std::string cell(std::string text) {
  for (std::size_t at = 0; (at = text.find('|', at)) != std::string::npos; at += 2) text.insert(at, "\\");
  return text;
}

std::string rangeOf(const NumberKind& kind) {
  const std::string unit = *kind.unit == '\0' ? std::string() : std::string(" ") + kind.unit;
  return plainNumber(kind.least) + " to " + plainNumber(kind.most) + unit;
}
std::string rangeOf(const OptionalNumberKind& kind) { return rangeOf(kind.number); }
template <class E>
std::string rangeOf(const OptionalChoiceKind<E>&);
template <class T>
std::string rangeOf(const ObjectKind<T>&);
std::string rangeOf(const IntegerKind& kind) {
  return std::to_string(kind.least) + " to " + std::to_string(kind.most);
}
std::string rangeOf(const FramesKind&) { return "frames"; }
std::string rangeOf(const FlagKind&) { return "true, false"; }
std::string rangeOf(const SelectionKind&) { return "`\"all\"`, or a list of ids and [picks](#pick)"; }
std::string rangeOf(const ReachKind&) {
  return "`clips inserts track group-inserts:ID group:ID groups main-inserts main`";
}
std::string rangeOf(const RunUpKind&) {
  return rangeOf(NumberKind{0, kMaxRunUpSeconds, "s"}) + ", or `\"start\"`";
}
std::string rangeOf(const JsonKind&) { return "object"; }
std::string rangeOf(const OutputChannelsKind&) { return "`as-tapped mono stereo quad 5.1 7.1`, or how many"; }
template <class Kind>
std::string rangeOf(const Kind& kind) {
  if constexpr (requires { typeOf(kind); }) {
    const Json type = typeOf(kind);
    if (type.contains("enum")) {
      std::string values;
      for (const Json& value : type["enum"])
        values += (values.empty() ? "" : " ") + (value.is_string() ? value.get<std::string>() : value.dump());
      return "`" + values + "`";
    }
    if (type.contains("items")) return type["items"].contains("$ref") ? "list" : "list of texts";
    if (type.contains("additionalProperties")) return "object";
  }
  return "text";
}
template <class T>
std::string rangeOf(const ObjectKind<T>&) {
  return "object";
}

template <class E>
std::string rangeOf(const OptionalChoiceKind<E>&) {
  return rangeOf(ChoiceKind<E>{});
}

std::string shownDefault(const Json& usual, bool isNeeded) {
  if (isNeeded) return "needed";
  if (usual.is_null() || (usual.is_string() && usual.get_ref<const std::string&>().empty())) return "";
  return "`" +
         (usual.is_string()   ? usual.get<std::string>()
          : usual.is_number() ? plainNumber(usual)
                              : usual.dump()) +
         "`";
}

template <class T>
void addTableRows(std::string& table, bool mayBeNeeded = true) {
  static const T kUsual;
  forEachField<T>([&](const auto& field) {
    using Value = std::remove_cvref_t<decltype(field.in(kUsual))>;
    if constexpr (requires { typeOf(field.kind); }) {
      const Json usual = defaultOf(field.kind, field.in(kUsual));
      table += "| `" + std::string(field.key) + "` | " + cell(rangeOf(field.kind)) + " | " +
               cell(shownDefault(usual, mayBeNeeded && isNeeded(field.kind))) + " | " + cell(field.meaning) +
               " |\n";
    } else if constexpr (kIsOptional<Value>) {
      addTableRows<typename Value::value_type>(table, false);
      table += "| | | | " + cell(field.meaning) + " |\n";
    } else {
      addTableRows<Value>(table, mayBeNeeded);
    }
  });
}

template <class T>
std::string tableOf() {
  std::string table = "\n| key | value | default | meaning |\n|---|---|---|---|\n";
  addTableRows<T>(table);
  return table + "\n";
}

std::string tableNamed(std::string_view name) {
  if (name == "names") return nameFieldsTable();
  if (name == "filters") return filtersTable();
  if (name == "formats") return formatsTable();
  if (name == "texts") return textsTable();
  std::string table;
  const auto take = [&](const auto* thing) {
    if (name == describe(thing).name) table = tableOf<std::remove_cvref_t<decltype(*thing)>>();
  };
  take(static_cast<const Session*>(nullptr));
  forEachPart(take);
  return table;
}

}  // namespace

namespace {

template <class T>
void addPart(Json& parts, const T* thing) {
  if constexpr (requires { T{}.unknownKeys; } || std::is_same_v<T, TimeSpan>)
    parts[describe(thing).name] = objectType<T>();
}

}  // namespace

std::string briefFileSchema() {
  Json schema{
      {"$schema", "https://json-schema.org/draft/2020-12/schema"},
      {"title", "Octaphon briefs, format 1"},
      {"description",
       "Briefs of a session in a file of their own. `names` says what the things are called that they "
       "name by id, by kind and id: another session has other ids. Keys that are not described here "
       "are kept by the program."},
      {"type", "object"}};
  schema["properties"]["format"] = {{"const", "octaphon-brief"}};
  schema["properties"]["version"] = {{"type", "string"}, {"pattern", "^1\\.[0-9]{1,5}$"}};
  schema["properties"]["briefs"] = typeOf(ListKind<Brief>{});
  schema["properties"]["names"] = typeOf(TextMapsKind{});
  schema["required"] = {"format", "version", "briefs"};
  Json parts = Json::object();
  forEachThing<Brief, Pick, TimeSpan, Overrides, TrackException, SumSource, Loop, OwnLoop, LevelAim, Output,
               InsideData, DataFact, RowException, AcceptedRemark>(
      [&](const auto* thing) { addPart(parts, thing); });
  schema["$defs"] = std::move(parts);
  return schema.dump(2) + "\n";
}

std::string sessionSchema() {
  Json schema{
      {"$schema", "https://json-schema.org/draft/2020-12/schema"},
      {"title", "Octaphon session, format 1"},
      {"description",
       "Keys that are not described here are kept by the program. Beyond this schema: ids of a kind are "
       "given "
       "once, references name something that is there, groups are not inside themselves, sums of frames stay "
       "within 2^53 - 1."}};
  const Json session = objectType<Session>();
  schema["type"] = "object";
  schema["properties"]["format"] = {{"const", kFormatName}};
  schema["properties"].update(session["properties"]);
  schema["properties"]["version"]["pattern"] = "^1\\.[0-9]{1,5}$";
  schema["properties"]["version"].erase("default");
  schema["required"] = {"format", "version", "rate"};
  Json parts = Json::object();
  forEachPart([&](const auto* thing) { addPart(parts, thing); });
  addRules(parts);
  schema["$defs"] = std::move(parts);
  return schema.dump(2) + "\n";
}

std::string withFieldTables(std::string_view page) {
  constexpr std::string_view kBegin = "<!-- fields: ", kEndOfBegin = " -->\n", kEnd = "<!-- end -->";
  std::string anew;
  while (true) {
    const std::size_t begin = page.find(kBegin);
    const std::size_t named = begin == std::string_view::npos ? begin : page.find(kEndOfBegin, begin);
    const std::size_t end = named == std::string_view::npos ? named : page.find(kEnd, named);
    if (end == std::string_view::npos) return anew.append(page);
    const std::string_view name = page.substr(begin + kBegin.size(), named - begin - kBegin.size());
    anew.append(page.substr(0, named + kEndOfBegin.size()));
    anew += tableNamed(name);
    page.remove_prefix(end);
    anew.append(page.substr(0, kEnd.size()));
    page.remove_prefix(kEnd.size());
  }
}

}  // namespace octaphon
