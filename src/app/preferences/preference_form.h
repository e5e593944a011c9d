// A column of preferences: each with what it does and its default.
#pragma once

#include <QGridLayout>
#include <QWidget>

namespace octaphon::app {

class PreferenceForm : public QWidget {
  Q_OBJECT
 public:
  explicit PreferenceForm(QWidget* parent);
  void addHeading(const QString& words);
  /// `about` says what it does and what it is at first; `control` is called by the title.
  void add(const QString& title, QWidget* control, const QString& about);

 private:
  QGridLayout* grid_;
};

}  // namespace octaphon::app
