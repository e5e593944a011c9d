#include "app/prepare/facts_panel.h"

#include <QApplication>
#include <QClipboard>
#include <QComboBox>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QKeyEvent>
#include <QMenu>
#include <QPushButton>
#include <QStyledItemDelegate>
#include <QVBoxLayout>

#include "app/look/first_focus.h"
#include "app/look/theme.h"
#include "app/work/file_writing.h"
#include "app/work/text.h"
#include "base/files.h"
#include "base/text_table.h"
#include "base/unicode.h"
#include "exchange/region_table.h"
#include "exchange/vocabulary_table.h"

namespace octaphon::app {
namespace {

/// Where the vocabulary has values they are chosen from a list, which takes other words too.
class FactDelegate : public QStyledItemDelegate {
 public:
  using QStyledItemDelegate::QStyledItemDelegate;

  QWidget* createEditor(QWidget* parent, const QStyleOptionViewItem& option,
                        const QModelIndex& index) const override {
    const QStringList values = index.data(kValuesRole).toStringList();
    if (values.isEmpty()) return QStyledItemDelegate::createEditor(parent, option, index);
    auto* box = new QComboBox(parent);
    box->setEditable(true);
    box->setInsertPolicy(QComboBox::NoInsert);
    box->addItems(values);
    const QStringList meanings = index.data(kMeaningsRole).toStringList();
    for (int i = 0; i < meanings.size(); ++i) box->setItemData(i, meanings[i], Qt::ToolTipRole);
    connect(box, &QComboBox::activated, this, [this, box] {
      emit const_cast<FactDelegate*>(this)->commitData(box);
      emit const_cast<FactDelegate*>(this)->closeEditor(box);
    });
    return box;
  }
  void setEditorData(QWidget* editor, const QModelIndex& index) const override {
    if (auto* box = qobject_cast<QComboBox*>(editor))
      box->setCurrentText(index.data(Qt::EditRole).toString());
    else
      QStyledItemDelegate::setEditorData(editor, index);
  }
  void setModelData(QWidget* editor, QAbstractItemModel* model, const QModelIndex& index) const override {
    if (auto* box = qobject_cast<QComboBox*>(editor))
      model->setData(index, box->currentText());
    else
      QStyledItemDelegate::setModelData(editor, model, index);
  }
};

}  // namespace

FactsPanel::FactsPanel(Work& work, QWidget* parent) : QWidget(parent), work_(work) {
  setObjectName("pane");
  layOut();
  timer_.setSingleShot(true);
  timer_.setInterval(40);
  connect(&timer_, &QTimer::timeout, this, &FactsPanel::reload);
  const auto later = [this] { timer_.start(); };
  connect(&work_.document(), &Document::changed, this, later);
  connect(&work_.document(), &Document::opened, this, [this, later] {
    more_.clear();
    later();
  });
  connect(filter_, &QLineEdit::textChanged, this, later);
}

void FactsPanel::layOut() {
  filter_ = new QLineEdit(this);
  filter_->setPlaceholderText(tr("Part of a name"));
  filter_->setAccessibleName(tr("Show only names with"));
  filter_->setClearButtonEnabled(true);
  filter_->setMaximumWidth(180);
  name_ = new QLineEdit(this);
  name_->setPlaceholderText(tr("Another fact"));
  name_->setAccessibleName(tr("Name of another fact"));
  name_->setMaximumWidth(150);
  auto* add = new QPushButton(tr("Add column"), this);
  vocabulary_ = new QPushButton(tr("Vocabulary"), this);
  vocabulary_->setAccessibleName(tr("Vocabulary"));
  auto* menu = new QMenu(vocabulary_);
  menu->addAction(tr("Take it from a table …"), this, &FactsPanel::bringVocabulary);
  menu->addAction(tr("Write it as a table …"), this, &FactsPanel::writeVocabularyTable);
  vocabulary_->setMenu(menu);
  words_ = new QLabel(this);
  table_ = new QTableView(this);
  table_->setAccessibleName(tr("Facts of regions and clip sets"));
  model_ = new FactsModel(work_.document(), this);
  table_->setModel(model_);
  table_->setItemDelegate(new FactDelegate(table_));
  table_->horizontalHeader()->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
  table_->verticalHeader()->hide();
  table_->verticalHeader()->setDefaultSectionSize(24);
  table_->setShowGrid(false);
  table_->setEditTriggers(QAbstractItemView::DoubleClicked | QAbstractItemView::EditKeyPressed |
                          QAbstractItemView::AnyKeyPressed);
  table_->installEventFilter(this);
  auto* row = new QHBoxLayout;
  row->addWidget(filter_);
  row->addWidget(name_);
  row->addWidget(add);
  row->addWidget(vocabulary_);
  row->addWidget(words_, 1);
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(14, 8, 14, 0);
  layout->addLayout(row);
  layout->addWidget(table_, 1);
  setFirstFocus(this, table_);
  connect(add, &QPushButton::clicked, this, &FactsPanel::addFact);
  connect(name_, &QLineEdit::returnPressed, this, &FactsPanel::addFact);
}

void FactsPanel::showEvent(QShowEvent* event) {
  QWidget::showEvent(event);
  reload();
}

/// The cell that is chosen stays it.
void FactsPanel::reload() {
  const QWidget* focus = QApplication::focusWidget();
  const bool isEditing = focus != nullptr && table_->viewport()->isAncestorOf(focus);
  if (!isVisible() || isEditing) return;
  const QModelIndex now = table_->currentIndex();
  const bool isFirst = model_->columnCount() <= 1;
  model_->show(filter_->text(), more_);
  if (isFirst) table_->setColumnWidth(0, 240);
  for (int column = 1; column < model_->columnCount() && isFirst; ++column)
    table_->setColumnWidth(column, 130);
  if (now.isValid()) table_->setCurrentIndex(model_->index(now.row(), now.column()));
  const std::size_t outside = model_->outside();
  words_->setText(outside > 0 ? tr("%1 outside the vocabulary").arg(text(counted(outside, "value")))
                  : model_->columnCount() == 1
                      ? tr("No facts yet: add a column, or take a vocabulary from a table")
                      : QString());
}

void FactsPanel::addFact() {
  const QString name = name_->text().trimmed();
  if (name.isEmpty()) return name_->setFocus();
  if (!more_.contains(name)) more_ << name;
  name_->clear();
  reload();
  for (int column = 1; column < model_->columnCount(); ++column)
    if (model_->factOf(column) == name.toStdString() && model_->rowCount() > 0)
      table_->setCurrentIndex(model_->index(std::max(0, table_->currentIndex().row()), column));
  table_->setFocus();
}

bool FactsPanel::eventFilter(QObject* watched, QEvent* event) {
  if (watched != table_ || event->type() != QEvent::KeyPress) return QWidget::eventFilter(watched, event);
  auto* key = static_cast<QKeyEvent*>(event);
  if (key->matches(QKeySequence::Copy)) {
    copy();
    return true;
  }
  if (key->matches(QKeySequence::Paste) && table_->currentIndex().isValid()) {
    model_->paste(table_->currentIndex(), QApplication::clipboard()->text());
    return true;
  }
  if (key->key() == Qt::Key_Delete) {
    model_->clear(table_->selectionModel()->selectedIndexes());
    return true;
  }
  return QWidget::eventFilter(watched, event);
}

/// The selected cells, with tabs, as spreadsheets take them.
void FactsPanel::copy() const {
  QModelIndexList cells = table_->selectionModel()->selectedIndexes();
  std::sort(cells.begin(), cells.end());
  QString lines;
  for (int i = 0; i < cells.size(); ++i) {
    if (i > 0) lines += cells[i].row() == cells[i - 1].row() ? "\t" : "\n";
    lines += text(tableCell(cells[i].data().toString().toStdString()));
  }
  QApplication::clipboard()->setText(lines);
}

void FactsPanel::bringVocabulary() {
  const QString file =
      QFileDialog::getOpenFileName(this, tr("Take the vocabulary from"), {}, tr("Tables (*.csv)"));
  if (file.isEmpty()) return;
  const auto bytes = readFile(file.toStdString(), kMaxTableBytes);
  const auto vocabulary = bytes ? readVocabulary(*bytes, file.toStdString())
                                : Result<std::vector<VocabularyFact>>(tl::unexpected(bytes.error()));
  if (!vocabulary) return work_.news().tell(text(vocabulary.error().describe()));
  work_.document().edit(tr("Take a vocabulary"), [&](Session& session) { session.vocabulary = *vocabulary; });
  work_.news().say(tr("The vocabulary has %1").arg(text(counted(vocabulary->size(), "fact"))));
}

void FactsPanel::writeVocabularyTable() {
  const auto session = work_.session();
  const QString file =
      QFileDialog::getSaveFileName(this, tr("Write the vocabulary to"),
                                   text(session->displayName()) + " vocabulary.csv", tr("Tables (*.csv)"));
  if (file.isEmpty()) return;
  writeFile(
      work_.jobs(), work_.news(), file, [session] { return writeVocabulary(session->vocabulary); },
      tr("The vocabulary is written to %1").arg(QFileInfo(file).fileName()));
}

}  // namespace octaphon::app
