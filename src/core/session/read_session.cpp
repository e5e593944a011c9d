#include <algorithm>

#include "session/read_values.h"
#include "session/session_json.h"
#include "session/strict_json.h"

namespace octaphon {
namespace {

using nlohmann::json;

/// Refuses what is not a session of ours before anything else is looked at.
Result<> checkVersion(const json& root, const std::string& file) {
  const bool named = root.is_object() && root.contains("format") && root["format"] == kFormatName;
  if (!named)
    return fail(ErrorCode::Syntax, file, "this is not an Octaphon session",
                "A session begins with \"format\": \"octaphon-session\"");
  const auto version = root.find("version");
  const std::string text = version != root.end() && version->is_string() ? version->get<std::string>() : "";
  const std::size_t dot = text.find('.');
  const auto isNumber = [](std::string_view part) {
    return !part.empty() && part.size() < 6 &&
           std::all_of(part.begin(), part.end(), [](char c) { return c >= '0' && c <= '9'; });
  };
  if (dot == std::string::npos || !isNumber(text.substr(0, dot)) || !isNumber(text.substr(dot + 1)))
    return fail(ErrorCode::BadValue, file + ": version", "a version like \"1.0\" is needed");
  if (std::stoi(text) > kFormatMajor)
    return fail(ErrorCode::TooNew, file + ": version",
                "the session was written by a newer Octaphon (format " + text + ")",
                "Open it with that version, or save it there in format 1");
  if (std::stoi(text) < kFormatMajor)
    return fail(ErrorCode::BadValue, file + ": version", "there is no format " + text);
  return {};
}

}  // namespace

Result<Session> readSession(std::string_view text, const std::string& file) {
  if (text.starts_with("\xEF\xBB\xBF")) text.remove_prefix(3);
  OCTAPHON_ASSIGN(const json root, parseStrictJson(text, file));
  OCTAPHON_TRY(checkVersion(root, file));
  ReadContext context(file);
  Fields fields(root, "", context);
  (void)fields.raw("format");
  Session session = readObject<Session>(fields);
  if (context.error()) return tl::unexpected(*context.error());
  return session;
}

}  // namespace octaphon
