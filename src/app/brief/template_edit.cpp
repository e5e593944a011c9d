#include "app/brief/template_edit.h"

#include <QKeyEvent>
#include <QMenu>
#include <QMimeData>
#include <QSyntaxHighlighter>
#include <QTextBlock>

#include "app/look/theme.h"
#include "app/work/text.h"
#include "naming/template.h"

namespace octaphon::app {
namespace {

class TemplateHighlighter : public QSyntaxHighlighter {
 public:
  using QSyntaxHighlighter::QSyntaxHighlighter;

 protected:
  void highlightBlock(const QString& text) override {
    QTextCharFormat field;
    field.setForeground(colour(Role::Accent));
    qsizetype open = -1;
    for (qsizetype i = 0; i < text.size(); ++i) {
      const bool doubled = i + 1 < text.size() && text[i + 1] == text[i];
      if ((text[i] == '{' || text[i] == '}') && doubled && open < 0) {
        ++i;
      } else if (text[i] == '{') {
        open = i;
      } else if (text[i] == '}' && open >= 0) {
        setFormat(static_cast<int>(open), static_cast<int>(i - open + 1), field);
        open = -1;
      }
    }
    underlineMistake(text);
  }

 private:
  void underlineMistake(const QString& text) {
    const auto parsed = Template::parse(text.toStdString());
    if (parsed) return;
    const std::string& place = parsed.error().place;
    const std::size_t number = place.rfind(' ');
    const int byte = number == std::string::npos ? 1 : std::max(1, atoi(place.c_str() + number));
    const auto at = static_cast<int>(QString::fromUtf8(text.toUtf8().left(byte - 1)).size());
    QTextCharFormat wrong;
    wrong.setForeground(colour(Role::Fault));
    wrong.setFontUnderline(true);
    setFormat(at, std::max(1, static_cast<int>(text.size()) - at), wrong);
  }
};

}  // namespace

TemplateEdit::TemplateEdit(QWidget* parent) : QPlainTextEdit(parent) {
  setFont(Theme::mono());
  setAccessibleName(tr("Naming template"));
  setLineWrapMode(NoWrap);
  setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  setTabChangesFocus(true);
  setUndoRedoEnabled(false);  // the session's history has it
  setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
  document()->setDocumentMargin(1);
  auto* highlighter = new TemplateHighlighter(document());
  connect(&Theme::instance(), &Theme::changed, highlighter, &QSyntaxHighlighter::rehighlight);
  connect(this, &QPlainTextEdit::textChanged, this, [this] { emit edited(toPlainText()); });
  setContextMenuPolicy(Qt::CustomContextMenu);
  connect(this, &QWidget::customContextMenuRequested, this, &TemplateEdit::showMenu);
  QStringList fields;
  for (const NameFieldInfo& info : kNameFields)
    fields << QString("{%1}  %2").arg(app::text(info.name), app::text(info.meaning));
  setToolTip(tr("Fields, also in the context menu:\n") + fields.join('\n') +
             tr("\n{n:2} has two digits; / makes folders"));
}

void TemplateEdit::setText(const QString& text) {
  if (text == toPlainText()) return;
  const QSignalBlocker blocker(this);
  setPlainText(text);
}

QSize TemplateEdit::sizeHint() const { return {200, QFontMetrics(font()).height() + 14}; }

bool TemplateEdit::event(QEvent* event) {
  if (event->type() == QEvent::ShortcutOverride) {
    const auto* key = static_cast<QKeyEvent*>(event);
    const bool history = key->key() == Qt::Key_Z || key->key() == Qt::Key_Y;
    if (history && (key->modifiers() & Qt::ControlModifier)) {
      event->ignore();
      return false;
    }
  }
  return QPlainTextEdit::event(event);
}

void TemplateEdit::keyPressEvent(QKeyEvent* event) {
  if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter) {
    event->ignore();
    return;
  }
  QPlainTextEdit::keyPressEvent(event);
}

void TemplateEdit::insertFromMimeData(const QMimeData* source) {
  insertPlainText(source->text().simplified());
}

void TemplateEdit::insertField(const QString& field) { insertPlainText("{" + field + "}"); }

void TemplateEdit::showMenu(const QPoint& at) {
  std::unique_ptr<QMenu> menu(createStandardContextMenu());
  menu->addSeparator();
  for (const NameFieldInfo& info : kNameFields) {
    const QString name = app::text(info.name);
    const QString meaning = app::text(info.meaning);
    menu->addAction(tr("Insert {%1}: %2").arg(name, meaning), this, [this, name] { insertField(name); });
  }
  menu->exec(mapToGlobal(at));
}

}  // namespace octaphon::app
