// octaphon-manual DOCS OUT DATE: manual pages and completions of all programs, from what they say of their
// options and from the documents. octaphon-manual --fill PAGE…: makes anew what pages have from the program.
// octaphon-manual --chapters FOLDER PAGE: the same of the sessions of the guide's chapters.
#include <algorithm>
#include <cstdio>
#include <cstring>
#include <filesystem>

#include "base/files.h"
#include "base/pending_file.h"
#include "manual/chapter_files.h"
#include "manual/completions.h"
#include "manual/filled.h"
#include "manual/man_page.h"
#include "manual/programs.h"

namespace octaphon::manual {
namespace {

namespace fs = std::filesystem;
constexpr std::size_t kMostBytes = 1 << 20;

Result<> write(const fs::path& file, const std::string& text) {
  std::error_code error;
  fs::create_directories(file.parent_path(), error);
  return replaceFile(file, text);
}

Result<> writePage(const fs::path& out, const Command& command, std::string_view document,
                   const std::string& heading, const Edition& edition) {
  const std::string about = sectionOf(document, heading);
  if (about.empty()) return fail(ErrorCode::NotFound, command.name, "the documents say nothing of it");
  std::string name = command.name;
  std::replace(name.begin(), name.end(), ' ', '-');
  return write(out / "man1" / (name + ".1"), manPage(command, about, edition));
}

Result<> writeAll(const fs::path& docs, const fs::path& out, const Edition& edition) {
  OCTAPHON_ASSIGN(const std::string about, readFile(docs / "manual/about.md", kMostBytes));
  OCTAPHON_ASSIGN(const std::string commands, readFile(docs / "command-line.md", kMostBytes));
  for (const Command& program : programs()) {
    OCTAPHON_TRY(writePage(out, program, about, program.name, edition));
    for (const Command& command : program.commands)
      OCTAPHON_TRY(writePage(out, command, commands, command.word(), edition));
  }
  const Command cli = commandLine();
  OCTAPHON_TRY(write(out / "completions/octaphon-cli", bashCompletion(cli)));
  OCTAPHON_TRY(write(out / "completions/_octaphon-cli", zshCompletion(cli)));
  return write(out / "completions/octaphon-cli.fish", fishCompletion(cli));
}

Result<> fill(const fs::path& page) {
  OCTAPHON_ASSIGN(const std::string document, readFile(page, kMostBytes));
  const std::string renewed = filledByProgram(document);
  if (renewed == document) return {};
  return replaceFile(page, renewed);
}

Result<> fillAll(char** first, char** end) {
  for (char** page = first; page != end; ++page) OCTAPHON_TRY(fill(*page));
  return {};
}

Result<> fillChapters(const fs::path& chapters, const fs::path& page) {
  OCTAPHON_ASSIGN(std::string document, readFile(page, kMostBytes));
  OCTAPHON_ASSIGN(const std::string renewed, withChapters(std::move(document), chapters));
  return replaceFile(page, renewed);
}

int run(int count, char** arguments) {
  Result<> done;
  if (count > 2 && std::strcmp(arguments[1], "--fill") == 0)
    done = fillAll(arguments + 2, arguments + count);
  else if (count == 4 && std::strcmp(arguments[1], "--chapters") == 0)
    done = fillChapters(arguments[2], arguments[3]);
  else if (count == 4)
    done = writeAll(arguments[1], arguments[2], {OCTAPHON_VERSION, arguments[3]});
  else {
    std::fputs("octaphon-manual DOCS OUT DATE | --fill PAGE… | --chapters FOLDER PAGE\n", stderr);
    return 2;
  }
  if (!done) std::fprintf(stderr, "octaphon-manual: %s\n", done.error().describe().c_str());
  return done ? 0 : 1;
}

}  // namespace
}  // namespace octaphon::manual

int main(int count, char** arguments) { return octaphon::manual::run(count, arguments); }
