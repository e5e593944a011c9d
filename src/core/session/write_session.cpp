#include <nlohmann/json.hpp>

#include "session/description.h"
#include "session/session_json.h"

namespace octaphon {
namespace {

using Json = nlohmann::ordered_json;

/// Adds what a newer version wrote, behind the keys we know.
void addUnknown(Json& object, const std::string& unknownKeys) {
  if (unknownKeys.empty()) return;
  const Json rest = Json::parse(unknownKeys, nullptr, false);
  if (!rest.is_object()) return;
  for (const auto& [key, value] : rest.items())
    if (!object.contains(key)) object[key] = value;
}

template <class T>
Json objectOf(const T& thing);

/// Values that JSON has itself.
template <class Kind, class Value>
Json valueOf(const Kind&, const Value& value) {
  return value;
}
Json valueOf(const OptionalNumberKind&, const std::optional<double>& number) {
  return number ? Json(*number) : Json(nullptr);
}
template <class E>
Json valueOf(const OptionalChoiceKind<E>&, const std::optional<E>& value) {
  return value ? Json(nameOf(*value)) : Json(nullptr);
}
Json valueOf(const SelectionKind&, const Selection& selection) {
  if (selection.isEverything()) return "all";
  Json list = Json::array();
  for (const Pick& pick : selection.picks) {
    const bool isPlain = pick == Pick{false, PickBy::Id, pick.value};
    list.push_back(isPlain ? Json(pick.value) : objectOf(pick));
  }
  return list;
}
Json valueOf(const ReachKind&, const Reach& reach) { return reachName(reach); }
Json valueOf(const RunUpKind&, const RunUp& runUp) {
  return runUp.fromStart ? Json("start") : Json(runUp.seconds);
}
Json valueOf(const OutputChannelsKind&, const OutputChannels& channels) { return nameOf(channels); }
Json valueOf(const JsonKind&, const std::string& object) { return Json::parse(object, nullptr, false); }
Json valueOf(const PictureRateKind&, const PictureRate& rate) { return pictureRateText(rate); }
template <class E>
Json valueOf(const ChoiceKind<E>&, const E& value) {
  return nameOf(value);
}
template <class T>
Json valueOf(const ObjectKind<T>&, const T& thing) {
  return objectOf(thing);
}
template <class T, class List>
Json valueOf(const ListKind<T>&, const List& things) {
  Json array = Json::array();
  for (const T& thing : things) array.push_back(objectOf(thing));
  return array;
}

template <class T>
void addFields(Json& object, const T& thing);

template <class Owner, class Kind, auto... Path>
void addField(Json& object, const Owner& owner, const Owner& usual, const Field<Kind, Path...>& field) {
  const auto& value = field.in(owner);
  if (!field.isAlwaysWritten && value == field.in(usual)) return;
  if constexpr (std::is_same_v<Kind, TimecodeKind>)
    object[field.key] = timecodeText(value, owner.pictureRate);
  else
    object[field.key] = valueOf(field.kind, value);
}

/// Its fields among those of the owner.
template <class Owner, class T, auto... Path>
void addField(Json& object, const Owner& owner, const Owner&, const Field<InlineKind<T>, Path...>& field) {
  const auto& value = field.in(owner);
  if constexpr (!kIsOptional<T>)
    addFields(object, value);
  else if (value)
    addFields(object, *value);
}

template <class T>
void addFields(Json& object, const T& thing) {
  static const T kUsual;
  forEachField<T>([&](const auto& field) { addField(object, thing, kUsual, field); });
}

template <class T>
Json objectOf(const T& thing) {
  Json object = Json::object();
  addFields(object, thing);
  if constexpr (requires { thing.unknownKeys; }) addUnknown(object, thing.unknownKeys);
  return object;
}

}  // namespace

std::string writeBrief(const Brief& brief) {
  return objectOf(brief).dump(-1, ' ', false, Json::error_handler_t::replace);
}

std::string writeSession(const Session& session) {
  Json root{{"format", kFormatName}};
  addFields(root, session);
  addUnknown(root, session.unknownKeys);
  return root.dump(1, ' ', false, Json::error_handler_t::replace) + "\n";
}

}  // namespace octaphon
