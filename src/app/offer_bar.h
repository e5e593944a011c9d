// A line under the header that offers something and imposes nothing: words, and buttons for what can be done.
#pragma once

#include <functional>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QWidget>

namespace octaphon::app {

class OfferBar : public QWidget {
  Q_OBJECT
 public:
  struct Choice {
    QString words;
    std::function<void()> work;
  };
  explicit OfferBar(QWidget* parent = nullptr);

  /// Replaces what is offered; each button ends the offer, and there is always one to leave it.
  void offer(const QString& words, const std::vector<Choice>& choices);
  QString words() const { return words_->text(); }
  QList<QPushButton*> buttons() const { return buttons_; }

 private:
  QLabel* words_;
  QHBoxLayout* layout_;
  QList<QPushButton*> buttons_;
};

}  // namespace octaphon::app
