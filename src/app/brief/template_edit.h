// One line for a naming template: fields in colour, mistakes underlined where they are.
#pragma once

#include <QPlainTextEdit>

namespace octaphon::app {

class TemplateEdit : public QPlainTextEdit {
  Q_OBJECT
 public:
  explicit TemplateEdit(QWidget* parent = nullptr);

  QString text() const { return toPlainText(); }
  /// Leaves the cursor where it is when the text is the same.
  void setText(const QString& text);

  QSize sizeHint() const override;
  QSize minimumSizeHint() const override { return sizeHint(); }

 signals:
  void edited(const QString& text);

 protected:
  bool event(QEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;
  void insertFromMimeData(const QMimeData* source) override;

 private:
  void insertField(const QString& field);
  void showMenu(const QPoint& at);
};

}  // namespace octaphon::app
