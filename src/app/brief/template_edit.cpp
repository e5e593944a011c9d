#include "app/brief/template_edit.h"

#include <QAbstractItemView>
#include <QKeyEvent>
#include <QMenu>
#include <QMimeData>
#include <QScrollBar>
#include <QStringListModel>

#include "app/brief/template_highlighter.h"
#include "app/look/icons.h"
#include "app/look/theme.h"
#include "app/work/text.h"
#include "naming/template.h"

namespace octaphon::app {
namespace {

constexpr int kButton = 24;  // pixels of the button at the end

QStringList fieldWords() {
  QStringList words;
  for (const NameFieldInfo& info : kNameFields) words << app::text(info.name) + (info.hasLevel ? "1" : "");
  return words;
}

QStringList filterWords() {
  QStringList words;
  for (const FilterInfo& info : kFilters) words << app::text(info.name);
  return words;
}

}  // namespace

TemplateEdit::TemplateEdit(QWidget* parent)
    : QPlainTextEdit(parent),
      completer_(new QCompleter(new QStringListModel(this), this)),
      words_(new QToolButton(this)) {
  setFont(Theme::mono());
  setAccessibleName(tr("Naming template"));
  setLineWrapMode(NoWrap);
  setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  setTabChangesFocus(true);
  setUndoRedoEnabled(false);  // the session's history has it
  setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
  document()->setDocumentMargin(1);
  keepIcon(words_, "braces");
  words_->setCursor(Qt::ArrowCursor);
  words_->setAccessibleName(tr("Fields, filters and saved templates"));
  words_->setToolTip(words_->accessibleName());
  words_->setFocusPolicy(Qt::NoFocus);  // Return does the same
  setViewportMargins(0, 0, kButton, 0);
  connect(words_, &QToolButton::clicked, this, &TemplateEdit::editorWanted);
  completer_->setWidget(this);
  completer_->setCaseSensitivity(Qt::CaseInsensitive);
  completer_->popup()->setFont(Theme::mono());
  completer_->popup()->setAccessibleName(tr("Fields and filters that go on like this"));
  connect(completer_, qOverload<const QString&>(&QCompleter::activated), this, &TemplateEdit::complete);
  auto* highlighter = new TemplateHighlighter(document());
  connect(&Theme::instance(), &Theme::changed, highlighter, &QSyntaxHighlighter::rehighlight);
  connect(this, &QPlainTextEdit::textChanged, this, [this] {
    emit edited(toPlainText());
    if (isTyping_) offerWords();
  });
  setContextMenuPolicy(Qt::CustomContextMenu);
  connect(this, &QWidget::customContextMenuRequested, this, &TemplateEdit::showMenu);
  setToolTip(
      tr("Text with {fields}, {field|filter} and <parts that drop out>; / makes folders. Return opens the "
         "list of them all"));
}

void TemplateEdit::setText(const QString& text) {
  if (text == toPlainText()) return;
  const QSignalBlocker blocker(this);
  setPlainText(text);
  moveCursor(QTextCursor::End);
  completer_->popup()->hide();
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
  const int key = event->key();
  const bool isReturn = key == Qt::Key_Return || key == Qt::Key_Enter;
  // While words are offered, these keys choose among them.
  if (completer_->popup()->isVisible() && (isReturn || key == Qt::Key_Tab || key == Qt::Key_Escape))
    return event->ignore();
  if (isReturn) {
    emit editorWanted();
    return;
  }
  isTyping_ = !event->text().isEmpty() && event->text()[0].isPrint();
  QPlainTextEdit::keyPressEvent(event);
  isTyping_ = false;
}

void TemplateEdit::focusOutEvent(QFocusEvent* event) {
  if (event->reason() != Qt::PopupFocusReason) completer_->popup()->hide();
  QPlainTextEdit::focusOutEvent(event);
}

void TemplateEdit::resizeEvent(QResizeEvent* event) {
  QPlainTextEdit::resizeEvent(event);
  words_->setGeometry(width() - kButton - 2, (height() - kButton) / 2, kButton, kButton);
}

void TemplateEdit::insertFromMimeData(const QMimeData* source) {
  insertPlainText(source->text().simplified());
}

// --- words that go on as one types

/// Fields behind a brace, filters behind a bar.
void TemplateEdit::offerWords() {
  const qsizetype at = textCursor().position();
  const qsizetype open = openFieldAt(toPlainText(), at);
  const QString inside = open < 0 ? QString() : toPlainText().mid(open, at - open);
  const qsizetype bar = inside.lastIndexOf('|');
  const QString begun = inside.mid(bar + 1);
  const bool isName = open >= 0 && !begun.contains(':') && !begun.contains(' ') && !begun.contains('"');
  auto* words = static_cast<QStringListModel*>(completer_->model());
  words->setStringList(bar < 0 ? fieldWords() : filterWords());
  completer_->setCompletionPrefix(begun);
  const bool isWhole = completer_->completionCount() == 1 && completer_->currentCompletion() == begun;
  if (!isName || completer_->completionCount() == 0 || isWhole) return completer_->popup()->hide();
  completer_->popup()->setCurrentIndex(completer_->completionModel()->index(0, 0));
  QRect where = cursorRect();
  where.setWidth(completer_->popup()->sizeHintForColumn(0) +
                 completer_->popup()->verticalScrollBar()->sizeHint().width() + 12);
  completer_->complete(where);
}

void TemplateEdit::complete(const QString& word) {
  QTextCursor cursor = textCursor();
  cursor.movePosition(QTextCursor::Left, QTextCursor::KeepAnchor,
                      static_cast<int>(completer_->completionPrefix().size()));
  const bool isClosed = openFieldAt(toPlainText(), cursor.anchor()) >= 0 &&
                        toPlainText().mid(cursor.anchor()).section('{', 0, 0).contains('}');
  cursor.insertText(isClosed ? word : word + "}");
  if (!isClosed) cursor.movePosition(QTextCursor::Left);  // a filter may follow
  setTextCursor(cursor);
}

void TemplateEdit::insertField(const QString& field) {
  QTextCursor cursor = textCursor();
  // Not into another field.
  if (openFieldAt(toPlainText(), cursor.position()) >= 0) {
    const qsizetype close = toPlainText().indexOf('}', cursor.position());
    cursor.setPosition(static_cast<int>(close < 0 ? toPlainText().size() : close + 1));
  }
  cursor.insertText("{" + field + "}");
  setTextCursor(cursor);
}

void TemplateEdit::insertFilter(const QString& filter) {
  QTextCursor cursor = textCursor();
  const QString all = toPlainText();
  const bool isInside = openFieldAt(all, cursor.position()) >= 0;
  const qsizetype close =
      isInside ? all.indexOf('}', cursor.position()) : all.lastIndexOf('}', cursor.position() - 1);
  if (close < 0) return;
  cursor.setPosition(static_cast<int>(close));
  cursor.insertText("|" + filter);
  setTextCursor(cursor);
}

void TemplateEdit::showMenu(const QPoint& at) {
  std::unique_ptr<QMenu> menu(createStandardContextMenu());
  menu->addSeparator();
  menu->addAction(tr("All fields and filters"), this, &TemplateEdit::editorWanted);
  menu->exec(mapToGlobal(at));
}

}  // namespace octaphon::app
