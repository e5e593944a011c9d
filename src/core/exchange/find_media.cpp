#include "exchange/find_media.h"

#include <algorithm>
#include <optional>
#include <set>

#include "base/job_files.h"
#include "base/unicode.h"
#include "exchange/bring_in.h"
#include "media/sound_file.h"

namespace octaphon {
namespace {

/// A file in the folder; looked into only when asked.
class Candidate {
 public:
  explicit Candidate(std::filesystem::path file)
      : file_(std::move(file)), name_(foldedName(file_.filename().string())) {}

  const std::filesystem::path& file() const { return file_; }
  const std::string& name() const { return name_; }
  bool hasLengthOf(const Medium& medium) {
    if (!info_) {
      const auto sound = SoundFile::open(file_);
      info_ = sound ? sound->info() : SoundInfo{};
    }
    return info_->frames == medium.frames && info_->rate == medium.rate;
  }
  const std::string& content(const JobControl* job) {
    if (!content_) {
      content_ = "";
      if (const auto handle = openRegular(file_))
        if (const auto digest = digestOf(handle->get(), file_.string(), job)) content_ = digest->hex();
    }
    return *content_;
  }

 private:
  std::filesystem::path file_;
  std::string name_;
  std::optional<SoundInfo> info_;
  std::optional<std::string> content_;
};

std::optional<Likeness> likenessOf(Candidate& candidate, const Medium& medium, const JobControl* job) {
  const bool sameName =
      candidate.name() == foldedName(std::filesystem::path(medium.file).filename().string());
  const bool knowsLength = medium.frames > 0;
  if (knowsLength && !candidate.hasLengthOf(medium)) return std::nullopt;
  if (!medium.content.empty() && (sameName || knowsLength) && candidate.content(job) == medium.content)
    return Likeness::Content;
  if (!sameName) return std::nullopt;
  return knowsLength ? Likeness::Length : Likeness::Name;
}

}  // namespace

std::map<std::string, FoundMedium> findMedia(const Session& session, const std::vector<std::string>& media,
                                             const std::filesystem::path& folder, JobControl* job) {
  std::vector<Candidate> candidates;
  for (std::filesystem::path& file : audioFilesIn(folder, job)) candidates.emplace_back(std::move(file));
  std::map<std::string, FoundMedium> found;
  const std::set<std::string> wanted(media.begin(), media.end());
  expectParts(job, wanted.size());
  for (const Medium& medium : session.media) {
    if (!wanted.contains(medium.id)) continue;
    for (Candidate& candidate : candidates) {
      if (isStopped(job)) return found;
      const auto likeness = likenessOf(candidate, medium, job);
      if (!likeness) continue;
      const auto best = found.find(medium.id);
      if (best == found.end() || *likeness < best->second.likeness)
        found.insert_or_assign(medium.id, FoundMedium{candidate.file(), *likeness});
    }
    finishPart(job);
  }
  return found;
}

}  // namespace octaphon
