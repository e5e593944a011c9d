#include "session/set_field.h"

#include <algorithm>

#include <nlohmann/json.hpp>

#include "base/unicode.h"
#include "brief/row_marks.h"
#include "naming/nearest_word.h"
#include "session/read_values.h"
#include "session/session_json.h"

namespace octaphon {
namespace {

using nlohmann::json;

template <class T>
void addKeys(std::vector<std::string>& keys, const std::string& head) {
  forEachField<T>([&](const auto& field) {
    using Value = std::remove_cvref_t<decltype(field.in(std::declval<T&>()))>;
    using Kind = std::remove_cvref_t<decltype(field.kind)>;
    if constexpr (std::is_same_v<Kind, InlineKind<Value>>) {
      addKeys<Value>(keys, head);
    } else {
      keys.push_back(head + field.key);
      if constexpr (std::is_same_v<Kind, ObjectKind<Value>>) addKeys<Value>(keys, head + field.key + ".");
    }
  });
}

Result<Brief> readBrief(const json& object, const std::string& key) {
  ReadContext context("--set " + key);
  Fields fields(object, "", context);
  Brief brief = readObject<Brief>(fields);
  if (context.error()) return tl::unexpected(*context.error());
  return brief;
}

constexpr const char* kOldOutputs = "more_outputs";  // of first versions: besides the brief's own

/// The brief's JSON with a value at a key. A length of a tail says that there is one.
json withValue(const Brief& brief, const std::string& key, json value) {
  json object = json::parse(writeBrief(brief));
  if (key == kOldOutputs) object.erase("outputs");
  if ((key == "tail_seconds" || key == "tail_bars") && brief.ends.tail == Tail::None) object.erase("tail");
  const std::size_t point = key.find('.');
  if (point == std::string::npos) {
    object[key] = std::move(value);
  } else {
    json& inner = object[key.substr(0, point)];
    if (!inner.is_object()) inner = json::object();
    inner[key.substr(point + 1)] = std::move(value);
  }
  return object;
}

}  // namespace

std::vector<std::string> briefKeys() {
  std::vector<std::string> keys;
  addKeys<Brief>(keys, {});
  return keys;
}

Result<> setField(Brief& brief, const std::string& key, const std::string& value) {
  const std::vector<std::string> keys = briefKeys();
  if (key != kOldOutputs && std::find(keys.begin(), keys.end(), key) == keys.end()) {
    const std::string_view near = nearestWord(key, {keys.begin(), keys.end()});
    return fail(ErrorCode::UnknownName, "--set " + printable(key, 60), "a brief has no such key",
                near.empty() ? "docs/session-format.md lists the keys of briefs"
                             : "Did you mean '" + std::string(near) + "'?");
  }
  const json given = json::parse(value, nullptr, false);
  Result<Brief> read = given.is_discarded() ? readBrief(withValue(brief, key, value), key)
                                            : readBrief(withValue(brief, key, given), key);
  if (!read && !given.is_discarded() && !given.is_string())
    if (auto asText = readBrief(withValue(brief, key, value), key)) read = std::move(asText);
  if (!read) return tl::unexpected(read.error());
  const std::vector<Output> before = brief.outputs();
  brief = std::move(*read);
  keepRows(brief, before);
  return {};
}

Result<> setField(Session& session, const std::string& setting) {
  const std::size_t equals = setting.find('=');
  if (equals == std::string::npos || equals == 0)
    return fail(ErrorCode::BadValue, "--set " + printable(setting, 60), "there is no value",
                "Write key=value, or BRIEF:key=value");
  const std::string left = setting.substr(0, equals);
  const std::size_t colon = left.rfind(':');
  const std::string name = colon == std::string::npos ? std::string() : left.substr(0, colon);
  const std::string key = colon == std::string::npos ? left : left.substr(colon + 1);
  bool isThere = false;
  for (Brief& brief : session.briefs) {
    if (colon != std::string::npos && brief.name != name) continue;
    isThere = true;
    OCTAPHON_TRY(setField(brief, key, setting.substr(equals + 1)));
  }
  if (isThere || colon == std::string::npos) return {};
  return fail(ErrorCode::UnknownName, "--set " + printable(setting, 60),
              "the session has no brief '" + printable(name, 60) + "'",
              "Name one of its briefs, or none for all");
}

}  // namespace octaphon
