#include "app/brief/template_highlighter.h"

#include "app/look/theme.h"
#include "naming/template.h"

namespace octaphon::app {
namespace {

bool isDoubled(const QString& text, qsizetype i) { return i + 1 < text.size() && text[i + 1] == text[i]; }

/// The brace that ends the field which begins at `open`, quotes passed over; the text's end where none does.
qsizetype endOfField(const QString& text, qsizetype open) {
  bool isQuoted = false;
  for (qsizetype i = open + 1; i < text.size(); ++i) {
    if (text[i] == '"') isQuoted = !isQuoted;
    if (text[i] == '}' && !isQuoted) return i;
  }
  return text.size();
}

}  // namespace

void TemplateHighlighter::highlightBlock(const QString& text) {
  QTextCharFormat sign;
  sign.setForeground(colour(Role::SecondInk));
  for (qsizetype i = 0; i < text.size(); ++i) {
    if ((text[i] == '{' || text[i] == '}') && isDoubled(text, i)) {
      ++i;
    } else if (text[i] == '{') {
      const qsizetype close = endOfField(text, i);
      colourField(text, i, close);
      i = close;
    } else if (text[i] == '<' || text[i] == '>' || text[i] == '/') {
      setFormat(static_cast<int>(i), 1, sign);
    }
  }
  underlineMistake(text);
}

/// The field in accent ink, filters in the ink of what wants attention, so that both are told apart.
void TemplateHighlighter::colourField(const QString& text, qsizetype open, qsizetype close) {
  QTextCharFormat field, filter;
  field.setForeground(colour(Role::Accent));
  filter.setForeground(colour(Role::Attention));
  setFormat(static_cast<int>(open), static_cast<int>(std::min(close + 1, text.size()) - open), field);
  bool isQuoted = false;
  for (qsizetype i = open; i < close; ++i) {
    if (text[i] == '"') isQuoted = !isQuoted;
    if (text[i] != '|' || isQuoted) continue;
    setFormat(static_cast<int>(i), static_cast<int>(close - i), filter);
    return;
  }
}

void TemplateHighlighter::underlineMistake(const QString& text) {
  const QByteArray bytes = text.toUtf8();
  const auto mistake = Template::mistakeIn(bytes.toStdString());
  if (!mistake) return;
  const auto place = [&](std::size_t byte) {
    return static_cast<int>(QString::fromUtf8(bytes.left(static_cast<qsizetype>(byte))).size());
  };
  const int begin = place(mistake->position);
  const int end = std::max(begin + 1, place(mistake->position + mistake->length));
  QTextCharFormat wrong;
  wrong.setForeground(colour(Role::Fault));
  wrong.setFontUnderline(true);
  setFormat(begin, end - begin, wrong);
}

qsizetype openFieldAt(const QString& text, qsizetype at) {
  for (qsizetype i = 0; i < at; ++i) {
    if (text[i] == '{' && isDoubled(text, i) && i + 1 < at) {
      ++i;
    } else if (text[i] == '{') {
      const qsizetype close = endOfField(text, i);
      if (close >= at) return i + 1;
      i = close;
    }
  }
  return -1;
}

}  // namespace octaphon::app
