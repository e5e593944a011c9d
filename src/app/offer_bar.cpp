#include "offer_bar.h"

#include "theme.h"

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
  for (QPushButton* button : std::exchange(buttons_, {})) button->deleteLater();
  words_->setText(words);
  const auto add = [&](const QString& label, const std::function<void()>& work) {
    auto* button = new QPushButton(label, this);
    connect(button, &QPushButton::clicked, this, [this, work] {
      hide();
      if (work) work();
    });
    layout_->addWidget(button);
    buttons_ << button;
  };
  for (const Choice& choice : choices) add(choice.words, choice.work);
  add(tr("Not now"), {});
  show();
}

}  // namespace octaphon::app
