#include "app/window/problem_line.h"

#include <QHBoxLayout>
#include <QToolButton>

#include "app/look/icons.h"
#include "app/look/theme.h"

namespace octaphon::app {

ProblemLine::ProblemLine(News& news, QWidget* parent) : QWidget(parent) {
  setObjectName("problem");
  setAttribute(Qt::WA_StyledBackground);
  words_ = new QLabel(this);
  words_->setWordWrap(true);
  words_->setTextFormat(Qt::PlainText);
  words_->setTextInteractionFlags(Qt::TextSelectableByMouse);
  words_->setAccessibleName(tr("Problem"));
  auto* dismiss = new QToolButton(this);
  keepIcon(dismiss, "close");
  dismiss->setToolTip(tr("Dismiss"));
  dismiss->setAccessibleName(tr("Dismiss the problem"));
  auto* row = new QHBoxLayout(this);
  row->setContentsMargins(14, 6, 10, 6);
  row->addWidget(words_, 1);
  row->addWidget(dismiss, 0, Qt::AlignTop);
  connect(dismiss, &QToolButton::clicked, this, &QWidget::hide);
  connect(&news, &News::problem, this, &ProblemLine::tell);
  connect(&Theme::instance(), &Theme::changed, this, &ProblemLine::colourWords);
  hide();
}

void ProblemLine::tell(const QString& words) {
  words_->setText(words);
  colourWords();
  setVisible(!words.isEmpty());
}

void ProblemLine::colourWords() {
  QPalette palette = words_->palette();
  palette.setColor(QPalette::WindowText, colour(Role::Fault));
  words_->setPalette(palette);
}

}  // namespace octaphon::app
