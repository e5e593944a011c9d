// What a brief changes on the way: of all tracks, or of one that goes its own way.
#include <QComboBox>
#include <QPushButton>

#include "app/brief/phrase_editor.h"
#include "app/look/first_focus.h"
#include "app/look/theme.h"
#include "plan/signal_words.h"
#include "routing/track_tree.h"

namespace octaphon::app {
namespace {

class OverridesEditor : public PhraseEditor {
 public:
  OverridesEditor(Work& work, QWidget* parent) : PhraseEditor(PhraseKind::Overrides, work, parent) {
    whose_ = new QComboBox(this);
    whose_->setAccessibleName(tr("Whose"));
    whose_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    layout_->addWidget(whose_);
    layout_->addSpacing(6);
    connect(whose_, &QComboBox::activated, this, [this] { refresh(); });
    const FieldTarget<Overrides> target{
        [this]() -> const Overrides& { return shown(); },
        [this](const QString& words, const std::function<void(Overrides&)>& change, const QString& property) {
          this->change(words, change, property);
        }};
    for (const EditableField<Overrides>& field : editableOverrides()) {
      QWidget* made = controls_.add(field, target, *briefs_.session());
      if (firstFocusOf(this) == nullptr) setFirstFocus(this, made);
    }
    asAllOthers_ = new QPushButton(tr("As all others"), this);
    asAllOthers_->setObjectName("quiet");
    layout_->addWidget(asAllOthers_, 0, Qt::AlignLeft);
    connect(asAllOthers_, &QPushButton::clicked, this, &OverridesEditor::takeBack);
    ofAll_ = addFields();
    addNote(text(phraseInfo(PhraseKind::Overrides).note));
  }

  void refresh() override {
    fillWhose();
    PhraseEditor::refresh();
    const bool isOne = !chosen().empty();
    for (QWidget* control : ofAll_) control->setVisible(!isOne);
    asAllOthers_->setVisible(isOne);
    asAllOthers_->setEnabled(briefs_.now().exceptionOf(chosen()) != nullptr);
  }

 private:
  std::string chosen() const { return whose_->currentData().toString().toStdString(); }

  /// Strips in the order of the tree; those with overrides of their own stand out.
  void fillWhose() {
    const QString before = whose_->currentData().toString();
    const auto session = briefs_.session();
    whose_->clear();
    const auto add = [&](const QString& words, const std::string& id) {
      whose_->addItem(words, text(id));
      const bool own = briefs_.now().exceptionOf(id) != nullptr;
      whose_->setItemData(whose_->count() - 1, own ? Theme::strong() : Theme::body(), Qt::FontRole);
    };
    add(tr("All tracks"), {});
    const TrackTree tree(*session);
    for (const Strip index : tree.order()) {
      const Track& track = session->tracks[index.track()];
      add(text(track.name), track.id);
    }
    add(tr("Main"), "main");
    whose_->setCurrentIndex(std::max(0, whose_->findData(before)));
  }

  /// What holds for whom the controls are about: its own, the brief's, or none where those do not touch it.
  const Overrides& shown() const { return of(briefs_.now(), chosen()); }
  const Overrides& of(const Brief& brief, const std::string& whose) const {
    static const Overrides kNone;
    if (whose.empty()) return brief.heard.overrides;
    if (const Overrides* own = brief.exceptionOf(whose)) return *own;
    return overridesTouch(brief, findTrack(*briefs_.session(), whose)) ? brief.heard.overrides : kNone;
  }

  void change(const QString& words, const std::function<void(Overrides&)>& change, const QString& property) {
    const std::string whose = chosen();
    briefs_.change(
        tr("Change %1").arg(words.left(1).toLower() + words.mid(1)),
        [&](Brief& brief) {
          Overrides changed = of(brief, whose);
          change(changed);
          if (whose.empty()) {
            brief.heard.overrides = changed;
            return;
          }
          for (TrackException& exception : brief.heard.exceptions)
            if (exception.track == whose) return void(exception.overrides = changed);
          brief.heard.exceptions.push_back({whose, changed});
        },
        property.isEmpty() ? property : property + "/" + text(whose));
  }

  void takeBack() {
    briefs_.change(tr("Take an exception back"), [whose = chosen()](Brief& brief) {
      std::erase_if(brief.heard.exceptions, [&](const TrackException& e) { return e.track == whose; });
    });
  }

  QComboBox* whose_;
  QPushButton* asAllOthers_;
  std::vector<QWidget*> ofAll_;  // how far the brief's own overrides go
};

}  // namespace

PhraseEditor* makeOverridesEditor(Work& work, QWidget* parent) { return new OverridesEditor(work, parent); }

}  // namespace octaphon::app
