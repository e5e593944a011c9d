#include "app/prepare/names_model.h"

#include <algorithm>
#include <map>

#include "app/look/theme.h"
#include "app/work/text.h"
#include "base/unicode.h"

namespace octaphon::app {
namespace {

/// Runs `act` on the ends of a region or clip set.
template <class Act>
void withEnds(Session& session, const NamedThing& thing, const Act& act) {
  const auto isIt = [&](const auto& each) { return each.id == thing.id && !each.lock; };
  const auto change = [&](auto& each) { act(each.ends); };
  if (thing.kind == NamedKind::Region) changeWhere(session.regions, isIt, change);
  if (thing.kind == NamedKind::ClipSet) changeWhere(session.clipSets, isIt, change);
}

}  // namespace

void NamesModel::show(std::vector<NamedThing> things, std::vector<Renaming> preview) {
  const bool sameRows =
      std::equal(things.begin(), things.end(), things_.begin(), things_.end(),
                 [](const NamedThing& a, const NamedThing& b) { return a.kind == b.kind && a.id == b.id; });
  if (!sameRows) beginResetModel();
  things_ = std::move(things);
  preview_ = std::move(preview);
  std::map<std::pair<NamedKind, std::string_view>, const OwnEnds*> ends;
  for (const Region& region : document_.session()->regions)
    ends[{NamedKind::Region, region.id}] = &region.ends;
  for (const ClipSet& set : document_.session()->clipSets) ends[{NamedKind::ClipSet, set.id}] = &set.ends;
  ends_.assign(things_.size(), {});
  for (std::size_t i = 0; i < things_.size(); ++i)
    if (const auto found = ends.find({things_[i].kind, things_[i].id}); found != ends.end())
      ends_[i] = *found->second;
  if (!sameRows)
    endResetModel();
  else if (!things_.empty())
    emit dataChanged(index(0, 0), index(rowCount() - 1, columnCount() - 1));
}

int NamesModel::rowCount(const QModelIndex& parent) const {
  return parent.isValid() ? 0 : static_cast<int>(things_.size());
}

int NamesModel::columnCount(const QModelIndex& parent) const {
  if (parent.isValid()) return 0;
  const bool hasEnds = !things_.empty() && (things_.front().kind == NamedKind::Region ||
                                            things_.front().kind == NamedKind::ClipSet);
  return kColumns + (hasEnds ? static_cast<int>(editableOwnEnds().size()) : 0);
}

const EditableField<OwnEnds>* NamesModel::fieldOf(int column) {
  return column < kColumns ? nullptr : &editableOwnEnds()[static_cast<std::size_t>(column - kColumns)];
}

QVariant NamesModel::ownEnd(std::size_t row, const EditableField<OwnEnds>& field, int role) const {
  OwnEnds ends = ends_[row];
  if (const auto* number = std::get_if<EditableField<OwnEnds>::OptionalNumber>(&field.control)) {
    if (role != Qt::DisplayRole && role != Qt::EditRole) return {};
    const std::optional<double> value = number->in(ends);
    return value ? QVariant(text(plainNumber(*value))) : QVariant(QString());
  }
  const auto& oneOf = std::get<EditableField<OwnEnds>::OneOf>(field.control);
  const std::size_t option = oneOf.get(ends);
  if (role == Qt::DisplayRole) return option == 0 ? QString() : text(oneOf.options[option].label);
  if (role == Qt::EditRole) return static_cast<int>(option);
  if (role != kChoicesRole) return {};
  QStringList choices;
  for (const auto& each : oneOf.options) choices << text(each.label);
  return choices;
}

/// What a value typed, chosen or pasted changes; null where it is none. An empty number is none: as the
/// brief.
static std::function<void(OwnEnds&)> changeTo(const EditableField<OwnEnds>& field, const QVariant& value) {
  if (const auto* number = std::get_if<EditableField<OwnEnds>::OptionalNumber>(&field.control)) {
    bool isNumber = false;
    const QString typed = value.toString().trimmed();
    const double wanted = QString(typed).replace(',', '.').toDouble(&isNumber);
    if (!typed.isEmpty() && !isNumber) return {};
    const NumberKind range = number->range.number;
    return [=, in = number->in](OwnEnds& ends) {
      in(ends) = typed.isEmpty() ? std::nullopt : std::optional(std::clamp(wanted, range.least, range.most));
    };
  }
  const auto& oneOf = std::get<EditableField<OwnEnds>::OneOf>(field.control);
  bool isPlace = false;
  std::size_t option = static_cast<std::size_t>(std::max(0, value.toInt(&isPlace)));
  const std::string words = value.toString().trimmed().toStdString();
  for (std::size_t i = 0; !isPlace && i < oneOf.options.size(); ++i)
    if (words == oneOf.options[i].label) option = i, isPlace = true;
  if ((!isPlace && !words.empty()) || option >= oneOf.options.size()) return {};
  return [option, set = oneOf.set](OwnEnds& ends) { set(ends, option); };
}

bool NamesModel::setOwnEnd(const NamedThing& thing, const EditableField<OwnEnds>& field,
                           const QVariant& value) {
  const auto change = changeTo(field, value);
  return change &&
         document_.edit(tr("%1 of %2").arg(QObject::tr(field.label), text(printable(thing.name, 40))),
                        [&](Session& session) { withEnds(session, thing, change); });
}

void NamesModel::pasteOwnEnds(const QModelIndex& from, const QStringList& values) {
  const EditableField<OwnEnds>& field = *fieldOf(from.column());
  document_.edit(tr("Paste %1").arg(QObject::tr(field.label)), [&](Session& session) {
    for (int i = 0; i < values.size() && from.row() + i < rowCount(); ++i)
      if (const auto change = changeTo(field, values[i].section('\t', 0, 0)))
        withEnds(session, things_[static_cast<std::size_t>(from.row() + i)], change);
  });
}

QVariant NamesModel::data(const QModelIndex& index, int role) const {
  const auto row = static_cast<std::size_t>(index.row());
  if (const auto* field = fieldOf(index.column())) {
    if (role == Qt::ForegroundRole) return colour(Role::Ink);
    return role == Qt::TextAlignmentRole ? QVariant(Qt::AlignVCenter | Qt::AlignRight)
                                         : ownEnd(row, *field, role);
  }
  const Renaming* after = row < preview_.size() ? &preview_[row] : nullptr;
  const bool changes = after != nullptr && after->skipped.empty();
  if (role == Qt::FontRole && index.column() != Why) return Theme::mono();
  if (role == Qt::ForegroundRole)
    return colour(index.column() == After && changes ? Role::Accent
                  : index.column() == Name           ? Role::Ink
                                                     : Role::SecondInk);
  if (role == Qt::EditRole) return text(things_[row].name);
  if (role != Qt::DisplayRole && role != Qt::ToolTipRole) return {};
  switch (index.column()) {
    case Name: return things_[row].name.empty() ? tr("(no name)") : text(things_[row].name);
    case After: return changes ? text(after->after) : QVariant();
    case Why: return things_[row].lock ? tr("locked") : after != nullptr ? text(after->skipped) : QVariant();
    default: return {};
  }
}

QVariant NamesModel::headerData(int section, Qt::Orientation orientation, int role) const {
  if (orientation == Qt::Vertical) return {};
  if (const auto* field = fieldOf(section)) {
    if (role == Qt::TextAlignmentRole) return QVariant(Qt::AlignVCenter | Qt::AlignRight);
    if (role == Qt::ToolTipRole)
      return tr("%1 of its own; empty: as the brief says").arg(QObject::tr(field->label));
    if (role != Qt::DisplayRole) return {};
    const auto* number = std::get_if<EditableField<OwnEnds>::OptionalNumber>(&field->control);
    const QString words = QObject::tr(field->label).toLower();
    return number == nullptr ? words : words + QString(", %1").arg(number->range.number.unit);
  }
  if (role != Qt::DisplayRole) return {};
  return section == Name ? tr("name") : section == After ? tr("becomes") : tr("left as it is");
}

Qt::ItemFlags NamesModel::flags(const QModelIndex& index) const {
  const bool isEdited = index.column() == Name || fieldOf(index.column()) != nullptr;
  const bool editable = isEdited && !things_[static_cast<std::size_t>(index.row())].lock;
  return QAbstractTableModel::flags(index) | (editable ? Qt::ItemIsEditable : Qt::NoItemFlags);
}

bool NamesModel::setData(const QModelIndex& index, const QVariant& value, int role) {
  if (role != Qt::EditRole) return false;
  const NamedThing thing = things_[static_cast<std::size_t>(index.row())];
  if (const auto* field = fieldOf(index.column())) return setOwnEnd(thing, *field, value);
  if (index.column() != Name) return false;
  const std::string name = value.toString().toStdString();
  if (name == thing.name) return true;
  return document_.edit(tr("Rename %1").arg(text(printable(thing.name, 40))), [&](Session& session) {
    applyNames(session, {{thing, name, {}}});
  });
}

}  // namespace octaphon::app
