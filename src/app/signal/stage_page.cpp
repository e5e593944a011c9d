#include "app/signal/stage_page.h"

#include <QHBoxLayout>

#include "app/look/elided_label.h"
#include "app/look/number_box.h"

namespace octaphon::app {

constexpr int kNameWidth = 92;
constexpr int kFieldWidth = 92;

StagePage::StagePage(Document& document, QWidget* parent) : QWidget(parent), document_(document) {
  setObjectName("pane");
  layout_ = new QVBoxLayout(this);
  layout_->setContentsMargins(0, 2, 0, 2);
  layout_->setSpacing(6);
  room_ = new QWidget(this);
  cells_ = new FlowLayout(room_, 14, 4);
  layout_->addWidget(room_);
}

void StagePage::refresh() {
  isLoading_ = true;
  for (const auto& put : refreshers_) put();
  isLoading_ = false;
}

void StagePage::edit(const QString& words, const Document::Change& change, const QString& merge) {
  if (!isLoading_) document_.edit(words, change, merge);
}

QDoubleSpinBox* StagePage::number(const QString& name, double least, double most, int decimals,
                                  const QString& unit) {
  auto* box = new NumberBox(this);
  box->setRange(least, most);
  box->setDecimals(decimals);
  if (!unit.isEmpty()) box->setSuffix(" " + unit);
  box->setKeyboardTracking(false);
  box->setAccessibleName(name);
  return box;
}

void StagePage::addCell(const QString& name, QWidget* field) {
  auto* cell = new QWidget(room_);
  auto* row = new QHBoxLayout(cell);
  row->setContentsMargins(0, 0, 0, 0);
  row->setSizeConstraint(QLayout::SetFixedSize);
  auto* label = new ElidedLabel(cell);
  label->setFixedWidth(kNameWidth);
  label->setWords(name);
  field->setFixedWidth(kFieldWidth);
  row->addWidget(label);
  row->addWidget(field);
  cells_->addWidget(cell);
}

void StagePage::addCell(QWidget* field) { cells_->addWidget(field); }

}  // namespace octaphon::app
