#include "header_bar.h"

#include <QHBoxLayout>
#include <QToolButton>

#include "icons.h"
#include "theme.h"

namespace octaphon::app {

HeaderBar::HeaderBar(const QList<QAction*>& transport, const QList<QAction*>& zoom, QWidget* parent)
    : QWidget(parent) {
  setObjectName("bar");
  setAttribute(Qt::WA_StyledBackground);
  setFixedHeight(44);
  auto* mark = new QLabel(this);
  const auto draw = [mark] { mark->setPixmap(pixmap("mark", Role::Accent, 26)); };
  draw();
  connect(&Theme::instance(), &Theme::changed, mark, draw);
  name_ = new QLabel(this);
  QFont strong = Theme::sentence();
  strong.setWeight(QFont::DemiBold);
  name_->setFont(strong);
  name_->setAccessibleName(tr("Session"));
  saved_ = new QLabel(this);
  saved_->setFont(Theme::caption());
  bars_ = new QLabel(this);
  bars_->setFont(Theme::sentence());
  bars_->setAccessibleName(tr("Position in bars"));
  time_ = new QLabel(this);
  time_->setAccessibleName(tr("Position in time"));
  for (QLabel* label : {bars_, time_}) label->setMinimumWidth(96);

  auto* layout = new QHBoxLayout(this);
  layout->setContentsMargins(14, 0, 14, 0);
  layout->setSpacing(6);
  layout->addWidget(mark);
  layout->addSpacing(4);
  layout->addWidget(name_);
  layout->addWidget(saved_);
  layout->addStretch(2);
  const auto addButtons = [&](const QList<QAction*>& actions) {
    for (QAction* action : actions) {
      auto* button = new QToolButton(this);
      button->setDefaultAction(action);
      button->setToolButtonStyle(Qt::ToolButtonIconOnly);
      button->setAccessibleName(action->text().remove('&'));
      layout->addWidget(button);
    }
  };
  addButtons(transport);
  layout->addSpacing(10);
  layout->addWidget(bars_);
  layout->addWidget(time_);
  layout->addStretch(3);
  addButtons(zoom);
}

void HeaderBar::setSession(const Session& session, bool open) {
  const QString name = open ? QString::fromStdString(session.displayName()) : tr("Octaphon");
  name_->setText(fontMetrics().elidedText(name, Qt::ElideMiddle, 320));
  tempo_ = TempoMap(session.tempo, session.rate);
  rate_ = session.rate;
  bars_->setVisible(!tempo_.empty());
  setModified(false);
  if (!open) saved_->clear();
  setPosition(0);
}

void HeaderBar::setModified(bool modified) { saved_->setText(modified ? tr("not saved yet") : tr("saved")); }

void HeaderBar::setPosition(Frame frame) {
  if (!tempo_.empty())
    bars_->setText(QString::fromStdString(octaphon::positionText(tempo_.positionAt(frame))));
  time_->setText(QString::fromStdString(timeText(frame, rate_)));
}

}  // namespace octaphon::app
