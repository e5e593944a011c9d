#include "app/sheet/sheet_header.h"

#include <QStyleOption>

namespace octaphon::app {

void SheetHeader::initStyleOptionForIndex(QStyleOptionHeader* option, int section) const {
  const auto said = [&](int role) { return model()->headerData(section, Qt::Horizontal, role); };
  option->section = section;
  option->text = said(Qt::DisplayRole).toString();
  option->textAlignment = Qt::Alignment(said(Qt::TextAlignmentRole).toInt());
  if (isEnabled()) option->state |= QStyle::State_Enabled;
  if (underMouse() && logicalIndexAt(mapFromGlobal(QCursor::pos())) == section)
    option->state |= QStyle::State_MouseOver;
  if (isSortIndicatorShown() && sortIndicatorSection() == section)
    option->sortIndicator = sortIndicatorOrder() == Qt::AscendingOrder ? QStyleOptionHeader::SortDown
                                                                       : QStyleOptionHeader::SortUp;
  option->selectedPosition = QStyleOptionHeader::NotAdjacent;
  option->position = visualIndex(section) == 0             ? QStyleOptionHeader::Beginning
                     : visualIndex(section) == count() - 1 ? QStyleOptionHeader::End
                                                           : QStyleOptionHeader::Middle;
}

}  // namespace octaphon::app
