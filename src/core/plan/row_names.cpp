#include "plan/row_names.h"

#include <tbb/blocked_range.h>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <unordered_map>

#include "base/unicode.h"
#include "naming/file_name.h"
#include "naming/template.h"

namespace octaphon {
namespace {

int digitsOf(std::size_t number) { return static_cast<int>(std::to_string(number).size()); }

class RowNamer {
 public:
  RowNamer(Sheet& sheet, PlannedBrief& brief, Template format)
      : sheet_(sheet), brief_(brief), format_(std::move(format)) {
    values_.session = sheet.session;
    values_.brief = brief.brief.name;
    values_.numberDigits =
        digitsOf(static_cast<std::size_t>(brief.rowCount == 0 ? 0 : soundNumber(brief.rowCount - 1)));
  }

  void run() {
    const bool numbered = format_.uses(NameField::NameNumber);
    std::vector<long> nameNumbers = numbered ? countNames() : std::vector<long>(brief_.rowCount, 0);
    if (numbered && !nameNumbers.empty())
      values_.nameNumberDigits =
          digitsOf(static_cast<std::size_t>(*std::max_element(nameNumbers.begin(), nameNumbers.end())));
    forEachRow(
        [&](std::size_t i, FieldValues& values) { finish(row(i), nameOf(i, nameNumbers[i], values)); });
  }

 private:
  Row& row(std::size_t i) { return sheet_.rows[brief_.firstRow + i]; }
  const Row& row(std::size_t i) const { return sheet_.rows[brief_.firstRow + i]; }

  /// Rows in parallel, each share with values of its own to fill in.
  template <class Work>
  void forEachRow(const Work& work) {
    tbb::parallel_for(tbb::blocked_range<std::size_t>(0, brief_.rowCount, 256), [&](const auto& rows) {
      FieldValues values = values_;
      for (std::size_t i = rows.begin(); i < rows.end(); ++i) work(i, values);
    });
  }

  std::string nameOf(std::size_t i, long nameNumber, FieldValues& values) const {
    const TappedSound& sound = sheet_.soundOf(row(i));
    const PlannedSource& source = brief_.sources[sound.source];
    values.region = brief_.spans[sound.span].name;
    values.source = source.name;
    values.group = source.group;
    values.number = soundNumber(i);
    values.nameNumber = nameNumber;
    return expandName(format_, values, brief_.brief.names.letterCase);
  }

  /// Numbers count sounds, from 1; all files of one have the same.
  long soundNumber(std::size_t i) const { return static_cast<long>(row(i).sound - row(0).sound) + 1; }

  /// Place of each row's sound among those whose name is otherwise equal, from 1.
  std::vector<long> countNames() {
    std::vector<std::string> names(brief_.rowCount);
    forEachRow([&](std::size_t i, FieldValues& values) { names[i] = foldedName(nameOf(i, 0, values)); });
    std::vector<long> numbers;
    std::unordered_map<std::string_view, long> seen;
    for (std::size_t i = 0; i < brief_.rowCount; ++i)
      numbers.push_back(row(i).output == 0 ? ++seen[names[i]] : numbers.back());
    return numbers;
  }

  static std::size_t longestPart(std::string_view path) {
    std::size_t longest = 0;
    while (true) {
      const std::size_t slash = path.find('/');
      longest = std::max(longest, std::min(slash, path.size()));
      if (slash == std::string_view::npos) return longest;
      path.remove_prefix(slash + 1);
    }
  }

  void finish(Row& r, const std::string& name) {
    if (name.empty()) {
      r.remarks.push_back({Severity::Fault, RemarkCode::EmptyName, brief_.brief.name,
                           "The template gives no file name here. Add text or another field to it"});
      return;
    }
    const std::string folder =
        r.output == 0 ? std::string() : withoutControls(brief_.brief.files.more[r.output - 1].folder, "_");
    r.file = (folder.empty() ? "" : folder + "/") + name + std::string(encodingInfo(r.encoding).extension);
    if (longestPart(r.file) > kLongestName || r.file.size() > kLongestPath)
      r.remarks.push_back(
          {Severity::Fault, RemarkCode::NameTooLong, brief_.brief.name,
           longestPart(r.file) > kLongestName
               ? "The name has " + std::to_string(longestPart(r.file)) +
                     " bytes, file systems take 255. Shorten the template or the region's name"
               : "The path has " + std::to_string(r.file.size()) + " bytes, at most " +
                     std::to_string(kLongestPath) + " go. Shorten the template or take folders out of it"});
  }

  static constexpr std::size_t kLongestPath = 3000;  // PATH_MAX is 4096; the base folder needs some of it

  Sheet& sheet_;
  PlannedBrief& brief_;
  Template format_;
  FieldValues values_;
};

}  // namespace

void nameRows(Sheet& sheet, std::size_t index) {
  PlannedBrief& brief = sheet.briefs[index];
  auto format = Template::parse(brief.brief.names.format);
  if (format) return RowNamer(sheet, brief, std::move(*format)).run();
  const Remark remark{Severity::Fault, RemarkCode::BadTemplate, brief.brief.name, format.error().describe()};
  brief.remarks.push_back(remark);
  for (std::size_t i = 0; i < brief.rowCount; ++i) sheet.rows[brief.firstRow + i].remarks.push_back(remark);
}

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
      bases.push_back(foldedName(brief.base.full().lexically_normal().string()) + "/");
    tbb::parallel_for(std::size_t{0}, paths_.size(), [&](std::size_t i) {
      const Row& row = sheet_.rows[i];
      if (!row.file.empty()) paths_[i] = bases[sheet_.soundOf(row).brief] + foldedName(row.file);
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
