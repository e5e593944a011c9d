#include "run/plugin_json.h"

namespace octaphon {

using nlohmann::json;

namespace {

/// Main is 0.
json asJson(Strip strip) { return strip.slot(); }
Strip stripFrom(const json& slot) {
  const auto value = slot.get<std::size_t>();
  return value == 0 ? Strip::main() : Strip(value - 1);
}
json asJson(const std::vector<Strip>& strips) {
  json slots = json::array();
  for (const Strip strip : strips) slots.push_back(asJson(strip));
  return slots;
}

json asJson(const FileIdentity& of) { return {of.device, of.inode, of.size, of.modified, of.changed}; }
FileIdentity identityFrom(const json& j) { return {j.at(0), j.at(1), j.at(2), j.at(3), j.at(4)}; }

}  // namespace

json asJson(const EffectInfo& info) {
  json parameters = json::array();
  for (const ParameterInfo& p : info.parameters)
    parameters.push_back(
        {p.key, p.name, p.unit, p.least, p.most, p.defaultValue, static_cast<int>(p.scale), p.choices});
  json presets = json::array();
  for (const EffectPreset& preset : info.presets)
    presets.push_back({preset.name, preset.values, preset.state});
  return {{"presets", std::move(presets)},
          {"id", info.id},
          {"name", info.name},
          {"about", info.about},
          {"linearity", info.linearity},
          {"key", info.keyChannels},
          {"inputs", info.inputs},
          {"outputs", info.outputs},
          {"latency", info.latencyFrames},
          {"parameters", std::move(parameters)},
          {"repeats", info.repeats},
          {"resets", info.resets},
          {"revision", info.revision}};
}

EffectInfo effectFrom(const json& j) {
  EffectInfo info;
  info.id = j.at("id");
  info.name = j.at("name");
  info.about = j.at("about");
  info.linearity = j.at("linearity");
  info.isPlugin = true;
  info.keyChannels = j.at("key");
  info.hasKey = info.keyChannels > 0;
  info.inputs = j.at("inputs");
  info.outputs = j.at("outputs");
  info.latencyFrames = j.at("latency");
  info.repeats = j.at("repeats");
  info.resets = j.at("resets");
  info.revision = j.at("revision");
  for (const json& p : j.at("presets"))
    info.presets.push_back({p.at(0), p.at(1).get<std::map<std::string, double>>(), p.at(2)});
  for (const json& p : j.at("parameters")) {
    ParameterInfo parameter;
    parameter.key = p.at(0);
    parameter.name = p.at(1);
    parameter.unit = p.at(2);
    parameter.least = p.at(3);
    parameter.most = p.at(4);
    parameter.defaultValue = p.at(5);
    parameter.scale = static_cast<Scale>(p.at(6).get<int>());
    parameter.choices = p.at(7).get<std::vector<std::string>>();
    info.parameters.push_back(std::move(parameter));
  }
  return info;
}

json asJson(const Insert& insert) {
  return {{"id", insert.id}, {"effect", insert.effect}, {"values", insert.values}, {"state", insert.state}};
}

Insert insertFrom(const json& j) {
  Insert insert;
  insert.id = j.at("id");
  insert.effect = j.at("effect");
  insert.values = j.at("values").get<std::map<std::string, double>>();
  insert.state = j.at("state");
  return insert;
}

json asJson(const WorkerSession& session) {
  json plugins = json::array();
  for (const auto& [insert, info] : session.plugins) plugins.push_back({asJson(insert), asJson(info)});
  return {{"session", session.session}, {"plugins", std::move(plugins)}};
}

WorkerSession sessionFrom(const json& j) {
  WorkerSession session;
  session.session = j.at("session");
  for (const json& p : j.at("plugins"))
    session.plugins.emplace_back(insertFrom(p.at(0)), effectFrom(p.at(1)));
  return session;
}

json asJson(const PlannedSource& source) {
  json parts = json::array();
  for (const PlannedSource& part : source.parts) parts.push_back(asJson(part));
  return {static_cast<int>(source.kind), asJson(source.track), asJson(source.tracks), std::move(parts)};
}

PlannedSource sourceFrom(const json& j) {
  PlannedSource source;
  source.kind = static_cast<PlannedSource::Kind>(j.at(0).get<int>());
  source.track = stripFrom(j.at(1));
  for (const json& track : j.at(2)) source.tracks.push_back(stripFrom(track));
  for (const json& part : j.at(3)) source.parts.push_back(sourceFrom(part));
  return source;
}

json asJson(const WorkerPass& pass) {
  const PassKey& key = pass.key;
  json media = json::array(), taps = json::array();
  for (const auto& [id, medium] : pass.media)
    media.push_back({id, medium.file.string(), medium.name,
                     medium.error ? medium.error->describe() : std::string(), asJson(medium.identity)});
  for (const WorkerPass::Request& tap : pass.taps) {
    json sources = json::array();
    for (const PlannedSource& source : tap.sources) sources.push_back(asJson(source));
    taps.push_back({tap.brief, std::move(sources), tap.isEverything, tap.channels});
  }
  return {{"key",
           {key.start, key.length, key.finish, key.tail, key.only, static_cast<int>(key.counting.counts),
            static_cast<int>(key.counting.crossing), key.counting.endFade, key.counting.runUp, key.leadIn,
            key.asHeard, key.context, static_cast<int>(key.loop.way), key.loop.laps, key.loop.keepsIntro}},
          {"media", std::move(media)},
          {"taps", std::move(taps)}};
}

WorkerPass passFrom(const json& j) {
  WorkerPass pass;
  const json& key = j.at("key");
  pass.key.start = key.at(0);
  pass.key.length = key.at(1);
  pass.key.finish = key.at(2);
  pass.key.tail = key.at(3);
  pass.key.only = key.at(4);
  pass.key.counting = {static_cast<Counts>(key.at(5).get<int>()), static_cast<Crossing>(key.at(6).get<int>()),
                       key.at(7), key.at(8)};
  pass.key.leadIn = key.at(9);
  pass.key.asHeard = key.at(10);
  pass.key.context = key.at(11);
  pass.key.loop = {static_cast<LoopWay>(key.at(12).get<int>()), key.at(13), key.at(14)};
  for (const json& m : j.at("media")) {
    ReadableMedium medium;
    medium.file = m.at(1).get<std::string>();
    medium.name = m.at(2);
    if (const std::string why = m.at(3); !why.empty())
      medium.error = Error{ErrorCode::MediumUnreadable, why, {}, {}};
    medium.identity = identityFrom(m.at(4));
    pass.media.emplace_back(m.at(0), std::move(medium));
  }
  for (const json& t : j.at("taps")) {
    WorkerPass::Request tap;
    tap.brief = t.at(0);
    for (const json& source : t.at(1)) tap.sources.push_back(sourceFrom(source));
    tap.isEverything = t.at(2);
    tap.channels = t.at(3);
    pass.taps.push_back(std::move(tap));
  }
  return pass;
}

}  // namespace octaphon
