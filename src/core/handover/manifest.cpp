#include "handover/manifest.h"

#include <nlohmann/json.hpp>

#include "handover/file_json.h"
#include "handover/outline_of.h"

namespace octaphon {
namespace {

using Json = nlohmann::ordered_json;

/// What the file is among those of its span: `mix` is what layers add up to.
const char* roleOf(const DeliveredFile& file) {
  if (!file.made.addsTo.empty()) return "layer";
  return file.sourceKey() == "mix" ? "mix" : "single";
}

Json fileJson(const DeliveredFile& file) {
  const auto [form, channel] = file.formAndChannel();
  Json json{{"file", file.file},
            {"source", file.made.source},
            {"role", roleOf(file)},
            {"form", form},
            {"channel", channel == "all" ? Json(nullptr) : Json(channel)}};
  json.update(handover::formJson(file));
  for (const char* key : {"frames", "lead_in", "body", "tail"}) json[key] = handover::placeJson(file)[key];
  json.update(handover::levelsJson(file));
  json["loop"] = handover::loopJson(file);
  if (!json["loop"].is_null())
    json["loop"]["play"] = file.made.place.loopWay == "overlap" ? "restart" : "points";
  return json;
}

/// Of the region that a file is of; of its path, where the region has none of its own.
class FactsBySpan {
 public:
  explicit FactsBySpan(const Delivery& delivery) {
    for (const std::string& name : delivery.sessions())
      if (const auto outline = outlineIn(*delivery.receipt, name))
        for (const Region& region : outline->regions)
          facts_[{name, "region:" + region.id}] = outline->factsOf(region.name, region.facts);
  }
  Json of(const std::string& session, const DeliveredFile& file) const {
    const auto facts = facts_.find({session, file.spanKey()});
    return facts == facts_.end() ? Json::object() : Json(facts->second);
  }

 private:
  std::map<std::pair<std::string, std::string>, Facts> facts_;  // by session and key of the span
};

/// Sounds in the order of their first file; the variations of each in the order of the delivery.
class Sounds {
 public:
  explicit Sounds(const Delivery& delivery) : delivery_(delivery), facts_(delivery) {}

  void add(const DeliveredFile& file) {
    const std::string& family = file.made.family.empty() ? file.made.span : file.made.family;
    Json& sound = soundOf(file.brief, family);
    Json& variations = sound["variations"];
    const auto [at, isNew] = variations_.try_emplace({file.brief, file.spanKey()}, variations.size());
    if (isNew)
      variations.push_back({{"span", file.made.span},
                            {"facts", facts_.of(delivery_.briefs[file.brief].words.session, file)},
                            {"files", Json::array()}});
    variations[at->second]["files"].push_back(fileJson(file));
  }
  Json take() { return std::move(sounds_); }

 private:
  Json& soundOf(std::size_t brief, const std::string& name) {
    const auto [at, isNew] = places_.try_emplace({brief, name}, sounds_.size());
    if (isNew)
      sounds_.push_back(
          {{"name", name}, {"brief", delivery_.briefs[brief].words.name}, {"variations", Json::array()}});
    return sounds_[at->second];
  }

  const Delivery& delivery_;
  FactsBySpan facts_;
  std::map<std::pair<std::size_t, std::string>, std::size_t> places_, variations_;
  Json sounds_ = Json::array();
};

}  // namespace

std::string manifestJson(const Delivery& delivery) {
  Sounds sounds(delivery);
  for (const DeliveredFile& file : delivery.files)
    if (file.isThere) sounds.add(file);
  const Json json{{"format", "octaphon-manifest"}, {"version", "1.0"}, {"sounds", sounds.take()}};
  return json.dump(2, ' ', false, Json::error_handler_t::replace) + "\n";
}

}  // namespace octaphon
