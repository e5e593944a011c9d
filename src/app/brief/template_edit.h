// One line for a naming template: its parts in colour, mistakes underlined where they are, fields and filters
// offered while one types.
#pragma once

#include <QCompleter>
#include <QPlainTextEdit>
#include <QToolButton>

namespace octaphon::app {

class TemplateEdit : public QPlainTextEdit {
  Q_OBJECT
 public:
  explicit TemplateEdit(QWidget* parent = nullptr);

  QString text() const { return toPlainText(); }
  /// Leaves the cursor where it is when the text is the same.
  void setText(const QString& text);
  /// At the cursor; a filter into the field that the cursor is in or behind.
  void insertField(const QString& field);
  void insertFilter(const QString& filter);

  QSize sizeHint() const override;
  QSize minimumSizeHint() const override { return sizeHint(); }

 signals:
  void edited(const QString& text);
  void editorWanted();  ///< Return, or the button at its end

 protected:
  bool event(QEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;
  void focusOutEvent(QFocusEvent* event) override;
  void resizeEvent(QResizeEvent* event) override;
  void insertFromMimeData(const QMimeData* source) override;

 private:
  void offerWords();
  void complete(const QString& word);
  void showMenu(const QPoint& at);

  QCompleter* completer_;
  QToolButton* words_;
  bool isTyping_ = false;
};

}  // namespace octaphon::app
