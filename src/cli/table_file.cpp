#include "table_file.h"

#include <cstdio>

#include "base/pending_file.h"
#include "base/unicode.h"
#include "exchange/region_table.h"
#include "session/session_file.h"
#include "session/session_lock.h"

namespace octaphon::cli {

int exportTable(const std::string& table, const std::string& file, const std::string& what) {
  if (file == "-") {
    std::fwrite(table.data(), 1, table.size(), stdout);
    return kWell;
  }
  if (auto written = replaceFile(file, table); !written) return fails(written.error(), kFailed);
  std::printf("%s written to %s\n", what.c_str(), printable(file).c_str());
  return kWell;
}

int importTable(const std::string& session, const std::string& file,
                const std::function<Result<void>(Session&, std::string_view)>& change) {
  const auto lock = SessionLock::take(session);
  if (!lock) return fails(lock.error(), kFailed);
  auto read = loadSession(session);
  if (!read) return fails(read.error(), kSessionUnreadable);
  const auto table = readFile(file, kMaxTableBytes);
  if (!table) return fails(table.error(), kFailed);
  if (auto changed = change(*read, *table); !changed) return fails(changed.error(), kFailed);
  if (auto saved = saveSession(*read, session); !saved) return fails(saved.error(), kFailed);
  return kWell;
}

}  // namespace octaphon::cli
