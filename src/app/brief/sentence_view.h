// A brief as a sentence, in paragraphs, whose phrases are changed where they stand; under it what is wrong,
// and live example names. What is as usual goes without saying until it is asked for.
#pragma once

#include <map>
#include <memory>
#include <QLabel>
#include <QVBoxLayout>
#include <QWidget>
#include <set>

#include "app/brief/phrase_button.h"
#include "app/brief/phrase_editor.h"
#include "plan/sentence.h"

namespace octaphon::app {

class FlowLayout;
class TemplateEdit;

class SentenceView : public QWidget {
  Q_OBJECT
 public:
  explicit SentenceView(Work& work, QWidget* parent = nullptr);

  TemplateEdit& templateEdit() { return *template_; }
  /// The button of a phrase; null for the template, and for what goes without saying.
  PhraseButton* phraseButton(PhraseKind kind) const;
  /// The button that shows, or hides, what is as usual; null where nothing is.
  PhraseButton* usualButton() const { return usual_; }
  /// The editor that is open; null where none is.
  PhraseEditor* editor() const { return editor_; }
  /// Opens the editor of a phrase below it, in place of another; of the template, puts the cursor there.
  void openEditor(PhraseKind kind);
  void closeEditor();
  /// As narrow as its panel: nothing in it makes it scroll sideways.
  QSize minimumSizeHint() const override { return {0, QWidget::minimumSizeHint().height()}; }

 signals:
  /// To be scrolled to, the phrase above all.
  void editorOpened(QWidget* editor, QWidget* phrase);

 protected:
  bool eventFilter(QObject* watched, QEvent* event) override;

 private:
  /// What the sentence is laid out of.
  struct Piece {
    enum class Of { Word, Phrase, Template, Usual, Editor };
    Of of;
    Paragraph paragraph;
    PhraseKind kind = PhraseKind::Plain;
    QString word = {};
    bool operator==(const Piece&) const = default;
  };
  void layOut();
  void connectWork();
  QWidget* addParagraph();
  void follow();
  bool isSaid(const Phrase& phrase) const;
  std::vector<Piece> piecesOf(const std::vector<Phrase>& phrases) const;
  void arrange(const std::vector<Piece>& pieces);
  void place(const Piece& piece, FlowLayout& flow, std::vector<QWidget*>& order);
  PhraseButton* buttonOf(PhraseKind kind);
  void showWords(const std::vector<Phrase>& phrases);
  void showSheet();
  void showRemarks(const std::vector<Remark>& remarks);

  Work& work_;
  EditedBriefs briefs_;
  std::vector<FlowLayout*> paragraphs_;  // by Paragraph
  std::vector<Piece> pieces_;
  TemplateEdit* template_;
  std::map<PhraseKind, PhraseButton*> buttons_;
  PhraseButton* usual_ = nullptr;
  bool unfolded_ = false;  // what is as usual is said too
  std::set<PhraseKind> wrong_;
  PhraseEditor* editor_ = nullptr;
  std::string editedBrief_;  // id
  bool pressedElsewhere_ = false;
  QLabel* remarks_;
};

}  // namespace octaphon::app
