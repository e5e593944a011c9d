#include "session/format_version.h"
#include "session/read_values.h"
#include "session/session_json.h"
#include "session/strict_json.h"

namespace octaphon {
Result<Session> readSession(std::string_view text, const std::string& file) {
  if (text.starts_with("\xEF\xBB\xBF")) text.remove_prefix(3);
  OCTAPHON_ASSIGN(const nlohmann::json root, parseStrictJson(text, file));
  OCTAPHON_TRY(checkFormat(root, kFormatName, "session", file));
  ReadContext context(file);
  Fields fields(root, "", context);
  (void)fields.raw("format");
  Session session = readObject<Session>(fields);
  if (context.error()) return tl::unexpected(*context.error());
  return session;
}

}  // namespace octaphon
