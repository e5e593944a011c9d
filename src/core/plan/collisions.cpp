#include "plan/collisions.h"

#include <tbb/parallel_for.h>

#include <unordered_map>
#include <utility>

#include "base/unicode.h"

namespace octaphon {
namespace {

/// Rows that would be in each other's way, letter case ignored, whatever base folders they come through.
class Collisions {
 public:
  explicit Collisions(Sheet& sheet)
      : sheet_(sheet), paths_(sheet.rows.size()), isMarked_(sheet.rows.size(), 0) {}

  void mark() {
    findPaths();
    for (std::size_t i = 0; i < paths_.size(); ++i)
      if (!paths_[i].empty() && !rowAt_.emplace(paths_[i], i).second) markSame(i, rowAt_.at(paths_[i]));
    for (std::size_t i = 0; i < paths_.size(); ++i)
      if (const std::size_t file = fileAbove(paths_[i]); file != kNone) markFolder(i, file);
  }

 private:
  static constexpr std::size_t kNone = static_cast<std::size_t>(-1);

  void findPaths() {
    std::vector<std::string> bases;
    for (const PlannedBrief& brief : sheet_.briefs)
      bases.push_back(comparableName(brief.base.full().lexically_normal().string()) + "/");
    tbb::parallel_for(std::size_t{0}, paths_.size(), [&](std::size_t i) {
      const Row& row = sheet_.rows[i];
      if (!row.file.empty()) paths_[i] = bases[sheet_.soundOf(row).brief] + comparableName(row.file);
    });
    rowAt_.reserve(paths_.size());
  }

  /// The row whose file has the name of a folder on the way to a path.
  std::size_t fileAbove(std::string_view path) {
    const std::size_t slash = path.rfind('/');
    if (slash == std::string_view::npos || slash == 0) return kNone;
    const std::string_view folder = path.substr(0, slash);
    const auto [known, isNew] = fileAbove_.try_emplace(folder, kNone);
    if (!isNew) return known->second;
    const auto file = rowAt_.find(folder);
    const std::size_t found = file != rowAt_.end() ? file->second : fileAbove(folder);
    return fileAbove_[folder] = found;
  }

  void add(std::size_t i, std::string text) {
    Row& row = sheet_.rows[i];
    row.remarks.push_back({Severity::Fault, RemarkCode::Collision, row.file, std::move(text)});
  }

  std::string nameOf(std::size_t i) const {
    const Row& row = sheet_.rows[i];
    return printable(sheet_.spanOf(row).name) + ", " + printable(sheet_.sourceOf(row).name);
  }

  void markSame(std::size_t i, std::size_t other) {
    const auto text = [&](std::size_t to) {
      return "Another row has the same name (" + nameOf(to) +
             "). Add {region}, {source} or {n.name} to the template";
    };
    add(i, text(other));
    if (std::exchange(isMarked_[other], 1) == 0) add(other, text(i));
  }

  void markFolder(std::size_t i, std::size_t file) {
    add(i, "The file of another row (" + nameOf(file) +
               ") has the name of this one's folder. Change one of them");
    if (std::exchange(isMarked_[file], 1) == 0)
      add(file, "The folder of another row (" + nameOf(i) + ") has this name. Change one of them");
  }

  Sheet& sheet_;
  std::vector<std::string> paths_;  // folded
  std::vector<char> isMarked_;
  std::unordered_map<std::string_view, std::size_t> rowAt_;
  std::unordered_map<std::string_view, std::size_t> fileAbove_;  // by folder; kNone: no row
};

}  // namespace

void findCollisions(Sheet& sheet) { Collisions(sheet).mark(); }

}  // namespace octaphon
