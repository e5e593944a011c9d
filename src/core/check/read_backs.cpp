#include "check/read_backs.h"

namespace octaphon {

void ReadBacks::read(const SafeFolder& folder, const std::string& file, const ReadBackAsked& asked,
                     std::initializer_list<const JobControl*> jobs) {
  expect(file);
  kept_.erase(file);
  if (auto read = readBack(folder, file, asked, jobs)) kept_.emplace(file, Kept{asked, std::move(*read)});
}

std::optional<ReadBack> ReadBacks::of(const SafeFolder& folder, const std::string& file,
                                      const ReadBackAsked& asked) const {
  const auto found = kept_.find(file);
  if (found == kept_.end()) return std::nullopt;
  const ReadBackAsked& was = found->second.asked;
  if (asked.decodes && !was.decodes) return std::nullopt;
  if (asked.seam || asked.wave != 0 || was.measures.with(asked.measures) != was.measures) return std::nullopt;
  const auto handle = folder.openFile(file);
  const auto now = handle ? identityOf(handle->get()) : std::nullopt;
  return now == found->second.read.identity ? std::optional(found->second.read) : std::nullopt;
}

}  // namespace octaphon
