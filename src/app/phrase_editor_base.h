// What the editors of phrases have in common.
#pragma once

#include <QButtonGroup>
#include <QDoubleSpinBox>
#include <QFrame>
#include <QRadioButton>
#include <QVBoxLayout>

#include "phrase_editor.h"

namespace octaphon::app {

/// A pop-up that Return closes too. It changes its own copy of the brief, and hands each change out.
class PhraseEditor : public QFrame {
 public:
  PhraseEditor(const Brief& brief, std::shared_ptr<const Session> session, ApplyBrief apply,
               const QString& title, QWidget* parent);

 protected:
  void keyPressEvent(QKeyEvent* event) override;

  void note(const QString& words);
  void apply(const QString& words, const QString& merge = {}) { apply_(brief_, words, merge); }

  /// One of several values.
  template <class T>
  void choice(T Brief::*member, const std::vector<std::tuple<T, QString, QString>>& choices,
              const QString& words) {
    auto* group = new QButtonGroup(this);
    for (const auto& [value, label, explanation] : choices) {
      auto* button = new QRadioButton(label, this);
      button->setChecked(brief_.*member == value);
      button->setToolTip(explanation);
      group->addButton(button);
      layout_->addWidget(button);
      connect(button, &QRadioButton::toggled, this, [this, member, value = value, words](bool on) {
        if (!on || brief_.*member == value) return;
        brief_.*member = value;
        apply(words);
      });
      if (button->isChecked()) setFocusProxy(button);
    }
  }

  QDoubleSpinBox* number(double Brief::*member, double most, int decimals, const QString& suffix,
                         const QString& name, const QString& words);

  Brief brief_;
  std::shared_ptr<const Session> session_;
  QVBoxLayout* layout_;

 private:
  ApplyBrief apply_;
};

QFrame* makeRegionsEditor(const Brief&, std::shared_ptr<const Session>, ApplyBrief, QWidget* parent);
QFrame* makeSourcesEditor(const Brief&, std::shared_ptr<const Session>, ApplyBrief, QWidget* parent);
QFrame* makeReachEditor(const Brief&, std::shared_ptr<const Session>, ApplyBrief, QWidget* parent);
QFrame* makeOverridesEditor(const Brief&, std::shared_ptr<const Session>, ApplyBrief, QWidget* parent);
QFrame* makeRunUpEditor(const Brief&, std::shared_ptr<const Session>, ApplyBrief, QWidget* parent);

}  // namespace octaphon::app
