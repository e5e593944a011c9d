#include "manual/chapter_files.h"

#include "manual/filled.h"
#include "media/media_cache.h"
#include "media/media_facts.h"
#include "plan/sentence.h"
#include "run/live_sheet.h"
#include "session/session_file.h"

namespace octaphon::manual {
namespace {

namespace fs = std::filesystem;

Result<std::string> chapterText(const fs::path& file) {
  OCTAPHON_ASSIGN(const Session session, loadSession(file));
  MediaCache cache(MediaCache::defaultFolder());
  OCTAPHON_ASSIGN(const PlanRequest request, requestFor(session, {}));
  const Sheet sheet = planWithStates(session, *gatherFacts(session, cache), request);
  std::string text;
  for (const PlannedBrief& brief : sheet.briefs) text += "> " + sentenceText(brief.brief, session) + "\n\n";
  text += "```\n";
  for (const Row& row : sheet.rows) text += row.file + "\n";
  return text + "```\n";
}

}  // namespace

Result<std::string> withChapters(std::string page, const fs::path& chapters) {
  std::error_code problem;
  for (fs::directory_iterator it(chapters, problem), end; !problem && it != end; it.increment(problem)) {
    const std::string name = it->path().filename().string();
    OCTAPHON_ASSIGN(const std::string text, chapterText(it->path() / (name + ".octaphon")));
    page = filled(page, "chapter " + name, text);
    if (page.empty()) return fail(ErrorCode::NotFound, name, "the page has no place for this chapter");
  }
  return page;
}

}  // namespace octaphon::manual
