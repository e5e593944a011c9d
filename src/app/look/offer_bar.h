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
    QString topic = {};  ///< choices of one topic shut each other out; empty: it stands alone
  };
  explicit OfferBar(QWidget* parent = nullptr);

  /// Replaces what is offered. A choice that was taken goes, with those of its topic; with the last the offer
  /// ends, and there is always a button to leave it.
  void offer(const QString& words, const std::vector<Choice>& choices);
  QString words() const { return words_->text(); }
  QList<QPushButton*> buttons() const { return buttons_; }

 private:
  QLabel* words_;
  QHBoxLayout* layout_;
  QList<QPushButton*> buttons_;
};

}  // namespace octaphon::app
