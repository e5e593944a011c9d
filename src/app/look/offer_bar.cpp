#include "app/look/offer_bar.h"

#include "app/look/theme.h"

namespace octaphon::app {

OfferBar::OfferBar(QWidget* parent) : QWidget(parent) {
  setObjectName("offer");
  setAttribute(Qt::WA_StyledBackground);
  words_ = new QLabel(this);
  words_->setWordWrap(true);
  words_->setAccessibleName(tr("Offer"));
  layout_ = new QHBoxLayout(this);
  layout_->setContentsMargins(14, 6, 14, 6);
  layout_->setSpacing(8);
  layout_->addWidget(words_, 1);
  hide();
}

void OfferBar::offer(const QString& words, const std::vector<Choice>& choices) {
  for (QPushButton* button : std::exchange(buttons_, {})) button->hide(), button->deleteLater();
  words_->setText(words);
  const auto add = [&](const QString& label) {
    auto* button = new QPushButton(label, this);
    layout_->addWidget(button);
    buttons_ << button;
    return button;
  };
  for (const Choice& choice : choices) {
    QPushButton* button = add(choice.words);
    button->setProperty("topic", choice.topic.isEmpty() ? choice.words : choice.topic);
    connect(button, &QPushButton::clicked, this, [this, button, work = choice.work] {
      const QVariant topic = button->property("topic");
      for (QPushButton* other : buttons_)
        if (other->property("topic") == topic) other->hide();
      const auto isOpen = [](const QPushButton* other) {
        return other->property("topic").isValid() && !other->isHidden();
      };
      if (std::none_of(buttons_.begin(), buttons_.end(), isOpen)) hide();
      work();
    });
  }
  connect(add(tr("Not now")), &QPushButton::clicked, this, &QWidget::hide);
  show();
}

}  // namespace octaphon::app
