#include "app/sheet/sheet_columns.h"

#include <cmath>

#include "app/work/text.h"
#include "base/decibels.h"
#include "base/remark_info.h"
#include "plan/row_levels.h"

namespace octaphon::app {
namespace {

constexpr double kLevelUnit = 1000;  // levels are sorted by thousandths

/// Short: the tip says what rings out.
QString tailText(const Sheet& sheet, const Row& row) {
  if (row.isMeasured) return sheet.spanOf(row).ringsOut ? tr("rings out") : tr("trimmed");
  const double seconds = static_cast<double>(row.extent.tail) / row.rate;
  if (seconds >= 60) return text(timeText(row.extent.tail, row.rate));
  const QString words = seconds == 0 ? QString() : tr("%1 s").arg(seconds, 0, 'f', 3);
  const RungOut& heard = sheet.briefOf(row).rungOut[sheet.soundOf(row).span];
  return sheet.spanOf(row).ringsOut && heard.isKept && heard.byLimit ? words + tr(", limit") : words;
}

std::optional<double> levelOf(const Sheet& sheet, const Row& row, int column) {
  const RowLevels known = levelsOf(sheet, row);
  switch (column) {
    case SheetColumns::Gain: return known.gainDb;
    case SheetColumns::Peak: return known.levels.peakDb;
    case SheetColumns::TruePeak: return known.levels.truePeakDb;
    case SheetColumns::Loudness: return known.levels.lufs;
    default: return known.levels.rangeLu;
  }
}

const char* unitOfLevel(int column) {
  switch (column) {
    case SheetColumns::Gain: return "dB";
    case SheetColumns::Peak: return "dBFS";
    case SheetColumns::TruePeak: return "dBTP";
    case SheetColumns::Loudness: return "LUFS";
    default: return "LU";
  }
}

/// Blank where it is not known, or where there is nothing to say; a dash where it cannot be judged.
QString levelText(const Sheet& sheet, const Row& row, int column) {
  const Levels levels = levelsOf(sheet, row).levels;
  const bool isGain = column == SheetColumns::Gain;
  if (isGain && sheet.gainSetOf(sheet.soundOf(row)).asked.changesNothing()) return {};
  if (!isGain && levels.isSilent()) return column == SheetColumns::LoudnessRange ? QString() : tr("silence");
  const std::optional<double> level = levelOf(sheet, row, column);
  const bool isUnjudged = column >= SheetColumns::Loudness && levels.measured.loudness;
  if (!level) return isUnjudged ? QString(QChar(0x2013)) : QString();
  const QString words =
      text((isGain && *level >= 0.05 ? "+" : "") + decibelText(*level) + " " + unitOfLevel(column));
  if (!SheetColumns::showsApart(sheet, row, column)) return words;
  return words +
         QString(" %1%2").arg(QChar(row.apart > 0 ? 0x25B2 : 0x25BC)).arg(std::fabs(row.apart), 0, 'f', 1);
}

template <class Visit>
void forEachRemark(const Sheet& sheet, const Row& row, const Visit& visit) {
  for (const Remark& remark : sheet.soundOf(row).remarks) visit(remark);
  for (const Remark& remark : row.remarks) visit(remark);
}

}  // namespace

QString SheetColumns::title(int column) {
  switch (column) {
    case File: return tr("File");
    case BriefName: return tr("Brief");
    case Region: return tr("Region");
    case Source: return tr("Source");
    case Heard: return tr("Heard");
    case Start: return tr("Start");
    case LeadIn: return tr("Lead-in");
    case Tail: return tr("Tail");
    case Length: return tr("Length");
    case Rate: return tr("Rate");
    case Gain: return tr("Gain");
    case Peak: return tr("Peak");
    case TruePeak: return tr("True peak");
    case Loudness: return tr("Loudness");
    case LoudnessRange: return tr("Range");
    case Channels: return tr("Channels");
    case Format: return tr("Format");
    case State: return tr("State");
    case RemarkText: return tr("Remark");
    default: return {};
  }
}

QString SheetColumns::textOf(const Sheet& sheet, const Row& row, int column) {
  if (isLevel(column)) return levelText(sheet, row, column);
  switch (column) {
    case File: return row.file.empty() ? tr("(no name)") : text(row.file);
    case BriefName: return text(sheet.briefOf(row).brief.name);
    case Region: return text(sheet.spanOf(row).name);
    case Source: return text(sheet.sourceOf(row).name);
    case Heard: {  // short, where it is the usual way
      const std::string_view heard = sheet.sourceOf(row).heard;
      return text(heard.starts_with("through ") ? heard.substr(8) : heard);
    }
    case Start: return text(timeText(row.start, sheet.rate));
    case LeadIn: return row.extent.leadIn == 0 ? QString() : text(timeText(row.extent.leadIn, row.rate));
    case Tail: return tailText(sheet, row);
    case Length: return text(sheet.lengthText(row));
    case Rate: return tr("%1 kHz").arg(row.rate / 1000.0);
    case Channels:
      return row.part > 0 ? text(channelName(row.folded, row.part)) : text(channelText(row.channels));
    case Format: return text(encodingInfo(row.encoding).text);
    case State: return text(rowStateText(row.state));
    case RemarkText: return remarkSummary(sheet, row);
    default: return {};
  }
}

std::optional<Frame> SheetColumns::numberOf(const Sheet& sheet, const Row& row, int column) {
  if (isLevel(column)) {
    const std::optional<double> level = levelOf(sheet, row, column);
    return level ? std::llround(*level * kLevelUnit) : kUnknown;
  }
  switch (column) {
    case Start: return row.start;
    case LeadIn: return atRate(row.extent.leadIn, row.rate, sheet.rate);
    case Tail: return atRate(row.extent.tail, row.rate, sheet.rate);
    case Length: return atRate(row.frames(), row.rate, sheet.rate);
    case Rate: return row.rate;
    case Channels: return row.channels;
    case State: return static_cast<Frame>(row.state);
    default: return std::nullopt;
  }
}

double SheetColumns::unitOf(const Sheet& sheet, int column) {
  if (isLevel(column)) return kLevelUnit;
  return column == Channels ? 1 : column == Rate ? 1000 : sheet.rate;
}

bool SheetColumns::showsApart(const Sheet& sheet, const Row& row, int column) {
  if (std::fabs(row.apart) < kOutOfLine) return false;
  return column == (levelsOf(sheet, row).levels.lufs ? Loudness : Peak);
}

bool SheetColumns::isRight(int column) {
  if (isLevel(column)) return true;
  return column == Start || column == Length || column == LeadIn || column == Tail || column == Rate;
}

const Remark* gravestOf(const Sheet& sheet, const Row& row) {
  const Remark* gravest = nullptr;
  bool counts = false;
  forEachRemark(sheet, row, [&](const Remark& remark) {
    const bool isCounted = sheet.acceptedOf(row, remark) == nullptr;
    if (gravest != nullptr &&
        (counts > isCounted || (counts == isCounted && gravest->severity >= remark.severity)))
      return;
    gravest = &remark;
    counts = isCounted;
  });
  return gravest;
}

QString remarkSummary(const Sheet& sheet, const Row& row) {
  const Remark* gravest = gravestOf(sheet, row);
  if (gravest == nullptr) return {};
  QString words = text(remarkName(gravest->code));
  words.replace('-', ' ');
  if (sheet.acceptedOf(row, *gravest) != nullptr) return tr("accepted: %1").arg(words);
  const std::size_t all = sheet.soundOf(row).remarks.size() + row.remarks.size();
  return all > 1 ? words + QString(" +%1").arg(all - 1) : words;
}

}  // namespace octaphon::app
