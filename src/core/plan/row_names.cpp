#include "plan/row_names.h"

#include <tbb/blocked_range.h>
#include <tbb/parallel_for.h>

#include <algorithm>

#include "base/unicode.h"
#include "naming/file_name.h"
#include "plan/numbering.h"
#include "plan/row_values.h"

namespace octaphon {
namespace {

/// Calls work(i) for each row of a brief, in parallel.
template <class Work>
void forEachRow(std::size_t count, const Work& work) {
  tbb::parallel_for(tbb::blocked_range<std::size_t>(0, count, 256), [&](const auto& rows) {
    for (std::size_t i = rows.begin(); i < rows.end(); ++i) work(i);
  });
}

/// The names of one brief's rows.
class RowNamer {
 public:
  /// `known`: numbers among equal names that are taken for true; null, or empty: they are counted.
  RowNamer(const Sheet& sheet, std::size_t brief, const Session& session, const TrackTree& tree,
           const Template& format, const Brief::Names& names, const NameNumbers* known)
      : sheet_(sheet),
        brief_(sheet.briefs[brief]),
        format_(format),
        letterCase_(names.letterCase),
        abbreviations_(session.abbreviations),
        values_(sheet, brief, session, tree, std::span(&format, 1), names.separator, abbreviations_) {
    if (!format.uses(NameField::NameNumber)) return;
    if (known != nullptr && !known->places.empty())
      values_.setNameNumbers(*known);
    else
      countNames();
  }

  const NameNumbers& nameNumbers() const { return values_.nameNumbers(); }

  ExpandedName nameOf(std::size_t i) const { return expandName(format_, values_.of(i), letterCase_); }

 private:
  const Row& row(std::size_t i) const { return sheet_.rows[brief_.firstRow + i]; }

  /// Place of each row's sound among those whose name is otherwise equal; all files of one have the same.
  void countNames() {
    const EqualNames equal(brief_.rowCount, [&](std::size_t i) {
      return row(i).isFirst() ? comparableName(nameOf(i).path) + "/" : std::string();
    });
    values_.setNameNumbers(numberNames(sheet_, brief_, equal));
  }

  const Sheet& sheet_;
  const PlannedBrief& brief_;
  const Template& format_;
  LetterCase letterCase_;
  Abbreviations abbreviations_;
  RowValues values_;
};

constexpr std::size_t kLongestPath = 3000;  // PATH_MAX is 4096; the base folder needs some of it
/// Units of UTF-16 of brief's folder and file. Programs of one desktop system take 259 for a whole path
/// (MAX_PATH; Microsoft, "Maximum Path Length Limitation"); 19 are left for where the folder is put.
constexpr std::size_t kCarefulPath = 240;

std::size_t longestPart(std::string_view path) {
  std::size_t longest = 0;
  while (true) {
    const std::size_t slash = path.find('/');
    longest = std::max(longest, std::min(slash, path.size()));
    if (slash == std::string_view::npos) return longest;
    path.remove_prefix(slash + 1);
  }
}

/// Of UTF-16: characters beyond the basic plane take two.
std::size_t unitsOf(std::string_view text) {
  std::size_t units = 0;
  for (const char c : text) {
    const auto byte = static_cast<unsigned char>(c);
    units += byte >= 0xF0 ? 2 : (byte & 0xC0) != 0x80 ? 1 : 0;
  }
  return units;
}

/// A name that was typed for one row: its parts as file systems take them. Empty where nothing is left.
std::string ownPath(const std::string& name) {
  std::string path;
  for (const std::string& part : pathParts(name))
    if (const std::string allowed = allowedName(part); !allowed.empty())
      path += (path.empty() ? "" : "/") + allowed;
  return path;
}

/// From the path of a name to the file of a row.
class FileNamer {
 public:
  FileNamer(const PlannedBrief& brief, const Template& format)
      : brief_(brief), saysChannel_(format.uses(NameField::Channel)) {}

  /// Empty without a path.
  std::string fileOf(const Row& row, const std::string& path) const {
    if (row.exception)
      if (const std::string own = ownPath(brief_.brief.rowExceptions[*row.exception].name); !own.empty())
        return whole(row, own, false);
    return path.empty() ? std::string() : whole(row, path, saysChannel_);
  }

 private:
  std::string whole(const Row& row, const std::string& path, bool saysChannel) const {
    const Output& output = brief_.outputs[row.output];
    const bool isChannelAdded = row.part > 0 && !saysChannel;
    return (output.folder.empty() ? "" : output.folder + "/") + path +
           (isChannelAdded ? "_" + channelName(row.folded, row.part) : "") + output.suffix +
           std::string(encodingInfo(row.encoding).extension);
  }

  const PlannedBrief& brief_;
  bool saysChannel_;
};

class RowFinisher {
 public:
  RowFinisher(const PlannedBrief& brief, const Template& format) : brief_(brief), namer_(brief, format) {
    format.forEachField([&](const TemplatePart& part) {
      asksForLength_ = asksForLength_ || part.field.field == NameField::Length;
    });
  }

  void finish(Row& row, const ExpandedName& name) const {
    const auto add = [&](Severity severity, RemarkCode code, std::string text) {
      row.remarks.push_back({severity, code, brief_.brief.name, std::move(text)});
    };
    row.file = namer_.fileOf(row, name.path);
    const bool hasOwn = row.exception && !brief_.brief.rowExceptions[*row.exception].name.empty();
    if (asksForLength_ && row.isMeasured && !hasOwn)
      add(Severity::Fault, RemarkCode::UnmeasuredName,
          "The name asks for a length that is only known once the file was heard. Take {length} out of the "
          "template, or give files of this brief a fixed length");
    if (row.file.empty())
      return add(Severity::Fault, RemarkCode::EmptyName,
                 "The template gives no file name here. Add text or another field to it");
    if (name.isLost && !hasOwn)
      add(Severity::Note, RemarkCode::LettersLost,
          "Letters that are not Latin became _ in the name. Take the filter ascii out, or give the thing a "
          "name in "
          "Latin letters");
    if (row.file.size() > kCarefulPath / 2) checkLength(row, add);
  }

 private:
  template <class Add>
  void checkLength(Row& row, const Add& add) const {
    if (const std::size_t longest = longestPart(row.file); longest > kLongestName)
      return add(Severity::Fault, RemarkCode::NameTooLong,
                 "The name has " + std::to_string(longest) +
                     " bytes, file systems take 255. Shorten the template or the region's name");
    if (row.file.size() > kLongestPath)
      return add(Severity::Fault, RemarkCode::NameTooLong,
                 "The path has " + std::to_string(row.file.size()) + " bytes, at most " +
                     std::to_string(kLongestPath) + " go. Shorten the template or take folders out of it");
    const std::size_t units = unitsOf(brief_.brief.delivery.folder) + 1 + unitsOf(row.file);
    if (units > kCarefulPath)
      add(Severity::Warning, RemarkCode::LongPath,
          "With its folders the name has " + std::to_string(units) +
              " characters; some programs take no path over 259, wherever it is put. Shorten it");
  }

  const PlannedBrief& brief_;
  FileNamer namer_;
  bool asksForLength_ = false;
};

}  // namespace

void nameRows(Sheet& sheet, std::size_t index, const Session& session, const TrackTree& tree) {
  PlannedBrief& brief = sheet.briefs[index];
  const auto addFault = [&](std::string text) {
    const Remark fault{Severity::Fault, RemarkCode::BadTemplate, brief.brief.name, std::move(text)};
    brief.remarks.push_back(fault);
    for (std::size_t i = 0; i < brief.rowCount; ++i) sheet.rows[brief.firstRow + i].remarks.push_back(fault);
  };
  const auto format = Template::parse(brief.brief.names.format);
  if (!format) return addFault(format.error().describe());
  const RowNamer namer(sheet, index, session, tree, *format, brief.brief.names, nullptr);
  const RowFinisher finisher(brief, *format);
  forEachRow(brief.rowCount,
             [&](std::size_t i) { finisher.finish(sheet.rows[brief.firstRow + i], namer.nameOf(i)); });
  brief.nameNumbers = namer.nameNumbers();
  if (hasGivenUp(*format))
    addFault("A pattern of the template takes too long on some names. Make the pattern simpler");
}

struct NamesPreview::State {
  State(const Sheet& ofSheet, std::size_t brief, const Session& session, const TrackTree& tree,
        Template parsed, const Brief::Names& names)
      : sheet(ofSheet),
        format(std::move(parsed)),
        namer(sheet, brief, session, tree, format, names, &sheet.briefs[brief].nameNumbers),
        planned(sheet.briefs[brief]),
        files(planned, format) {}

  const Sheet& sheet;
  Template format;
  RowNamer namer;
  const PlannedBrief& planned;
  FileNamer files;
};

NamesPreview::NamesPreview(std::unique_ptr<State> state) : state_(std::move(state)) {}
NamesPreview::NamesPreview(NamesPreview&&) noexcept = default;
NamesPreview& NamesPreview::operator=(NamesPreview&&) noexcept = default;
NamesPreview::~NamesPreview() = default;

Result<NamesPreview> NamesPreview::of(const Sheet& sheet, std::size_t brief, const Session& session,
                                      const TrackTree& tree, const Brief::Names& names) {
  OCTAPHON_ASSIGN(Template format, Template::parse(names.format));
  return NamesPreview(std::make_unique<State>(sheet, brief, session, tree, std::move(format), names));
}

std::string NamesPreview::fileOf(std::size_t index) const {
  const Row& row = state_->sheet.rows[index];
  return state_->files.fileOf(row, state_->namer.nameOf(index - state_->planned.firstRow).path);
}

std::string nameOf(const Sheet& sheet, const Row& row) {
  const Output& output = sheet.briefOf(row).outputs[row.output];
  std::string_view name = row.file;
  const auto take = [&](std::string_view end) {
    if (name.ends_with(end)) name.remove_suffix(end.size());
  };
  take(encodingInfo(row.encoding).extension);
  take(output.suffix);
  if (row.part > 0) take("_" + channelName(row.folded, row.part));
  if (!output.folder.empty() && name.starts_with(output.folder + "/"))
    name.remove_prefix(output.folder.size() + 1);
  return std::string(name);
}

std::vector<std::string> fieldValues(const Sheet& sheet, std::size_t index, const Session& session,
                                     const TrackTree& tree) {
  std::string text;
  for (const NameFieldInfo& info : kNameFields) {
    const bool isKey = info.argument == FieldArgument::Key;
    text += "{" + std::string(info.name) + (info.hasLevel ? "1" : "") + (isKey ? ":-" : "") + "}";
  }
  const Template format = *Template::parse(text, TemplateUse::Text);
  const std::size_t brief = sheet.soundOf(sheet.rows[index]).brief;
  const Abbreviations abbreviations(session.abbreviations);
  const std::size_t row = index - sheet.briefs[brief].firstRow;
  RowValues values(sheet, brief, session, tree, std::span(&format, 1),
                   sheet.briefs[brief].brief.names.separator, abbreviations, TemplateUse::Text, row);
  values.setNameNumbers(sheet.briefs[brief].nameNumbers);
  const RowValues::OfRow ofRow = values.of(row);
  std::vector<std::string> found;
  format.forEachField([&](const TemplatePart& field) {
    bool isLost = false;
    ofRow.append(field, found.emplace_back(), isLost);
  });
  return found;
}

}  // namespace octaphon
