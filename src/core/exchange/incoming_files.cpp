#include "exchange/incoming_files.h"

#include <algorithm>
#include <array>
#include <map>

#include "base/files.h"
#include "base/frames.h"
#include "base/unicode.h"
#include "media/flaw.h"

namespace octaphon {

namespace fs = std::filesystem;

namespace {

constexpr std::array kAudioEndings{".wav",  ".wave", ".bwf", ".rf64", ".w64",  ".flac", ".aif", ".aiff",
                                   ".aifc", ".caf",  ".ogg", ".oga",  ".opus", ".mp3",  ".au",  ".snd"};

std::string endingOf(const fs::path& file) { return lowerCase(file.extension().string()); }

/// Part by part, so that a folder's files stay together.
bool pathLess(const fs::path& a, const fs::path& b) {
  auto left = a.begin();
  auto right = b.begin();
  for (; left != a.end() && right != b.end(); ++left, ++right)
    if (const int order = naturalCompare(left->string(), right->string()); order != 0) return order < 0;
  return left == a.end() && right != b.end();
}

std::vector<fs::path> audioInputs(const std::vector<fs::path>& inputs, const JobControl* job) {
  std::vector<fs::path> files;
  std::error_code error;
  for (const fs::path& input : inputs) {
    if (fs::is_directory(input, error)) {
      for (fs::path& file : audioFilesIn(input, job)) files.push_back(std::move(file));
    } else if (!isMidiName(input) && !isTableName(input)) {
      files.push_back(placed(input));
    }
  }
  std::stable_sort(files.begin(), files.end(), pathLess);
  files.erase(std::unique(files.begin(), files.end()), files.end());
  return files;
}

void note(std::vector<Remark>& remarks, const fs::path& file, std::string text, Severity severity) {
  remarks.push_back({severity, RemarkCode::UnreadableMedium, file.string(),
                     file.filename().string() + ": " + std::move(text)});
}

Result<IncomingFile> lookInto(const fs::path& file, std::vector<Remark>& remarks) {
  if (!isValidUtf8(file.string()))
    return fail(ErrorCode::BadValue, printable(file.string()), "its name is not UTF-8", "Rename the file");
  OCTAPHON_ASSIGN(const FileHandle handle, openRegular(file));
  OCTAPHON_ASSIGN(const MediumFlaw flaw, findFlaw(handle.get(), file.string()));
  if (isLoss(flaw))
    return fail(ErrorCode::MediumUnreadable, file.string(), flawText(flaw),
                "Take a file that is whole, or make a WAV file of what is left of it");
  OCTAPHON_ASSIGN(const SoundFile sound, SoundFile::open(file));
  IncomingFile incoming{file, sound.info(), {}};
  if (flaw != MediumFlaw::None) note(remarks, file, flawText(flaw), Severity::Warning);
  if (incoming.info.frames <= 0)
    return fail(ErrorCode::MediumUnreadable, file.string(), "there is no sound in it", "Leave it out");
  // Marks are worth having; a file without whole ones still plays.
  if (auto facts = readFileFacts(file))
    incoming.facts = std::move(*facts);
  else
    note(remarks, file, facts.error().text + "; its markers, loops and time stamp are left out",
         Severity::Note);
  if (incoming.facts.missingBytes > 0)
    note(remarks, file,
         "it is cut off: " + std::to_string(incoming.facts.missingBytes) +
             " bytes that its header promises are not there. Only what is there is used",
         Severity::Warning);
  return incoming;
}

}  // namespace

fs::path resolved(const fs::path& path) {
  std::error_code error;
  fs::path full = fs::weakly_canonical(absoluteOf(path), error);
  return error ? absoluteOf(path) : full;
}

fs::path placed(const fs::path& file) { return resolved(absoluteOf(file).parent_path()) / file.filename(); }

std::vector<fs::path> audioFilesIn(const fs::path& folder, const JobControl* job) {
  std::vector<fs::path> files;
  std::error_code error;
  for (fs::recursive_directory_iterator
           it(resolved(folder), fs::directory_options::skip_permission_denied, error),
       end;
       !error && it != end && !isStopped(job); it.increment(error)) {
    const bool isHidden = it->path().filename().string().starts_with('.');
    std::error_code kind;
    if (isHidden && it->is_directory(kind)) it.disable_recursion_pending();
    if (!isHidden && isAudioName(it->path()) && it->is_regular_file(kind)) files.push_back(it->path());
  }
  std::stable_sort(files.begin(), files.end(), pathLess);
  return files;
}

bool isAudioName(const fs::path& file) {
  return std::find(kAudioEndings.begin(), kAudioEndings.end(), endingOf(file)) != kAudioEndings.end();
}
bool isMidiName(const fs::path& file) { return endingOf(file) == ".mid" || endingOf(file) == ".midi"; }
bool isTableName(const fs::path& file) {
  return endingOf(file) == ".csv" || endingOf(file) == ".tsv" || endingOf(file) == ".txt";
}

std::optional<int> commonRate(const IncomingFiles& incoming) {
  std::map<int, int> counts;
  for (const IncomingFile& file : incoming.files)
    if (file.info.rate >= kMinRate && file.info.rate <= kMaxRate) ++counts[file.info.rate];
  std::optional<int> best;
  for (const auto& [rate, count] : counts)
    if (!best || count >= counts.at(*best)) best = rate;
  return best;
}

IncomingFiles lookInto(const std::vector<fs::path>& inputs, JobControl* job) {
  IncomingFiles incoming;
  const std::vector<fs::path> files = audioInputs(inputs, job);
  expectParts(job, files.size());
  for (const fs::path& file : files) {
    if (isStopped(job)) break;
    if (auto one = lookInto(file, incoming.remarks))
      incoming.files.push_back(std::move(*one));
    else
      incoming.refused.push_back(one.error());
    finishPart(job);
  }
  return incoming;
}

}  // namespace octaphon
