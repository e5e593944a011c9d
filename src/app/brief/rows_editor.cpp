// The rows of a brief that have something of their own, in one list.
#include <QLabel>
#include <QPushButton>
#include <QTreeWidget>

#include "app/brief/phrase_editor.h"
#include "app/look/first_focus.h"
#include "app/look/theme.h"
#include "brief/row_marks.h"
#include "plan/own_rows.h"

namespace octaphon::app {
namespace {

constexpr int kKeyRole = Qt::UserRole;

class RowsEditor : public PhraseEditor {
 public:
  RowsEditor(Work& work, QWidget* parent) : PhraseEditor(PhraseKind::Rows, work, parent), work_(work) {
    list_ = new QTreeWidget(this);
    list_->setAccessibleName(title());
    list_->setRootIsDecorated(false);
    list_->setHeaderLabels({tr("Row"), tr("Its own")});
    list_->setSelectionMode(QAbstractItemView::ExtendedSelection);
    list_->setFixedHeight(150);
    list_->setTextElideMode(Qt::ElideMiddle);
    list_->setColumnWidth(0, 140);
    layout_->addWidget(list_);
    back_ = new QPushButton(tr("As the brief says again"), this);
    back_->setObjectName("quiet");
    layout_->addWidget(back_, 0, Qt::AlignLeft);
    addNote(text(phraseInfo(PhraseKind::Rows).note));
    setFirstFocus(this, list_);
    connect(back_, &QPushButton::clicked, this, &RowsEditor::takeBack);
    connect(list_, &QTreeWidget::itemSelectionChanged, this, [this] { showButton(); });
    connect(list_, &QTreeWidget::itemActivated, this, [this](const QTreeWidgetItem* item) {
      const std::string key = item->data(0, kKeyRole).toString().toStdString();
      work_.rows().show(key);
      work_.places().goToRow(key);
    });
    connect(&work.sheets(), &SheetKeeper::sheetChanged, this, [this] { refresh(); });
  }

  void refresh() override {
    PhraseEditor::refresh();
    const Brief& brief = briefs_.now();
    const std::vector<QString> files = filesOf(brief);
    list_->clear();
    for (std::size_t i = 0; i < brief.rowExceptions.size(); ++i) {
      const RowException& own = brief.rowExceptions[i];
      const std::string key = brief.id + "/" + own.row;
      auto* item = new QTreeWidgetItem(
          list_, {files[i].isEmpty() ? tr("%1 (not there now)").arg(text(own.row)) : files[i],
                  text(exceptionText(own))});
      item->setData(0, kKeyRole, text(key));
      item->setToolTip(0, item->text(0));
      item->setToolTip(1, item->text(1));
    }
    showButton();
  }

 private:
  /// Of its exceptions, as far as the sheet has them.
  std::vector<QString> filesOf(const Brief& brief) const {
    std::vector<QString> files(brief.rowExceptions.size());
    const Sheet& sheet = *work_.sheets().sheet();
    for (const Row& row : sheet.rows)
      if (row.exception && *row.exception < files.size() && sheet.briefOf(row).brief.id == brief.id)
        files[*row.exception] = text(row.file);
    return files;
  }

  void showButton() {
    const auto chosen = list_->selectedItems().size();
    back_->setEnabled(list_->topLevelItemCount() > 0);
    back_->setText(chosen == 0 ? tr("All as the brief says again")
                               : tr("%1 as the brief says again").arg(chosen));
  }

  void takeBack() {
    std::vector<std::string> keys;
    for (int i = 0; i < list_->topLevelItemCount(); ++i)
      if (list_->selectedItems().isEmpty() || list_->topLevelItem(i)->isSelected())
        keys.push_back(list_->topLevelItem(i)->data(0, kKeyRole).toString().toStdString());
    work_.document().editBriefs({briefs_.now().id}, tr("Take exceptions back"),
                                [&](Brief& brief) { dropExceptions(brief, keys); });
  }

  Work& work_;
  QTreeWidget* list_;
  QPushButton* back_;
};

}  // namespace

PhraseEditor* makeRowsEditor(Work& work, QWidget* parent) { return new RowsEditor(work, parent); }

}  // namespace octaphon::app
