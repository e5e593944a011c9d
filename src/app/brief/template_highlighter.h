// Colours the parts of a naming template, and underlines where it is wrong.
#pragma once

#include <QSyntaxHighlighter>

namespace octaphon::app {

class TemplateHighlighter : public QSyntaxHighlighter {
  Q_OBJECT
 public:
  using QSyntaxHighlighter::QSyntaxHighlighter;

 protected:
  void highlightBlock(const QString& text) override;

 private:
  void colourField(const QString& text, qsizetype open, qsizetype close);
  void underlineMistake(const QString& text);
};

/// Where a field begins that the cursor at `at` is in (behind its brace); −1 where it is in none.
qsizetype openFieldAt(const QString& text, qsizetype at);

}  // namespace octaphon::app
