// A brief as a sentence whose phrases can be changed; under it what is wrong, and live example names.
#pragma once

#include <array>
#include <map>
#include <memory>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>
#include <QWidget>

#include "elided_label.h"
#include "phrase_editor.h"
#include "plan/sheet.h"

namespace octaphon::app {

class FlowLayout;
class TemplateEdit;

class SentenceView : public QWidget {
  Q_OBJECT
 public:
  explicit SentenceView(QWidget* parent = nullptr);

  void setBrief(const Brief& brief, std::shared_ptr<const Session> session);
  /// Remarks and examples of the brief of this id; shows none while the sheet has no such brief.
  void setSheet(const Sheet& sheet);
  TemplateEdit& templateEdit() { return *template_; }
  /// The button of a phrase; null for plain text and the template.
  QPushButton* phraseButton(PhraseKind kind) const;

 signals:
  void briefEdited(const octaphon::Brief& brief, const QString& words, const QString& merge);

 private:
  QPushButton* newPhrase(PhraseKind kind);
  void build(const std::vector<Phrase>& phrases);
  void addWord(const QString& word);
  void update(const std::vector<Phrase>& phrases);
  void openEditor(PhraseKind kind);
  void showRemarks(const std::vector<Remark>& remarks);
  void chooseExamples(const Sheet& sheet, const PlannedBrief& brief);
  void showExamples(const std::array<const Row*, 3>& rows, const QString& words);

  std::shared_ptr<const Session> session_;
  Brief brief_;
  QWidget* words_;
  FlowLayout* flow_;
  TemplateEdit* template_;
  std::map<PhraseKind, QPushButton*> buttons_;
  QLabel* remarks_;
  struct Example {
    QLabel* caption;
    ElidedLabel* name;
  };
  QLabel* noExample_;
  std::vector<Example> examples_;
};

}  // namespace octaphon::app
