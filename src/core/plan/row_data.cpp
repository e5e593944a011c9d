#include "plan/row_data.h"

#include <algorithm>
#include <unordered_map>

#include "base/calendar.h"
#include "base/unicode.h"
#include "formats/aiff_head.h"
#include "formats/wav_mark_chunks.h"
#include "plan/row_values.h"

namespace octaphon {
namespace {

/// Templates that cannot be read say nothing; the plan has a fault for them.
Template templateOf(const std::string& text) {
  return Template::parse(text, TemplateUse::Text).value_or(Template());
}

std::vector<Template> templatesOf(const InsideData& data) {
  std::vector<Template> all;
  for (const TagInfo& info : kTagInfos) all.push_back(templateOf(data.format(info.tag)));
  for (const DataFact& fact : data.facts) all.push_back(templateOf(fact.value));
  return all;
}

/// Of sources beside each other: each by its name.
std::vector<std::string> partNamesOf(const Sheet& sheet, const Row& row) {
  const std::vector<int>& channels = sheet.soundOf(row).partChannels;
  std::vector<std::string> names;
  for (std::size_t i = 0; i < channels.size(); ++i) {
    const std::string part = withoutControls(sheet.sourceOf(row).parts[i].name, "_");
    for (int c = 1; c <= channels[i]; ++c)
      names.push_back(channels[i] == 1 ? part : part + " " + channelName(channels[i], c));
  }
  return names;
}

std::vector<std::string> channelNamesOf(const Sheet& sheet, const Row& row) {
  if (sheet.sourceOf(row).kind == PlannedSource::Kind::Together) return partNamesOf(sheet, row);
  const std::string source = withoutControls(sheet.sourceOf(row).name, "_");
  if (row.part > 0) return {source + " " + channelName(row.folded, row.part)};
  if (row.channels == 1) return {source};
  std::vector<std::string> names;
  for (int c = 1; c <= row.channels; ++c) names.push_back(source + " " + channelName(row.channels, c));
  return names;
}

/// Those of one span and output.
FileSet setOf(const Sheet& sheet, const Row& row) {
  const TappedSound& sound = sheet.soundOf(row);
  return {rowMarkOf(sheet.spanKeyOf(sound.brief, sheet.briefOf(row).originals[sound.span])),
          withoutControls(sheet.spanOf(row).name, "_"), withoutControls(sheet.sourceOf(row).name, "_")};
}

/// Its span, where that is not all of the file or a loop; what lies in it.
std::vector<FileMark> marksOf(const Sheet& sheet, const Row& row, const Extent& extent) {
  std::vector<FileMark> marks;
  const bool isLoop = sheet.endsOf(row).loop.isThere();
  if (extent.body > 0 && (isLoop || extent.body < extent.frames()))
    marks.push_back({extent.leadIn, extent.body, withoutControls(sheet.spanOf(row).name, "_"), {}});
  for (const SheetMark& mark : sheet.marksIn(row, extent))
    marks.push_back({mark.at, mark.length, withoutControls(mark.name, "_"), {}});
  std::stable_sort(marks.begin(), marks.end(),
                   [](const FileMark& a, const FileMark& b) { return a.at < b.at; });
  return marks;
}

}  // namespace

/// The texts of one brief's files.
class RowData::OfBrief {
 public:
  OfBrief(const Sheet& sheet, std::size_t index, const Session& session, const TrackTree& tree,
          std::optional<std::size_t> only)
      : planned_(sheet.briefs[index]),
        session_(session),
        templates_(templatesOf(planned_.brief.data)),
        abbreviations_(session.abbreviations),
        values_(sheet, index, session, tree, templates_, planned_.brief.names.separator, abbreviations_,
                TemplateUse::Text, only) {
    values_.setNameNumbers(planned_.nameNumbers);
    for (const Region& region : session.regions) regions_.emplace(region.id, &region);
    for (const ClipSet& set : session.clipSets) sets_.emplace(set.id, &set);
  }

  void addTexts(const Sheet& sheet, const Row& row, FileData& data) const {
    const auto place = static_cast<std::size_t>(&row - &sheet.rows[planned_.firstRow]);
    const RowValues::OfRow values = values_.of(place);
    const InsideData& inside = planned_.brief.data;
    for (std::size_t i = 0; i < kTags; ++i) data.texts[i] = expandText(templates_[i], values);
    Facts facts = inside.regionFacts ? factsOf(sheet.spanOf(row)) : Facts();
    for (std::size_t i = 0; i < inside.facts.size(); ++i)
      facts[inside.facts[i].name] = expandText(templates_[kTags + i], values);
    for (const auto& [name, value] : facts)
      if (!value.empty()) data.facts.emplace_back(withoutControls(name, "_"), withoutControls(value, " "));
  }

 private:
  Facts factsOf(const PlannedSpan& span) const {
    if (const auto region = regions_.find(span.id);
        span.kind == PlannedSpan::Kind::Region && region != regions_.end())
      return session_.factsOf(span.name, region->second->facts);
    if (const auto set = sets_.find(span.id); span.kind == PlannedSpan::Kind::ClipSet && set != sets_.end())
      return session_.factsOf(span.name, set->second->facts);
    return {};
  }

  const PlannedBrief& planned_;
  const Session& session_;
  std::vector<Template> templates_;  // of texts, then of facts
  Abbreviations abbreviations_;
  RowValues values_;
  std::unordered_map<std::string_view, const Region*> regions_;
  std::unordered_map<std::string_view, const ClipSet*> sets_;
};

RowData::RowData(const Sheet& sheet, const Session& session, const TrackTree& tree,
                 std::optional<std::size_t> only)
    : sheet_(sheet), session_(session), tree_(tree), only_(only), briefs_(sheet.briefs.size()) {}
RowData::~RowData() = default;

const RowData::OfBrief& RowData::briefOf(std::size_t index) const {
  const std::scoped_lock lock(mutex_);
  const auto inBrief = only_ ? std::optional(*only_ - sheet_.briefs[index].firstRow) : std::nullopt;
  if (!briefs_[index]) briefs_[index] = std::make_unique<OfBrief>(sheet_, index, session_, tree_, inBrief);
  return *briefs_[index];
}

FileData RowData::of(const Row& row, const Extent& extent) const {
  const InsideData& inside = sheet_.briefOf(row).brief.data;
  FileData data;
  data.isPlain = inside.isPlain;
  data.timeReference = timeReference(sheet_.startPicture, sheet_.picture, row.rate, extent.start);
  data.picture = sheet_.picture;
  if (sheet_.endsOf(row).loop.isThere() && extent.body > 0)
    data.loop = FileLoop{extent.leadIn, extent.leadIn + extent.body};
  if (inside.marks) data.marks = marksOf(sheet_, row, extent);
  data.loopComments = inside.loopComments;
  if (inside.isPlain) return data;
  briefOf(sheet_.soundOf(row).brief).addTexts(sheet_, row, data);
  const Edition& edition = sheet_.briefOf(row).edition;
  if (edition.date.isThere()) data.date = dateText(edition.date);
  data.rowMark = rowMarkOf(sheet_.keyOf(row));
  data.channelNames = channelNamesOf(sheet_, row);
  data.set = setOf(sheet_, row);
  return data;
}

FileData RowData::of(const Row& row, const Extent& extent, const Fingerprint& made) const {
  FileData data = of(row, extent);
  if (!data.isPlain) data.madeMark = madeMarkOf(made);
  return data;
}

Digest digestOf(const FileData& data) {
  Hasher hasher;
  const auto text = [&](const std::string& words) { hasher.add(std::string_view(words)); };
  hasher.add(data.isPlain);
  hasher.add(data.timeReference);
  hasher.add(data.marks.size());
  for (const FileMark& mark : data.marks) {
    hasher.add(mark.at);
    hasher.add(mark.length);
    text(mark.label);
  }
  hasher.add(data.loop ? data.loop->start : -1);
  hasher.add(data.loop ? data.loop->end : -1);
  hasher.add(data.loop && data.loopComments);
  for (const std::string& words : data.texts) text(words);
  for (const auto& [name, value] : data.facts) {
    text(name);
    text(value);
  }
  for (const std::string* words : {&data.date, &data.rowMark, &data.set.uid, &data.set.name, &data.set.index})
    text(*words);
  for (const std::string& name : data.channelNames) text(name);
  for (const int number : {data.picture.numerator, data.picture.denominator, data.picture.drop ? 1 : 0})
    hasher.add(number);
  return hasher.digest();
}

std::vector<Remark> dataFaults(const Brief& brief) {
  std::vector<Remark> faults;
  const auto look = [&](std::string_view of, const std::string& text) {
    if (const auto read = Template::parse(text, TemplateUse::Text); !read)
      faults.push_back({Severity::Fault, RemarkCode::BadDataTemplate, brief.name,
                        "What files say as their " + std::string(of) + ": " + read.error().describe()});
  };
  for (const TagInfo& info : kTagInfos) look(info.name, brief.data.format(info.tag));
  for (const DataFact& fact : brief.data.facts) look("'" + printable(fact.name, 40) + "'", fact.value);
  return faults;
}

std::string notCarried(const FileForm& form, const FileData& data) {
  const EncodingInfo& info = encodingInfo(form.encoding);
  std::vector<std::string> what;
  if (data.loop && !info.hasLoops && !data.loopComments) what.push_back("loop points");
  if (info.container == Container::Aiff) {
    what.push_back("the place in the session");
    if (std::any_of(data.marks.begin(), data.marks.end(),
                    [](const FileMark& mark) { return mark.length > 0; }))
      what.push_back("lengths of cue points");
    if (data.marks.size() > kMostAiffMarks) what.push_back("more than 65 000 cue points");
  }
  const bool isBeyond = std::any_of(data.marks.begin(), data.marks.end(), [](const FileMark& mark) {
    return mark.at > kLastRiffFrame || mark.length > kLastRiffFrame;
  });
  if (isBeyond && info.marks == Places::Frames) what.push_back("cue points from frame 2^32 on");
  return listed(what);
}

}  // namespace octaphon
