#include "session/brief_file.h"

#include <algorithm>

#include <nlohmann/json.hpp>

#include "session/format_version.h"
#include "session/read_values.h"
#include "session/session_json.h"
#include "session/strict_json.h"

namespace octaphon {

BriefFile briefFileOf(const Session& session, std::vector<Brief> briefs) {
  for (Brief& brief : briefs) {
    brief.heldBack.clear();
    brief.rowExceptions.clear();
    brief.accepted.clear();
  }
  ThingNames names = namesIn(session, briefs);
  return {std::move(briefs), std::move(names)};
}

std::string writeBriefs(const BriefFile& file) {
  nlohmann::ordered_json list = nlohmann::ordered_json::array();
  for (const Brief& brief : file.briefs) list.push_back(nlohmann::ordered_json::parse(writeBrief(brief)));
  nlohmann::ordered_json root{{"format", kBriefFormatName}, {"version", "1.0"}, {"briefs", list}};
  if (!file.names.empty()) root["names"] = file.names;
  return root.dump(1, ' ', false, nlohmann::ordered_json::error_handler_t::replace) + "\n";
}

Result<BriefFile> readBriefs(std::string_view text, const std::string& file) {
  if (text.starts_with("\xEF\xBB\xBF")) text.remove_prefix(3);
  OCTAPHON_ASSIGN(const nlohmann::json root, parseStrictJson(text, file));
  OCTAPHON_TRY(checkFormat(root, kBriefFormatName, "brief", file));
  ReadContext context(file);
  Fields fields(root, "", context);
  BriefFile read;
  fields.each("briefs", [&](Fields& object) { read.briefs.push_back(readObject<Brief>(object)); });
  read.names = fields.textMaps("names");
  if (context.error()) return tl::unexpected(*context.error());
  return read;
}

AppliedBrief applyBrief(Session& session, Brief brief, const ThingNames& names) {
  AppliedBrief applied;
  applied.missing = aimAnew(brief, names, session);
  const auto same = std::find_if(session.briefs.begin(), session.briefs.end(),
                                 [&](const Brief& there) { return there.name == brief.name; });
  applied.isReplaced = same != session.briefs.end();
  if (applied.isReplaced) {
    brief.id = same->id;
    brief.isOn = same->isOn;
    brief.heldBack = same->heldBack;
    brief.rowExceptions = same->rowExceptions;
    brief.accepted = same->accepted;
    *same = std::move(brief);
    return applied;
  }
  const auto isTaken = [&](const std::string& id) {
    return std::any_of(session.briefs.begin(), session.briefs.end(),
                       [&](const Brief& there) { return there.id == id; });
  };
  for (int number = 1; isTaken(brief.id); ++number) brief.id = "brief-" + std::to_string(number);
  session.briefs.push_back(std::move(brief));
  return applied;
}

}  // namespace octaphon
