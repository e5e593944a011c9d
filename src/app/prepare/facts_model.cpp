#include "app/prepare/facts_model.h"

#include <algorithm>

#include "app/look/theme.h"
#include "app/work/selection.h"
#include "app/work/text.h"
#include "base/text_table.h"
#include "base/unicode.h"
#include "edit/facts.h"
#include "session/vocabulary.h"

namespace octaphon::app {

void FactsModel::show(const QString& words, const QStringList& more) {
  const Session& session = *document_.session();
  beginResetModel();
  facts_ = factNames(session);
  for (const QString& fact : more)
    if (std::find(facts_.begin(), facts_.end(), fact.toStdString()) == facts_.end())
      facts_.push_back(fact.toStdString());
  lines_.clear();
  const std::string sought = foldedName(words.trimmed().toStdString());
  const auto add = [&](const auto& thing) {
    if (foldedName(thing.name).find(sought) != std::string::npos)
      lines_.push_back(
          {thing.id, thing.name, thing.facts, session.factsOf(thing.name, thing.facts), thing.lock});
  };
  std::vector<const Region*> regions;
  for (const Region& region : session.regions) regions.push_back(&region);
  std::stable_sort(regions.begin(), regions.end(),
                   [](const Region* a, const Region* b) { return a->start < b->start; });
  for (const Region* region : regions) add(*region);
  for (const ClipSet& set : session.clipSets) add(set);
  endResetModel();
}

std::size_t FactsModel::outside() const {
  std::size_t count = 0;
  for (const Line& line : lines_)
    for (const auto& [name, value] : line.all) count += isAllowed(*document_.session(), name, value) ? 0 : 1;
  return count;
}

int FactsModel::rowCount(const QModelIndex& parent) const {
  return parent.isValid() ? 0 : static_cast<int>(lines_.size());
}

std::string FactsModel::valueAt(const QModelIndex& index) const {
  const Facts& all = lines_[static_cast<std::size_t>(index.row())].all;
  const auto found = all.find(factOf(index.column()));
  return found == all.end() ? std::string() : found->second;
}

QVariant FactsModel::data(const QModelIndex& index, int role) const {
  const Line& line = lines_[static_cast<std::size_t>(index.row())];
  if (index.column() == 0) {
    if (role == Qt::DisplayRole || role == Qt::ToolTipRole) return text(line.name);
    return {};
  }
  const Session& session = *document_.session();
  const std::string& fact = factOf(index.column());
  const std::string value = valueAt(index);
  const bool isOwn = line.own.contains(fact);
  const VocabularyFact* known = vocabularyOf(session, fact);
  switch (role) {
    case Qt::DisplayRole:
    case Qt::EditRole: return text(value);
    case Qt::ForegroundRole:
      if (!isAllowed(session, fact, value)) return colour(Role::Fault);
      return isOwn ? QVariant() : QVariant(colour(Role::SecondInk));
    case Qt::ToolTipRole:
      if (!isAllowed(session, fact, value)) return tr("The vocabulary does not have this");
      return isOwn || value.empty() ? QVariant() : QVariant(tr("From its path"));
    case kValuesRole: {
      QStringList values;
      if (known != nullptr)
        for (const VocabularyValue& one : known->values) values << text(one.value);
      return values;
    }
    case kMeaningsRole: {
      QStringList meanings;
      if (known != nullptr)
        for (const VocabularyValue& one : known->values) meanings << text(one.meaning);
      return meanings;
    }
    default: return {};
  }
}

QVariant FactsModel::headerData(int section, Qt::Orientation orientation, int role) const {
  if (orientation != Qt::Horizontal) return {};
  if (section == 0) return role == Qt::DisplayRole ? QVariant(tr("Region or clip set")) : QVariant();
  const VocabularyFact* known = vocabularyOf(*document_.session(), factOf(section));
  if (role == Qt::DisplayRole) return text(factOf(section));
  if (role == Qt::ToolTipRole && known != nullptr && !known->meaning.empty()) return text(known->meaning);
  return {};
}

Qt::ItemFlags FactsModel::flags(const QModelIndex& index) const {
  const Qt::ItemFlags flags = QAbstractTableModel::flags(index);
  const bool isLocked = lines_[static_cast<std::size_t>(index.row())].isLocked;
  return index.column() == 0 || isLocked ? flags : flags | Qt::ItemIsEditable;
}

bool FactsModel::setData(const QModelIndex& index, const QVariant& value, int role) {
  if (role != Qt::EditRole || index.column() == 0) return false;
  const std::string typed = value.toString().trimmed().toStdString();
  if (typed == valueAt(index)) return false;
  const std::string id = idOf(index.row()), fact = factOf(index.column());
  return document_.edit(tr("Set a fact"), [&](Session& session) { setFact(session, id, fact, typed); });
}

void FactsModel::paste(const QModelIndex& from, const QString& text) {
  struct Cell {
    std::string id, fact, value;
  };
  std::vector<Cell> cells;
  int row = from.row();
  for (const TableRow& line : tableRows(text.toStdString())) {
    for (std::size_t i = 0; i < line.cells.size(); ++i) {
      const int column = std::max(1, from.column()) + static_cast<int>(i);
      if (row < rowCount() && column < columnCount())
        cells.push_back({idOf(row), factOf(column), line.cells[i]});
    }
    ++row;
  }
  document_.edit(tr("Paste facts"), [&](Session& session) {
    for (const Cell& cell : cells) setFact(session, cell.id, cell.fact, cell.value);
  });
}

void FactsModel::clear(const QModelIndexList& cells) {
  std::vector<std::pair<std::string, std::string>> gone;
  for (const QModelIndex& cell : cells)
    if (cell.column() > 0) gone.emplace_back(idOf(cell.row()), factOf(cell.column()));
  document_.edit(tr("Clear facts"), [&](Session& session) {
    for (const auto& [id, fact] : gone) setFact(session, id, fact, {});
  });
}

}  // namespace octaphon::app
