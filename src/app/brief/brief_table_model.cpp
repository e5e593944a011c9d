#include "app/brief/brief_table_model.h"

#include <algorithm>

#include "app/look/theme.h"
#include "app/work/text.h"

namespace octaphon::app {

BriefTableModel::BriefTableModel(Work& work, QObject* parent) : QAbstractTableModel(parent), work_(work) {
  connect(&work.document(), &Document::opened, this, &BriefTableModel::reload);
  connect(&work.document(), &Document::changed, this, &BriefTableModel::reload);
  connect(&work.sheets(), &SheetKeeper::sheetChanged, this, [this] {
    if (isLive_ && rowCount() > 0) emit dataChanged(index(0, Files), index(rowCount() - 1, Files));
  });
}

void BriefTableModel::setLive(bool on) {
  isLive_ = on;
  reload();
}

void BriefTableModel::reload() {
  if (!isLive_) return;
  std::vector<std::vector<Phrase>> sentences;
  for (const Brief& brief : work_.session()->briefs) sentences.push_back(sentenceOf(brief, *work_.session()));
  const bool same = sentences.size() == sentences_.size();
  if (!same) beginResetModel();
  sentences_ = std::move(sentences);
  if (!same)
    endResetModel();
  else if (rowCount() > 0)
    emit dataChanged(index(0, 0), index(rowCount() - 1, columnCount() - 1));
}

/// The phrases that have something to say of their own; the template's letters stand behind it.
PhraseKind BriefTableModel::phraseOf(int column) const {
  const int phrase = column - kFixed + 1;  // the first is none
  return phrase < 1 || phrase >= static_cast<int>(kPhrases.size()) ? PhraseKind::Plain
                                                                   : static_cast<PhraseKind>(phrase);
}

std::string BriefTableModel::briefOf(int row) const {
  const auto& briefs = work_.session()->briefs;
  const auto at = static_cast<std::size_t>(row);
  return at < briefs.size() ? briefs[at].id : std::string();
}

int BriefTableModel::rowCount(const QModelIndex& parent) const {
  return parent.isValid() ? 0 : static_cast<int>(sentences_.size());
}
int BriefTableModel::columnCount(const QModelIndex& parent) const {
  return parent.isValid() ? 0 : kFixed + static_cast<int>(kPhrases.size()) - 1;
}

/// Null where the brief has no such phrase.
const Phrase* BriefTableModel::phraseAt(const QModelIndex& index) const {
  const PhraseKind kind = phraseOf(index.column());
  const auto& phrases = sentences_[static_cast<std::size_t>(index.row())];
  const auto found =
      std::find_if(phrases.begin(), phrases.end(), [&](const Phrase& phrase) { return phrase.kind == kind; });
  return found == phrases.end() ? nullptr : &*found;
}

QVariant BriefTableModel::data(const QModelIndex& index, int role) const {
  const auto& briefs = work_.session()->briefs;
  const auto at = static_cast<std::size_t>(index.row());
  if (at >= briefs.size() || at >= sentences_.size()) return {};
  if (index.column() == On) {
    if (role == Qt::CheckStateRole) return briefs[at].isOn ? Qt::Checked : Qt::Unchecked;
    if (role == Qt::AccessibleTextRole) return text(briefs[at].name);
    return {};
  }
  if (index.column() == Files) {
    if (role == Qt::TextAlignmentRole) return static_cast<int>(Qt::AlignRight | Qt::AlignVCenter);
    if (role != Qt::DisplayRole) return {};
    for (const PlannedBrief& planned : work_.sheets().sheet()->briefs)
      if (planned.brief.id == briefs[at].id) return static_cast<qulonglong>(planned.rowCount);
    return {};
  }
  const Phrase* phrase = phraseAt(index);
  if (phrase == nullptr) return {};
  switch (role) {
    case Qt::DisplayRole:
    case Qt::ToolTipRole: return text(phrase->text);
    case Qt::ForegroundRole: return colour(phrase->isDefault ? Role::SecondInk : Role::Accent);
    case Qt::FontRole:
      return phrase->kind == PhraseKind::Template ? QVariant(Theme::mono()) : QVariant(Theme::body());
    default: return {};
  }
}

QVariant BriefTableModel::headerData(int section, Qt::Orientation orientation, int role) const {
  if (orientation == Qt::Vertical) {
    const auto& briefs = work_.session()->briefs;
    const auto at = static_cast<std::size_t>(section);
    return role == Qt::DisplayRole && at < briefs.size() ? QVariant(text(briefs[at].name)) : QVariant();
  }
  if (role == Qt::TextAlignmentRole) return static_cast<int>(Qt::AlignLeft | Qt::AlignVCenter);
  if (role != Qt::DisplayRole) return {};
  if (section == On) return tr("On");
  if (section == Files) return tr("Files");
  const QString name = text(phraseInfo(phraseOf(section)).name);
  return QString(name.left(1).toUpper() + name.mid(1));
}

Qt::ItemFlags BriefTableModel::flags(const QModelIndex& index) const {
  const Qt::ItemFlags usual = QAbstractTableModel::flags(index);
  return index.column() == On ? usual | Qt::ItemIsUserCheckable : usual;
}

bool BriefTableModel::setData(const QModelIndex& index, const QVariant& value, int role) {
  if (index.column() != On || role != Qt::CheckStateRole) return false;
  work_.briefs().setTicked(briefOf(index.row()), value.toInt() == Qt::Checked);
  return true;
}

}  // namespace octaphon::app
