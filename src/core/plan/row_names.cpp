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

  void finish(Row& r, std::string name) {
    if (name.empty()) {
      r.remarks.push_back({Severity::Fault, RemarkCode::EmptyName, brief_.brief.name,
                           "The template gives no file name here. Add text or another field to it"});
      return;
    }
    const std::string folder = r.output == 0 ? std::string() : brief_.brief.files.more[r.output - 1].folder;
    r.file = (folder.empty() ? "" : folder + "/") + name + std::string(encodingInfo(r.encoding).extension);
    if (longestPart(r.file) > kLongestName || r.file.size() > kLongestPath)
      r.remarks.push_back({Severity::Fault, RemarkCode::NameTooLong, brief_.brief.name,
                           "The name has " + std::to_string(longestPart(r.file)) +
                               " bytes, file systems take 255. Shorten the template or the region's name"});
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

void findCollisions(Sheet& sheet) {
  std::unordered_map<std::string_view, std::size_t> first;  // by path
  first.reserve(sheet.rows.size());
  const auto mark = [&](Row& row, const Row& other) {
    row.remarks.push_back({Severity::Fault, RemarkCode::Collision, row.file,
                           "Another row has the same name (" + printable(sheet.spanOf(other).name) + ", " +
                               printable(sheet.sourceOf(other).name) +
                               "). Add {region}, {source} or {n.name} to the template"});
  };
  std::vector<char> marked(sheet.rows.size(), 0);
  std::vector<std::string> bases;
  for (const PlannedBrief& brief : sheet.briefs)
    bases.push_back(brief.base.lexically_normal().string() + "/");
  std::vector<std::string> paths(sheet.rows.size());
  tbb::parallel_for(std::size_t{0}, paths.size(), [&](std::size_t i) {
    const Row& row = sheet.rows[i];
    if (!row.file.empty()) paths[i] = bases[sheet.soundOf(row).brief] + foldedName(row.file);
  });
  for (std::size_t i = 0; i < sheet.rows.size(); ++i) {
    Row& row = sheet.rows[i];
    if (row.file.empty()) continue;
    const auto [found, isNew] = first.emplace(paths[i], i);
    if (isNew) continue;
    Row& other = sheet.rows[found->second];
    mark(row, other);
    if (!std::exchange(marked[found->second], 1)) mark(other, row);
  }
}

}  // namespace octaphon
