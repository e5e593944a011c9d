#include "session/format_version.h"

#include <algorithm>

#include <nlohmann/json.hpp>

#include "session/session_json.h"

namespace octaphon {

Result<> checkFormat(const nlohmann::json& root, std::string_view format, const std::string& what,
                     const std::string& file) {
  const bool named = root.is_object() && root.contains("format") && root["format"] == format;
  if (!named)
    return fail(ErrorCode::Syntax, file, "this is not an Octaphon " + what,
                "A " + what + " begins with \"format\": \"" + std::string(format) + "\"");
  const auto version = root.find("version");
  const std::string text = version != root.end() && version->is_string() ? version->get<std::string>() : "";
  const std::size_t dot = text.find('.');
  const auto isNumber = [](std::string_view part) {
    return !part.empty() && part.size() < 6 &&
           std::all_of(part.begin(), part.end(), [](char c) { return c >= '0' && c <= '9'; });
  };
  if (dot == std::string::npos || !isNumber(std::string_view(text).substr(0, dot)) ||
      !isNumber(std::string_view(text).substr(dot + 1)))
    return fail(ErrorCode::BadValue, file + ": version", "a version like \"1.0\" is needed");
  if (std::stoi(text) > kFormatMajor)
    return fail(ErrorCode::TooNew, file + ": version",
                "the " + what + " was written by a newer Octaphon (format " + text + ")",
                "Open it with that version, or save it there in format 1");
  if (std::stoi(text) < kFormatMajor)
    return fail(ErrorCode::BadValue, file + ": version", "there is no format " + text);
  return {};
}

}  // namespace octaphon
