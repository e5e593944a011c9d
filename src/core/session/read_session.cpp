#include "session/format_version.h"
#include "session/read_values.h"
#include "session/session_json.h"
#include "session/strict_json.h"

#include <algorithm>

namespace octaphon {
Result<Session> readSession(std::string_view text, const std::string& file, JobControl* job) {
  // Each object is parsed, and then read.
  expectParts(job, 2 * static_cast<std::size_t>(std::count(text.begin(), text.end(), '{')));
  if (text.starts_with("\xEF\xBB\xBF")) text.remove_prefix(3);
  OCTAPHON_ASSIGN(const nlohmann::json root, parseStrictJson(text, file, job));
  OCTAPHON_TRY(checkFormat(root, kFormatName, "session", file));
  ReadContext context(file, job);
  Fields fields(root, "", context);
  (void)fields.raw("format");
  Session session = readObject<Session>(fields);
  if (context.error()) return tl::unexpected(*context.error());
  return session;
}

}  // namespace octaphon
