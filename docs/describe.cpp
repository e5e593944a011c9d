// Writes what documents say of the session file: its schema, and the tables of its page.
//   octaphon-describe SESSION-SCHEMA BRIEF-SCHEMA PAGE…
#include <cstdio>

#include "base/pending_file.h"
#include "session/schema.h"

int main(int count, char** arguments) {
  using namespace octaphon;
  if (count < 4) {
    std::fputs("octaphon-describe SESSION-SCHEMA BRIEF-SCHEMA PAGE…\n", stderr);
    return 2;
  }
  Result<> written = replaceFile(arguments[1], sessionSchema());
  if (written) written = replaceFile(arguments[2], briefFileSchema());
  for (int i = 3; i < count && written; ++i) {
    const auto page = readFile(arguments[i], 1 << 20);
    written =
        page ? replaceFile(arguments[i], withFieldTables(*page)) : Result<>(tl::unexpected(page.error()));
  }
  if (!written) std::fprintf(stderr, "%s\n", written.error().describe().c_str());
  return written ? 0 : 1;
}
