#include "app/sheet/columns_dialog.h"

#include <algorithm>
#include <QDialogButtonBox>
#include <QFormLayout>
#include <QKeyEvent>
#include <QPushButton>
#include <QVBoxLayout>

namespace octaphon::app {
namespace {

constexpr int kColumnRole = Qt::UserRole;
constexpr int kNarrowest = 30, kWidest = 2000;  // px

enum Order { kAsItIs, kUp, kDown };

}  // namespace

ColumnsDialog::ColumnsDialog(QHeaderView& header, const QStringList& titles, QWidget* parent)
    : QDialog(parent), header_(header), titles_(titles) {
  setWindowTitle(tr("Columns of the sheet"));
  list_ = new QListWidget(this);
  list_->setAccessibleName(tr("Columns, in their order"));
  list_->setToolTip(tr("Space shows one or hides it, Ctrl+Page up and Ctrl+Page down move it"));
  list_->installEventFilter(this);
  width_ = new QSpinBox(this);
  width_->setRange(kNarrowest, kWidest);
  width_->setSuffix(tr(" px"));
  width_->setAccessibleName(tr("Width of the column"));
  order_ = new QComboBox(this);
  order_->addItems({tr("not by this one"), tr("by this one, upwards"), tr("by this one, downwards")});
  order_->setAccessibleName(tr("Sorted"));
  layOut();
  connect(list_, &QListWidget::itemChanged, this, [this](QListWidgetItem* item) { showOrHide(*item); });
  connect(list_, &QListWidget::currentRowChanged, this, &ColumnsDialog::showCurrent);
  connect(width_, &QSpinBox::valueChanged, this, [this](int width) {
    if (isLoading_ || column() < 0) return;
    header_.resizeSection(column(), width);
    emit changed();
  });
  connect(order_, &QComboBox::currentIndexChanged, this, &ColumnsDialog::sort);
  fill();
  list_->setCurrentRow(0);
}

void ColumnsDialog::layOut() {
  auto* up = new QPushButton(tr("&Up"), this);
  auto* down = new QPushButton(tr("&Down"), this);
  up->setAutoDefault(false);
  down->setAutoDefault(false);
  connect(up, &QPushButton::clicked, this, [this] { move(-1); });
  connect(down, &QPushButton::clicked, this, [this] { move(1); });
  auto* close = new QDialogButtonBox(QDialogButtonBox::Close, this);
  connect(close, &QDialogButtonBox::rejected, this, &QDialog::reject);
  auto* form = new QFormLayout;
  form->addRow(tr("&Width"), width_);
  form->addRow(tr("&Sorted"), order_);
  auto* moves = new QHBoxLayout;
  moves->addWidget(up);
  moves->addWidget(down);
  moves->addStretch();
  auto* layout = new QVBoxLayout(this);
  layout->addWidget(list_, 1);
  layout->addLayout(moves);
  layout->addLayout(form);
  layout->addWidget(close);
  resize(320, 520);
}

void ColumnsDialog::fill() {
  isLoading_ = true;
  const int now = column();
  list_->clear();
  for (int place = 0; place < header_.count(); ++place) {
    const int logical = header_.logicalIndex(place);
    auto* item = new QListWidgetItem(titles_.value(logical), list_);
    item->setData(kColumnRole, logical);
    item->setCheckState(header_.isSectionHidden(logical) ? Qt::Unchecked : Qt::Checked);
    if (logical == 0) item->setFlags(item->flags() & ~Qt::ItemIsUserCheckable);
    if (logical == now) list_->setCurrentItem(item);
  }
  isLoading_ = false;
  showCurrent();
}

int ColumnsDialog::column() const {
  return list_->currentItem() == nullptr ? -1 : list_->currentItem()->data(kColumnRole).toInt();
}

void ColumnsDialog::showOrHide(const QListWidgetItem& item) {
  if (isLoading_) return;
  header_.setSectionHidden(item.data(kColumnRole).toInt(), item.checkState() != Qt::Checked);
  showCurrent();
  emit changed();
}

void ColumnsDialog::move(int by) {
  const int from = header_.visualIndex(column());
  const int to = std::clamp(from + by, 0, header_.count() - 1);
  if (column() < 0 || to == from) return;
  header_.moveSection(from, to);
  fill();
  emit changed();
}

void ColumnsDialog::sort() {
  if (isLoading_ || column() < 0) return;
  if (order_->currentIndex() != kAsItIs)
    header_.setSortIndicator(column(),
                             order_->currentIndex() == kUp ? Qt::AscendingOrder : Qt::DescendingOrder);
  else if (header_.sortIndicatorSection() == column())
    header_.setSortIndicator(-1, Qt::AscendingOrder);
}

void ColumnsDialog::showCurrent() {
  if (isLoading_) return;
  isLoading_ = true;
  const int now = column();
  const bool isShown = now >= 0 && !header_.isSectionHidden(now);
  width_->setEnabled(isShown);
  order_->setEnabled(now >= 0);
  if (isShown) width_->setValue(header_.sectionSize(now));
  const bool isSorted = now >= 0 && header_.sortIndicatorSection() == now;
  order_->setCurrentIndex(!isSorted                                            ? kAsItIs
                          : header_.sortIndicatorOrder() == Qt::AscendingOrder ? kUp
                                                                               : kDown);
  isLoading_ = false;
}

bool ColumnsDialog::eventFilter(QObject* watched, QEvent* event) {
  if (watched != list_ || event->type() != QEvent::KeyPress) return false;
  const auto* key = static_cast<QKeyEvent*>(event);
  const int by = key->key() == Qt::Key_PageUp ? -1 : key->key() == Qt::Key_PageDown ? 1 : 0;
  if (by == 0 || key->modifiers() != Qt::ControlModifier) return false;
  move(by);
  return true;
}

}  // namespace octaphon::app
