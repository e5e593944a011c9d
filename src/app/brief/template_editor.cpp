// What goes into a template: fields with their values for a row, filters, saved templates, abbreviations, and
// ways out of what is wrong.
#include <algorithm>
#include <QComboBox>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QLineEdit>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QTreeWidget>

#include "app/brief/name_examples.h"
#include "app/brief/phrase_editor.h"
#include "app/look/first_focus.h"
#include "app/look/theme.h"
#include "app/work/saved_templates.h"
#include "app/work/text.h"
#include "naming/template.h"
#include "plan/name_cures.h"
#include "plan/row_names.h"
#include "routing/track_tree.h"

namespace octaphon::app {
namespace {

constexpr int kIsFilter = Qt::UserRole + 1;
constexpr int kRowsShown = 10;

class TemplateEditor : public PhraseEditor {
 public:
  TemplateEditor(Work& work, QWidget* parent)
      : PhraseEditor(PhraseKind::Template, work, parent), work_(work) {
    wrong_ = new QLabel(this);
    wrong_->setWordWrap(true);
    layout_->addWidget(wrong_);
    cures_ = new QVBoxLayout;
    cures_->setSpacing(2);
    layout_->addLayout(cures_);
    layout_->addWidget(new NameExamples(work, this));
    layout_->addSpacing(4);
    addSaved();
    addWords();
    addAbbreviations();
    addNote(
        tr("Return puts the line in at the cursor. < > makes a part drop out where a field in it is empty; / "
           "makes "
           "folders."));
    setFirstFocus(this, search_);
    connect(&work.sheets(), &SheetKeeper::sheetChanged, this, [this] { refresh(); });
    connect(&work.rows(), &RowChoice::changed, this, [this] { showValues(); });
  }

  void refresh() override {
    PhraseEditor::refresh();
    showSaved();
    showCures();
    showValues();
    showAbbreviations();
  }

 protected:
  void keyPressEvent(QKeyEvent* event) override {
    const bool isReturn = event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter;
    if (isReturn && (search_->hasFocus() || words_->hasFocus())) return insertCurrent();
    if (isReturn && savedName_->hasFocus()) return keepIt();
    if (event->key() == Qt::Key_Down && search_->hasFocus()) return words_->setFocus(Qt::TabFocusReason);
    PhraseEditor::keyPressEvent(event);
  }

 private:
  // --- saved templates

  void addSaved() {
    auto* line = new QWidget(this);
    auto* row = new QHBoxLayout(line);
    row->setContentsMargins(0, 0, 0, 0);
    saved_ = new QComboBox(line);
    saved_->setAccessibleName(tr("Saved templates"));
    saved_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    row->addWidget(saved_, 1);
    forget_ = new QPushButton(tr("Forget"), line);
    forget_->setObjectName("quiet");
    forget_->setAccessibleName(tr("Forget this saved template"));
    row->addWidget(forget_);
    layout_->addWidget(line);
    connect(saved_, &QComboBox::activated, this, [this](int index) {
      const QString format = saved_->itemData(index).toString();
      if (!format.isEmpty()) setFormat(tr("Take a saved template"), format);
    });
    connect(forget_, &QPushButton::clicked, this, [this] {
      templates::forget(saved_->currentText());
      showSaved();
    });
    auto* keepLine = new QWidget(this);
    auto* keepRow = new QHBoxLayout(keepLine);
    keepRow->setContentsMargins(0, 0, 0, 0);
    savedName_ = new QLineEdit(keepLine);
    savedName_->setAccessibleName(tr("Name to keep the template under"));
    savedName_->setPlaceholderText(tr("keep this one as …"));
    keep_ = new QPushButton(tr("Keep"), keepLine);
    keep_->setObjectName("quiet");
    keepRow->addWidget(savedName_, 1);
    keepRow->addWidget(keep_);
    layout_->addWidget(keepLine);
    connect(keep_, &QPushButton::clicked, this, [this] { keepIt(); });
    connect(savedName_, &QLineEdit::textChanged, keep_,
            [this](const QString& name) { keep_->setEnabled(!name.trimmed().isEmpty()); });
    keep_->setEnabled(false);
  }

  void keepIt() {
    if (templates::keep(savedName_->text().trimmed(), text(briefs_.now().names.format)))
      savedName_->clear();
    else
      savedName_->selectAll();
    showSaved();
  }

  void showSaved() {
    const QString format = text(briefs_.now().names.format);
    const QList<templates::SavedTemplate> all = templates::all();
    fillSaved(all);
    const auto found = std::find_if(
        all.begin(), all.end(), [&](const templates::SavedTemplate& each) { return each.format == format; });
    saved_->setCurrentIndex(found == all.end() ? 0 : static_cast<int>(found - all.begin()) + 1);
    forget_->setVisible(found != all.end() && !found->isOurs);
  }

  /// Anew only where they are others: the list may be open.
  void fillSaved(const QList<templates::SavedTemplate>& all) {
    QStringList wanted;
    for (const templates::SavedTemplate& each : all) wanted << each.name << each.format;
    if (wanted == filledSaved_) return;
    filledSaved_ = wanted;
    saved_->clear();
    saved_->addItem(tr("Saved templates"));
    for (const templates::SavedTemplate& each : all) {
      saved_->addItem(each.name, each.format);
      saved_->setItemData(saved_->count() - 1, each.format, Qt::ToolTipRole);
    }
  }

  void setFormat(const QString& words, const QString& format) {
    briefs_.change(words, [&](Brief& brief) { brief.names.format = format.toStdString(); });
  }

  // --- fields and filters

  void addWords() {
    search_ = new QLineEdit(this);
    search_->setAccessibleName(tr("Find a field or filter"));
    search_->setPlaceholderText(tr("find a field or filter"));
    search_->setClearButtonEnabled(true);
    layout_->addWidget(search_);
    words_ = new QTreeWidget(this);
    words_->setAccessibleName(tr("Fields and filters"));
    words_->setColumnCount(2);
    words_->setHeaderHidden(true);
    words_->setRootIsDecorated(false);
    words_->setUniformRowHeights(true);
    words_->setFixedHeight(kRowsShown * words_->fontMetrics().lineSpacing() + kRowsShown * 4 + 2);
    words_->setEditTriggers(QTreeWidget::NoEditTriggers);
    words_->header()->setSectionResizeMode(0, QHeaderView::ResizeToContents);
    for (const NameFieldInfo& info : kNameFields) {
      const QString name = text(info.name) + (info.hasLevel ? "1" : "") +
                           (info.argument == FieldArgument::Key ? ":place" : "");
      addWord("{" + name + "}", name, text(info.meaning), false);
    }
    for (const FilterInfo& info : kFilters)
      addWord("|" + text(info.example), text(info.example), text(info.meaning), true);
    layout_->addWidget(words_);
    connect(search_, &QLineEdit::textChanged, this, [this] { filterWords(); });
    connect(words_, &QTreeWidget::itemDoubleClicked, this, [this] { insertCurrent(); });
    words_->setCurrentItem(words_->topLevelItem(0));
  }

  void addWord(const QString& shown, const QString& word, const QString& meaning, bool isFilter) {
    auto* item = new QTreeWidgetItem(words_, {shown, meaning});
    item->setFont(0, Theme::mono());
    item->setToolTip(0, meaning);
    item->setToolTip(1, meaning);
    item->setData(0, Qt::UserRole, word);
    item->setData(0, kIsFilter, isFilter);
  }

  void filterWords() {
    QTreeWidgetItem* first = nullptr;
    for (int i = 0; i < words_->topLevelItemCount(); ++i) {
      QTreeWidgetItem* item = words_->topLevelItem(i);
      const QString all = item->text(0) + " " + item->toolTip(0);
      const bool fits = all.contains(search_->text().trimmed(), Qt::CaseInsensitive);
      item->setHidden(!fits);
      if (fits && first == nullptr) first = item;
    }
    words_->setCurrentItem(first);
  }

  void insertCurrent() {
    const QTreeWidgetItem* item = words_->currentItem();
    if (item == nullptr || item->isHidden()) return;
    emit insertWanted(item->data(0, Qt::UserRole).toString(), item->data(0, kIsFilter).toBool());
  }

  /// The selected row of the brief, or its first.
  std::optional<std::size_t> rowToShow() const {
    const Sheet& sheet = *work_.sheets().sheet();
    const auto isOurs = [&](std::size_t row) {
      return sheet.briefOf(sheet.rows[row]).brief.id == briefs_.now().id;
    };
    if (const auto chosen = work_.rows().currentRow(); chosen && isOurs(*chosen)) return chosen;
    for (const PlannedBrief& brief : sheet.briefs)
      if (brief.brief.id == briefs_.now().id && brief.rowCount > 0) return brief.firstRow;
    return std::nullopt;
  }

  void showValues() {
    const auto row = rowToShow();
    const auto session = work_.sheets().session();
    std::vector<std::string> values(kNameFields.size());
    if (row && session) values = fieldValues(*work_.sheets().sheet(), *row, *session, TrackTree(*session));
    for (std::size_t i = 0; i < values.size(); ++i) {
      QTreeWidgetItem* item = words_->topLevelItem(static_cast<int>(i));
      item->setText(1, values[i].empty() ? QStringLiteral("–") : text(values[i]));
      item->setForeground(1, colour(values[i].empty() ? Role::SecondInk : Role::Ink));
    }
    const auto tip = row ? text(work_.sheets().sheet()->rows[*row].file) : QString();
    words_->setStatusTip(tip);
  }

  // --- ways out

  void showCures() {
    const auto mistake = Template::mistakeIn(briefs_.now().names.format);
    wrong_->setText(mistake ? text(mistake->text + ". " + mistake->cure) : QString());
    wrong_->setVisible(mistake.has_value());
    QPalette palette = wrong_->palette();
    palette.setColor(QPalette::WindowText, colour(Role::Fault));
    wrong_->setPalette(palette);
    const Sheet& sheet = *work_.sheets().sheet();
    std::vector<NameCure> found;
    for (std::size_t i = 0; i < sheet.briefs.size(); ++i)
      if (sheet.briefs[i].brief.id == briefs_.now().id)
        found = nameCures(sheet, i, briefs_.now().names.format);
    QStringList words;
    for (const NameCure& cure : found) words << text(cure.words);
    if (words == shownCures_) return;
    shownCures_ = words;
    while (QLayoutItem* item = cures_->takeAt(0)) {
      item->widget()->hide();
      item->widget()->deleteLater();
      delete item;
    }
    for (const NameCure& cure : found) {
      auto* button = new QPushButton(text(cure.words), this);
      button->setObjectName("quiet");
      button->setToolTip(text(cure.format));
      connect(button, &QPushButton::clicked, this,
              [this, format = text(cure.format)] { setFormat(tr("Change the template"), format); });
      cures_->addWidget(button, 0, Qt::AlignLeft);
    }
  }

  // --- abbreviations

  void addAbbreviations() {
    layout_->addSpacing(4);
    auto* heading = new QLabel(tr("Abbreviations of the session, for {…|short}"), this);
    heading->setFont(Theme::caption());
    heading->setObjectName("second");
    layout_->addWidget(heading);
    short_ = new QPlainTextEdit(this);
    short_->setAccessibleName(tr("Abbreviations"));
    short_->setPlaceholderText(tr("Ambience = Amb, a line each"));
    short_->setFixedHeight(54);
    short_->setTabChangesFocus(true);
    layout_->addWidget(short_);
    connect(short_, &QPlainTextEdit::textChanged, this, [this] {
      const AbbreviationTable table = pairsFrom(short_->toPlainText());
      if (table == work_.session()->abbreviations) return;
      work_.document().edit(
          tr("Change abbreviations"), [&](Session& session) { session.abbreviations = table; },
          "abbreviations");
    });
  }

  void showAbbreviations() {
    const AbbreviationTable& table = work_.session()->abbreviations;
    if (pairsFrom(short_->toPlainText()) == table) return;
    const QSignalBlocker still(short_);
    short_->setPlainText(text(pairsText(table)));
  }

  Work& work_;
  QLabel* wrong_;
  QVBoxLayout* cures_;
  QStringList shownCures_, filledSaved_;
  QComboBox* saved_;
  QPushButton *forget_, *keep_;
  QLineEdit *savedName_, *search_;
  QTreeWidget* words_;
  QPlainTextEdit* short_;
};

}  // namespace

PhraseEditor* makeTemplateEditor(Work& work, QWidget* parent) { return new TemplateEditor(work, parent); }

}  // namespace octaphon::app
