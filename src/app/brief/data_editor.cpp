// What files say of themselves: a line for each text, free facts, and what else is written.
#include <QGridLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QToolButton>

#include "app/brief/phrase_editor.h"
#include "app/look/first_focus.h"
#include "app/look/icons.h"
#include "app/look/theme.h"
#include "naming/template.h"

namespace octaphon::app {
namespace {

/// Red ink where a template cannot be read, with the reason as its tip.
void showMistake(QLineEdit* line) {
  const auto mistake = Template::mistakeIn(line->text().toStdString(), TemplateUse::Text);
  line->setProperty("wrong", mistake.has_value());
  line->setToolTip(mistake ? text(mistake->text + ". " + mistake->cure) : QString());
  line->style()->unpolish(line);
  line->style()->polish(line);
}

class DataEditor : public PhraseEditor {
 public:
  DataEditor(Work& work, QWidget* parent) : PhraseEditor(PhraseKind::Data, work, parent) {
    grid_ = new QGridLayout;
    grid_->setHorizontalSpacing(8);
    grid_->setVerticalSpacing(2);
    grid_->setColumnStretch(1, 1);
    layout_->addLayout(grid_);
    for (const EditableField<Brief>& field : editableFields())
      if (field.phrase == PhraseKind::Data &&
          std::holds_alternative<EditableField<Brief>::Text>(field.control))
        addText(field);
    facts_ = new QVBoxLayout;
    facts_->setSpacing(2);
    layout_->addLayout(facts_);
    auto* add = new QPushButton(tr("Another fact"), this);
    add->setObjectName("quiet");
    layout_->addWidget(add, 0, Qt::AlignLeft);
    connect(add, &QPushButton::clicked, this, [this] {
      change(tr("Add a fact"), [](InsideData& inside) {
        if (inside.facts.size() < kMaxDataFacts)
          inside.facts.push_back({"fact " + std::to_string(inside.facts.size() + 1), {}});
      });
      if (!lines_.empty()) {
        lines_.back().name->setFocus();
        lines_.back().name->selectAll();
      }
    });
    addFlags();
    addNote(text(phraseInfo(PhraseKind::Data).note));
  }

  void refresh() override {
    PhraseEditor::refresh();
    const Brief& brief = briefs_.now();
    for (const auto& [line, get] : texts_) {
      const QString now = text(get(brief));
      if (line->text() != now) line->setText(now);
      showMistake(line);
    }
    showFacts(brief.data.facts);
  }

 private:
  void change(const QString& words, const std::function<void(InsideData&)>& change,
              const QString& property = {}) {
    briefs_.change(
        words, [&](Brief& brief) { change(brief.data); }, property);
  }

  void addText(const EditableField<Brief>& field) {
    const auto in = std::get<EditableField<Brief>::Text>(field.control).in;
    auto* line = new QLineEdit(this);
    line->setFont(Theme::mono());
    line->setAccessibleName(text(field.label));
    auto* label = new QLabel(text(field.label), this);
    label->setBuddy(line);
    label->setFont(Theme::caption());
    const int row = grid_->rowCount();
    grid_->addWidget(label, row, 0);
    grid_->addWidget(line, row, 1);
    if (firstFocusOf(this) == nullptr) setFirstFocus(this, line);
    const QString property = QString("data/") + field.key;
    connect(line, &QLineEdit::textEdited, this, [this, in, property](const QString& typed) {
      briefs_.change(
          tr("Change what files say"), [&](Brief& brief) { in(brief) = typed.toStdString(); }, property);
    });
    texts_.emplace_back(line, [in](const Brief& brief) {
      Brief copy = brief;
      return in(copy);
    });
  }

  /// What is no text is as in other phrases.
  void addFlags() {
    const FieldTarget<Brief> target{
        [this]() -> const Brief& { return briefs_.now(); },
        [this](const QString& words, const std::function<void(Brief&)>& change, const QString& property) {
          briefs_.change(words, change, property);
        }};
    for (const EditableField<Brief>& field : editableFields())
      if (field.phrase == PhraseKind::Data &&
          !std::holds_alternative<EditableField<Brief>::Text>(field.control))
        controls_.add(field, target, *briefs_.session());
  }

  // --- facts

  struct FactLine {
    QWidget* widget;
    QLineEdit *name, *value;
  };

  void showFacts(const std::vector<DataFact>& facts) {
    while (lines_.size() > facts.size()) {
      lines_.back().widget->hide();
      lines_.back().widget->deleteLater();
      lines_.pop_back();
    }
    while (lines_.size() < facts.size()) addFactLine();
    for (std::size_t i = 0; i < facts.size(); ++i) {
      if (lines_[i].name->text() != text(facts[i].name)) lines_[i].name->setText(text(facts[i].name));
      if (lines_[i].value->text() != text(facts[i].value)) lines_[i].value->setText(text(facts[i].value));
      showMistake(lines_[i].value);
    }
  }

  void addFactLine() {
    const std::size_t i = lines_.size();
    auto* widget = new QWidget(this);
    auto* row = new QHBoxLayout(widget);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(6);
    const auto line = [&](const QString& name, std::string DataFact::*member, int stretch) {
      auto* made = new QLineEdit(widget);
      made->setAccessibleName(name);
      made->setPlaceholderText(name);
      row->addWidget(made, stretch);
      connect(made, &QLineEdit::textEdited, this, [this, i, member](const QString& typed) {
        change(
            tr("Change a fact"),
            [&](InsideData& inside) {
              const bool isEmptyName = member == &DataFact::name && typed.trimmed().isEmpty();
              if (i < inside.facts.size() && !isEmptyName) inside.facts[i].*member = typed.toStdString();
            },
            QString("data/fact/%1").arg(i));
      });
      return made;
    };
    QLineEdit* name = line(tr("fact"), &DataFact::name, 2);
    QLineEdit* value = line(tr("what it says"), &DataFact::value, 3);
    value->setFont(Theme::mono());
    auto* remove = new QToolButton(widget);
    keepIcon(remove, "remove");
    remove->setAccessibleName(tr("Take the fact out"));
    remove->setToolTip(remove->accessibleName());
    row->addWidget(remove);
    connect(remove, &QToolButton::clicked, this, [this, i] {
      change(tr("Take a fact out"), [i](InsideData& inside) {
        if (i < inside.facts.size())
          inside.facts.erase(inside.facts.begin() + static_cast<std::ptrdiff_t>(i));
      });
    });
    facts_->addWidget(widget);
    widget->show();
    lines_.push_back({widget, name, value});
  }

  QGridLayout* grid_;
  QVBoxLayout* facts_;
  std::vector<std::pair<QLineEdit*, std::function<std::string(const Brief&)>>> texts_;
  std::vector<FactLine> lines_;
};

}  // namespace

PhraseEditor* makeDataEditor(Work& work, QWidget* parent) { return new DataEditor(work, parent); }

}  // namespace octaphon::app
