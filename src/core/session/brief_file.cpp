#include "session/brief_file.h"

#include <algorithm>

#include <nlohmann/json.hpp>

#include "session/format_version.h"
#include "session/read_values.h"
#include "session/session_json.h"
#include "session/strict_json.h"

namespace octaphon {

std::string writeBriefs(const std::vector<Brief>& briefs) {
  nlohmann::ordered_json list = nlohmann::ordered_json::array();
  for (Brief brief : briefs) {
    brief.heldBack.clear();
    list.push_back(nlohmann::ordered_json::parse(writeBrief(brief)));
  }
  const nlohmann::ordered_json root{{"format", kBriefFormatName}, {"version", "1.0"}, {"briefs", list}};
  return root.dump(1, ' ', false, nlohmann::ordered_json::error_handler_t::replace) + "\n";
}

Result<std::vector<Brief>> readBriefs(std::string_view text, const std::string& file) {
  if (text.starts_with("\xEF\xBB\xBF")) text.remove_prefix(3);
  OCTAPHON_ASSIGN(const nlohmann::json root, parseStrictJson(text, file));
  OCTAPHON_TRY(checkFormat(root, kBriefFormatName, "brief", file));
  ReadContext context(file);
  Fields fields(root, "", context);
  std::vector<Brief> briefs;
  fields.each("briefs", [&](Fields& object) { briefs.push_back(readObject<Brief>(object)); });
  if (context.error()) return tl::unexpected(*context.error());
  return briefs;
}

bool applyBrief(Session& session, Brief brief) {
  const auto same = std::find_if(session.briefs.begin(), session.briefs.end(),
                                 [&](const Brief& there) { return there.name == brief.name; });
  if (same != session.briefs.end()) {
    brief.id = same->id;
    brief.heldBack = same->heldBack;
    *same = std::move(brief);
    return true;
  }
  const auto isTaken = [&](const std::string& id) {
    return std::any_of(session.briefs.begin(), session.briefs.end(),
                       [&](const Brief& there) { return there.id == id; });
  };
  for (int number = 1; isTaken(brief.id); ++number) brief.id = "brief-" + std::to_string(number);
  session.briefs.push_back(std::move(brief));
  return false;
}

}  // namespace octaphon
