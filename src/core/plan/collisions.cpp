#include "plan/collisions.h"

#include <map>
#include <utility>

#include "base/unicode.h"
#include "plan/equal_names.h"

namespace octaphon {
namespace {

/// Rows that would be in each other's way, letter case ignored, whatever base folders they come through.
class Collisions {
 public:
  explicit Collisions(Sheet& sheet)
      : sheet_(sheet),
        bases_(basesOf(sheet)),
        names_(sheet.rows.size(), [this](std::size_t i) { return pathOf(i); }),
        isMarked_(sheet.rows.size(), 0) {}

  void mark() {
    names_.forEachRun([&](const EqualNames::Run& rows) {
      for (std::size_t i = 1; i < rows.size(); ++i) markSame(rows[i], rows[0]);
    });
    for (std::size_t i = 0; i < sheet_.rows.size(); ++i)
      if (const auto file = fileAbove(i)) markFolder(i, *file);
  }

 private:
  static std::vector<std::string> basesOf(const Sheet& sheet) {
    std::vector<std::string> bases;
    for (const PlannedBrief& brief : sheet.briefs)
      bases.push_back(comparableName(brief.base.full().lexically_normal().string()) + "/");
    return bases;
  }

  /// Whole, as names are compared; empty where the row has no name.
  std::string pathOf(std::size_t i) const {
    const Row& row = sheet_.rows[i];
    return row.file.empty() || row.isHeldBack ? std::string()
                                              : bases_[sheet_.soundOf(row).brief] + comparableName(row.file);
  }

  /// The row whose file has the name of a folder on the way to a row's file.
  std::optional<std::size_t> fileAbove(std::size_t i) {
    const Row& row = sheet_.rows[i];
    if (row.file.empty() || row.isHeldBack) return std::nullopt;
    const std::size_t slash = row.file.rfind('/');
    const std::string_view folder =
        std::string_view(row.file).substr(0, slash == std::string::npos ? 0 : slash);
    const auto [known, isNew] = fileAbove_.try_emplace({sheet_.soundOf(row).brief, folder});
    if (isNew) known->second = fileAbove(pathOf(i));
    return known->second;
  }
  std::optional<std::size_t> fileAbove(std::string path) const {
    for (std::size_t slash; (slash = path.rfind('/')) != std::string::npos && slash > 0;) {
      path.resize(slash);
      if (const auto file = names_.find(path)) return file;
    }
    return std::nullopt;
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
  std::vector<std::string> bases_;  // by brief
  EqualNames names_;
  std::vector<char> isMarked_;
  std::map<std::pair<std::uint32_t, std::string_view>, std::optional<std::size_t>> fileAbove_;  // by folder
};

}  // namespace

void findCollisions(Sheet& sheet) { Collisions(sheet).mark(); }

}  // namespace octaphon
