// Writes what documents say of the session file: its schema, and the tables of its page.
//   octaphon-describe SCHEMA PAGE
#include <cstdio>

#include "base/pending_file.h"
#include "session/schema.h"

int main(int count, char** arguments) {
  using namespace octaphon;
  if (count != 3) {
    std::fputs("octaphon-describe SCHEMA PAGE\n", stderr);
    return 2;
  }
  const auto page = readFile(arguments[2], 1 << 20);
  const auto written =
      page ? replaceFile(arguments[2], withFieldTables(*page)) : Result<>(tl::unexpected(page.error()));
  const auto schema = written ? replaceFile(arguments[1], sessionSchema()) : written;
  if (!schema) std::fprintf(stderr, "%s\n", schema.error().describe().c_str());
  return schema ? 0 : 1;
}
