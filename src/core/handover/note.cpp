#include "handover/note.h"

#include <algorithm>
#include <cmath>
#include <cstdio>

#include "base/decibels.h"
#include "base/unicode.h"
#include "check/as_made.h"
#include "formats/channel_text.h"

namespace octaphon {
namespace {

/// `59 520`, with spaces that do not break.
std::string groupedText(std::uint64_t number) {
  const std::string digits = std::to_string(number);
  std::string text;
  for (std::size_t i = 0; i < digits.size(); ++i) {
    if (i > 0 && (digits.size() - i) % 3 == 0) text += " ";
    text += digits[i];
  }
  return text;
}

std::string lengthText(Frame frames, int rate) {
  return timeText(frames, std::max(1, rate)) + " (" + groupedText(static_cast<std::uint64_t>(frames)) +
         " frames)";
}

std::string formText(const DeliveredFile& file) {
  return encodingText(file.made.encoding) + ", " + plainNumber(file.made.rate / 1000.0) + " kHz, " +
         channelText(file.made.channels);
}

std::string levelText(const Levels& levels) {
  std::vector<std::string> parts;
  const auto add = [&](const std::optional<double>& level, const char* unit) {
    if (level) parts.push_back(decibelText(*level) + " " + unit);
  };
  if (levels.isSilent()) return "silence";
  add(levels.peakDb, "dBFS");
  add(levels.truePeakDb, "dBTP");
  add(levels.lufs, "LUFS");
  std::string text;
  for (const std::string& part : parts) text += (text.empty() ? "" : ", ") + part;
  return text;
}

std::string wayText(const std::string& way) {
  std::string text = way;
  std::replace(text.begin(), text.end(), '-', ' ');
  return text;
}

/// `fold, 0:04.000 (192 000 frames), 8 beats, seam 98 of 100`
std::string loopText(const DeliveredFile& file) {
  const MadePlace& place = file.made.place;
  if (place.loopWay.empty()) return {};
  std::string text = wayText(place.loopWay) + ", ";
  if (place.leadIn > 0) text += "from " + lengthText(place.leadIn, file.made.rate) + ", ";
  text += lengthText(place.body, file.made.rate);
  if (place.beats) text += ", " + plainNumber(std::round(*place.beats * 1000) / 1000) + " beats";
  if (file.made.seam) text += ", seam " + plainNumber(*file.made.seam) + " of 100";
  return text;
}

std::vector<NoteLine> remarksOf(const DeliveredFile& file) {
  std::vector<NoteLine> lines;
  const auto add = [&](const std::string& text, const std::optional<std::string>& accepted) {
    const std::string reason = accepted && !accepted->empty() ? ": " + *accepted : "";
    lines.push_back({accepted ? "accepted" + reason : "remark", text});
  };
  for (const DeliveredRemark& one : file.remarks) add(one.remark.text, one.accepted);
  for (const FileFinding& finding : file.findings) {
    add(finding.text, finding.accepted);
    if (!finding.accepted) lines.back().label = "found";
  }
  return lines;
}

NoteEntry entryOf(const DeliveredFile& file, std::size_t number) {
  NoteEntry entry;
  entry.number = std::to_string(number);
  entry.file = file.file;
  if (!file.made.span.empty()) entry.what.push_back(file.made.span);
  entry.what.push_back(file.made.source);
  if (file.made.place.sessionRate > 0)
    entry.place = "at " + timeText(file.made.place.start, file.made.place.sessionRate);
  entry.length = lengthText(file.frames, file.made.rate);
  entry.form = formText(file);
  entry.level = file.isThere ? levelText(file.levels) : "not there";
  entry.loop = loopText(file);
  entry.remarks = remarksOf(file);
  entry.checksum = file.sha256;
  if (!file.picture.empty()) entry.picture = &file.picture;
  return entry;
}

void addWhere(std::vector<NoteLine>& lines, const char* label, const std::string& text) {
  if (!text.empty()) lines.push_back({label, text});
}

std::string editionText(const DeliveredEdition& brief) {
  if (!brief.edition) return {};
  return std::to_string(brief.edition->version) + " of " + dateText(brief.edition->date);
}

std::string nameOf(const DeliveredEdition& brief) {
  return brief.words.name.empty() ? brief.words.brief : brief.words.name;
}

/// Of what all briefs say, where they say the same.
std::string common(const Delivery& delivery, std::string DeliveredBrief::*text) {
  for (const DeliveredEdition& brief : delivery.briefs)
    if (brief.words.*text != delivery.briefs.front().words.*text) return {};
  return delivery.briefs.empty() ? std::string() : delivery.briefs.front().words.*text;
}

void addParagraphs(std::vector<std::string>& paragraphs, const std::string& text) {
  std::size_t from = 0;
  while (from < text.size()) {
    const std::size_t end = std::min(text.find('\n', from), text.size());
    if (end > from) paragraphs.push_back(text.substr(from, end - from));
    from = end + 1;
  }
}

std::string sessionText(const Delivery& delivery) {
  std::vector<std::string> names = delivery.sessions();
  for (std::string& name : names) name = name.substr(0, name.rfind(".octaphon"));
  return listed(names);
}

NoteSection sectionOf(const Delivery& delivery, std::size_t index) {
  const DeliveredEdition& brief = delivery.briefs[index];
  NoteSection section;
  section.title = nameOf(brief);
  const auto own = [&](const char* label, std::string DeliveredBrief::*text) {
    if (common(delivery, text).empty()) addWhere(section.lines, label, brief.words.*text);
  };
  own("Title", &DeliveredBrief::title);
  own("For", &DeliveredBrief::client);
  own("Credit", &DeliveredBrief::credit);
  own("Notes", &DeliveredBrief::notes);
  addWhere(section.lines, "Edition", editionText(brief));
  addWhere(section.lines, "What it is", brief.words.sentence);
  for (const DeliveredFile& file : delivery.files)
    if (file.brief == index) section.entries.push_back(entryOf(file, section.entries.size() + 1));
  return section;
}

std::vector<NoteLine> checksOf(const Delivery& delivery) {
  const std::size_t found = delivery.findings(), accepted = delivery.accepted();
  std::vector<NoteLine> lines;
  lines.push_back({"Checked", counted(delivery.files.size(), "file") +
                                  " read back: format, length, channels, sound, levels, texts, marks, loops, "
                                  "sums"});
  lines.push_back({"Found", found == 0 ? "nothing" : counted(found, "finding")});
  if (accepted > 0) lines.push_back({"Accepted", counted(accepted, "finding")});
  for (const FileFinding& finding : delivery.strangers)
    lines.push_back({finding.accepted ? "accepted" : "found", finding.text});
  return lines;
}

}  // namespace

Note noteOf(const Delivery& delivery) {
  Note note;
  note.title = common(delivery, &DeliveredBrief::title);
  const std::string session = sessionText(delivery);
  if (note.title.empty()) note.title = session.empty() ? "Delivery" : session;
  for (const DeliveredEdition& brief : delivery.briefs)
    if (brief.edition) note.date = std::max(note.date, dateText(brief.edition->date));
  addWhere(note.lines, "For", common(delivery, &DeliveredBrief::client));
  addWhere(note.lines, "Credit", common(delivery, &DeliveredBrief::credit));
  addWhere(note.lines, "From session", session);
  addParagraphs(note.text, common(delivery, &DeliveredBrief::notes));
  for (std::size_t i = 0; i < delivery.briefs.size(); ++i) note.sections.push_back(sectionOf(delivery, i));
  note.totals = {{"Files", groupedText(delivery.files.size())},
                 {"Length", timeText(static_cast<Frame>(std::llround(delivery.seconds() * 1000)), 1000)},
                 {"Size", groupedText(delivery.bytes()) + " bytes"}};
  note.checks = checksOf(delivery);
  return note;
}

}  // namespace octaphon
