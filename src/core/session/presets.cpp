#include "session/presets.h"

#include <algorithm>

#include <nlohmann/json.hpp>

#include "base/unicode.h"
#include "brief/row_marks.h"
#include "session/read_values.h"
#include "session/session_json.h"
#include "session/strict_json.h"

namespace octaphon {
namespace {

using nlohmann::json;

/// Keys of a brief's fields that a phrase says, those that stand inline one by one.
std::vector<std::string> keysOf(std::string_view phrase) {
  std::vector<std::string> keys;
  const auto addAll = [&](const auto& fields) {
    std::apply([&](const auto&... field) { (keys.push_back(field.key), ...); }, fields);
  };
  forEachField<Brief>([&](const auto& field) {
    using Value = std::remove_cvref_t<decltype(field.in(std::declval<Brief&>()))>;
    using Kind = std::remove_cvref_t<decltype(field.kind)>;
    if constexpr (requires { field.phrase; }) {
      if (phraseInfo(field.phrase).name != phrase) return;
      if constexpr (std::is_same_v<Kind, InlineKind<Value>>)
        addAll(describe(static_cast<const Value*>(nullptr)).fields);
      else
        keys.push_back(field.key);
    }
  });
  if (phrase == phraseInfo(PhraseKind::Loops).name) keys.push_back("loop");
  if (phrase == phraseInfo(PhraseKind::Data).name) keys.push_back("data");
  return keys;
}

}  // namespace

Preset presetOf(const Brief& brief, PhraseKind phrase, std::string name) {
  Preset preset{std::move(name), std::string(phraseInfo(phrase).name)};
  const json whole = json::parse(writeBrief(brief));
  json values = json::object();
  for (const std::string& key : keysOf(preset.phrase))
    if (whole.contains(key)) values[key] = whole[key];
  preset.values = values.dump();
  return preset;
}

const std::vector<Preset>& ourPresets() {
  const auto outputs = [](const char* name, const char* list) {
    return Preset{name, std::string(phraseInfo(PhraseKind::Encoding).name),
                  "{\"encoding\":\"pcm24\",\"outputs\":" + std::string(list) + "}"};
  };
  static const std::vector<Preset> kPresets{
      outputs("Mixing: WAV 24 bit", R"([{"encoding":"pcm24"}])"),
      outputs("Editing: WAV 32 bit float", R"([{"encoding":"float32"}])"),
      outputs("Game: Ogg Vorbis", R"([{"encoding":"vorbis","quality":6}])"),
      outputs("Game, mono and small", R"([{"encoding":"vorbis","quality":3,"channels":"mono"}])"),
      outputs("Library: WAV 24 bit at 96 kHz", R"([{"encoding":"pcm24","rate":96000}])"),
      outputs("Archive: FLAC", R"([{"encoding":"flac24","level":8}])"),
      outputs("Album: WAV 16 bit at 44.1 kHz", R"([{"encoding":"pcm16","rate":44100}])"),
      outputs("Post-production: a file for each channel", R"([{"encoding":"pcm24","split":true}])"),
      outputs("To listen to: MP3", R"([{"encoding":"mp3","bit_rate":192}])"),
      outputs("WAV, and MP3 to listen to",
              R"([{"encoding":"pcm24"},{"encoding":"mp3","bit_rate":192,"folder":"Listen"}])"),
      outputs("WAV, FLAC, and Opus to listen to",
              R"([{"encoding":"pcm24"},{"encoding":"flac24","folder":"FLAC"},
                  {"encoding":"opus","rate":48000,"bit_rate":96,"folder":"Small"}])")};
  return kPresets;
}

/// What it does not name is as a new brief has it.
Result<> usePreset(Brief& brief, const Preset& preset) {
  const json values = json::parse(preset.values, nullptr, false);
  const std::string place = "preset '" + printable(preset.name, 60) + "'";
  if (!values.is_object())
    return fail(ErrorCode::BadValue, place, "its values cannot be read", "Keep it anew");
  json object = json::parse(writeBrief(brief));
  for (const std::string& key : keysOf(preset.phrase)) {
    object.erase(key);
    if (values.contains(key)) object[key] = values[key];
  }
  ReadContext context(place);
  Fields fields(object, "", context);
  Brief read = readObject<Brief>(fields);
  if (context.error()) return tl::unexpected(*context.error());
  const std::vector<Output> before = brief.outputs();
  brief = std::move(read);
  keepRows(brief, before);
  return {};
}

std::string writePreset(const Preset& preset) {
  return json{{"name", preset.name},
              {"phrase", preset.phrase},
              {"values", json::parse(preset.values, nullptr, false)}}
      .dump(-1, ' ', false, json::error_handler_t::replace);
}

Result<Preset> readPreset(std::string_view text) {
  OCTAPHON_ASSIGN(const json object, parseStrictJson(text, "preset"));
  ReadContext context("preset");
  Fields fields(object, "", context);
  Preset preset = readObject<Preset>(fields);
  if (context.error()) return tl::unexpected(*context.error());
  return preset;
}

}  // namespace octaphon
