#include "app/sheet/sheet_model.h"

#include <algorithm>
#include <numeric>

#include "app/look/state_mark.h"
#include "app/look/theme.h"
#include "app/work/text.h"

namespace octaphon::app {
namespace {

/// The first of the gravest; the end where there is none.
auto gravestOf(const std::vector<Remark>& remarks) {
  return std::max_element(remarks.begin(), remarks.end(),
                          [](const Remark& a, const Remark& b) { return a.severity < b.severity; });
}

QVariant remarkColour(const std::vector<Remark>& remarks) {
  const auto gravest = gravestOf(remarks);
  if (gravest == remarks.end()) return {};
  switch (gravest->severity) {
    case Severity::Fault: return colour(Role::Fault);
    case Severity::Warning: return colour(Role::Attention);
    case Severity::Note: break;
  }
  return colour(Role::SecondInk);
}

QString allRemarks(const std::vector<Remark>& remarks) {
  QStringList lines;
  for (const Remark& remark : remarks)
    lines << text(severityName(remark.severity)) + ": " + text(remark.text);
  return lines.join("\n");
}

}  // namespace

QString remarkSummary(const std::vector<Remark>& remarks) {
  const auto gravest = gravestOf(remarks);
  if (gravest == remarks.end()) return {};
  QString words = text(remarkName(gravest->code));
  words.replace('-', ' ');
  return remarks.size() > 1 ? words + QString(" +%1").arg(remarks.size() - 1) : words;
}

/// Whether row `i` of one sheet stands for the same file as row `i` of another.
static bool isSameRow(const Sheet& before, const Sheet& after, std::size_t i) {
  const Row &a = before.rows[i], &b = after.rows[i];
  return a.output == b.output && before.briefOf(a).brief.id == after.briefOf(b).brief.id &&
         before.spanOf(a).kind == after.spanOf(b).kind && before.spanOf(a).id == after.spanOf(b).id &&
         before.sourceOf(a).kind == after.sourceOf(b).kind && before.sourceOf(a).id == after.sourceOf(b).id;
}

void SheetModel::setSheet(std::shared_ptr<const Sheet> sheet) {
  bool same = sheet->rows.size() == sheet_->rows.size();
  for (std::size_t i = 0; same && i < sheet->rows.size(); ++i) same = isSameRow(*sheet_, *sheet, i);
  if (!same) beginResetModel();
  sheet_ = std::move(sheet);
  if (!same) {
    order_ = ordered();
    endResetModel();
  } else if (!filter_.isEmpty() || sortColumn_ >= 0) {
    reorder();
  }
  if (same && !order_.empty()) emit dataChanged(index(0, 0), index(rowCount() - 1, kColumns - 1));
}

void SheetModel::setFilter(const QString& words) {
  filter_ = words.split(' ', Qt::SkipEmptyParts);
  beginResetModel();
  order_ = ordered();
  endResetModel();
}

void SheetModel::sort(int column, Qt::SortOrder order) {
  sortColumn_ = column;
  sortOrder_ = order;
  reorder();
}

void SheetModel::reorder() {
  std::vector<std::size_t> now = ordered();
  if (now == order_) return;
  emit layoutAboutToBeChanged();
  const QModelIndexList before = persistentIndexList();
  const std::vector<std::size_t> old = std::exchange(order_, std::move(now));
  QModelIndexList after;
  for (const QModelIndex& one : before) {
    const int row = viewRow(old[static_cast<std::size_t>(one.row())]);
    after << (row < 0 ? QModelIndex() : index(row, one.column()));
  }
  changePersistentIndexList(before, after);
  emit layoutChanged();
}

std::vector<std::size_t> SheetModel::ordered() const {
  std::vector<std::size_t> order;
  order.reserve(sheet_->rows.size());
  for (std::size_t i = 0; i < sheet_->rows.size(); ++i) {
    const Row& row = sheet_->rows[i];
    const auto has = [&](const QString& word) {
      for (const int column : {File, Region, Source, State, RemarkText})
        if (textOf(row, column).contains(word, Qt::CaseInsensitive)) return true;
      return false;
    };
    if (std::all_of(filter_.begin(), filter_.end(), has)) order.push_back(i);
  }
  if (sortColumn_ < 0) return order;
  const auto number = [&](const Row& row) {
    switch (sortColumn_) {
      case Start: return row.start;
      case LeadIn: return row.extent.leadIn;
      case Tail: return row.extent.tail;
      case Length: return atRate(row.frames(), row.rate, sheet_->rate);
      case Rate: return static_cast<Frame>(row.rate);
      case Channels: return static_cast<Frame>(row.channels);
      default: return static_cast<Frame>(row.state);
    }
  };
  constexpr int kNumbers[]{Start, LeadIn, Tail, Length, Channels, Rate, State};
  const bool byNumber =
      std::find(std::begin(kNumbers), std::end(kNumbers), sortColumn_) != std::end(kNumbers);
  std::vector<QString> keys;
  if (!byNumber) {
    keys.resize(sheet_->rows.size());
    for (const std::size_t i : order) keys[i] = textOf(sheet_->rows[i], sortColumn_).toCaseFolded();
  }
  const auto before = [&](std::size_t a, std::size_t b) {
    return byNumber ? number(sheet_->rows[a]) < number(sheet_->rows[b]) : keys[a] < keys[b];
  };
  if (sortOrder_ == Qt::AscendingOrder)
    std::stable_sort(order.begin(), order.end(), before);
  else
    std::stable_sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) { return before(b, a); });
  return order;
}

int SheetModel::viewRow(std::size_t sheetRow) const {
  const auto found = std::find(order_.begin(), order_.end(), sheetRow);
  return found == order_.end() ? -1 : static_cast<int>(found - order_.begin());
}

int SheetModel::rowCount(const QModelIndex& parent) const {
  return parent.isValid() ? 0 : static_cast<int>(order_.size());
}
int SheetModel::columnCount(const QModelIndex& parent) const { return parent.isValid() ? 0 : kColumns; }

QString SheetModel::textOf(const Row& row, int column) const {
  switch (column) {
    case File: return row.file.empty() ? tr("(no name)") : text(row.file);
    case Region: return text(sheet_->spanOf(row).name);
    case Source: return text(sheet_->sourceOf(row).name);
    case Heard: {  // short, where it is the usual way
      const std::string_view heard = sheet_->sourceOf(row).heard;
      return text(heard.starts_with("through ") ? heard.substr(8) : heard);
    }
    case Start: return text(timeText(row.start, sheet_->rate));
    case LeadIn: return row.extent.leadIn == 0 ? QString() : text(timeText(row.extent.leadIn, row.rate));
    case Tail: return tailText(row);
    case Length: return text(sheet_->lengthText(row));
    case Rate: return tr("%1 kHz").arg(row.rate / 1000.0);
    case Channels: return text(channelText(row.channels));
    case Format: return text(encodingInfo(row.encoding).text);
    case State: return text(rowStateText(row.state));
    case RemarkText: return remarkSummary(sheet_->remarksOf(row));
    default: return {};
  }
}

/// Short: the tip says what rings out.
QString SheetModel::tailText(const Row& row) const {
  if (row.isMeasured) return sheet_->spanOf(row).ringsOut ? tr("rings out") : tr("trimmed");
  const double seconds = static_cast<double>(row.extent.tail) / row.rate;
  if (seconds >= 60) return text(timeText(row.extent.tail, row.rate));
  const QString words = seconds == 0 ? QString() : tr("%1 s").arg(seconds, 0, 'f', 3);
  const RungOut& heard = sheet_->briefOf(row).rungOut[sheet_->soundOf(row).span];
  return sheet_->spanOf(row).ringsOut && heard.isKept && heard.byLimit ? words + tr(", limit") : words;
}

QVariant SheetModel::alignment(int column) const {
  const bool right =
      column == Start || column == Length || column == LeadIn || column == Tail || column == Rate;
  return static_cast<int>(Qt::AlignVCenter | (right ? Qt::AlignRight : Qt::AlignLeft));
}

QVariant SheetModel::data(const QModelIndex& index, int role) const {
  const Row& row = sheet_->rows[sheetRow(index.row())];
  switch (role) {
    case Qt::DisplayRole:
      if (const QString* ahead = index.column() == File && namesAhead_ != nullptr
                                     ? namesAhead_->fileOf(*sheet_, sheetRow(index.row()))
                                     : nullptr)
        return ahead->isEmpty() ? tr("(no name)") : *ahead;
      return textOf(row, index.column());
    case Qt::TextAlignmentRole: return alignment(index.column());
    case Qt::FontRole: return index.column() == File ? QVariant(Theme::mono()) : QVariant();
    case Qt::ToolTipRole:
      return index.column() == RemarkText                         ? allRemarks(sheet_->remarksOf(row))
             : index.column() == Heard                            ? text(sheet_->sourceOf(row).heard)
             : index.column() == Tail || index.column() == Length ? text(sheet_->endsText(row))
                                                                  : textOf(row, index.column());
    case kStateRole: return static_cast<int>(row.state);
    case Qt::ForegroundRole:
      if (index.column() == RemarkText) return remarkColour(sheet_->remarksOf(row));
      return index.column() == File || index.column() == State ? QVariant() : QVariant(colour(Role::Ink));
    default: return {};
  }
}

QVariant SheetModel::headerData(int section, Qt::Orientation orientation, int role) const {
  if (orientation != Qt::Horizontal) return {};
  if (role == Qt::TextAlignmentRole) return alignment(section);
  if (role != Qt::DisplayRole) return {};
  switch (section) {
    case File: return tr("File");
    case Region: return tr("Region");
    case Source: return tr("Source");
    case Heard: return tr("Heard");
    case Start: return tr("Start");
    case LeadIn: return tr("Lead-in");
    case Tail: return tr("Tail");
    case Length: return tr("Length");
    case Rate: return tr("Rate");
    case Channels: return tr("Channels");
    case Format: return tr("Format");
    case State: return tr("State");
    case RemarkText: return tr("Remark");
    default: return {};
  }
}

}  // namespace octaphon::app
