#include "header_bar.h"

#include <QHBoxLayout>
#include <QPainter>
#include <QToolButton>

#include "base/decibels.h"
#include "base/timecode.h"
#include "icons.h"
#include "play/loudness_meter.h"
#include "text.h"
#include "theme.h"

namespace octaphon::app {

namespace {

/// Two bars, left and right, over 60 dB; they fall back slowly enough to be read.
class LevelBars : public QWidget {
 public:
  explicit LevelBars(QWidget* parent) : QWidget(parent) {
    setFixedSize(64, 14);
    setAccessibleName(QObject::tr("Level while listening"));
    setToolTip(QObject::tr("Peak level while listening, −60 to 0 dBFS"));
  }
  void set(float left, float right) {
    const float now[] = {left, right};
    for (int side = 0; side < 2; ++side) shown_[side] = std::max(now[side], shown_[side] * 0.9f);
    update();
  }

 protected:
  void paintEvent(QPaintEvent*) override {
    QPainter painter(this);
    for (int side = 0; side < 2; ++side) {
      const QRectF box(0, side * 8, width(), 5);
      painter.fillRect(box, colour(Role::Hairline));
      const double part = std::clamp((decibelsOf(shown_[side]) + 60) / 60, 0.0, 1.0);
      painter.fillRect(QRectF(0, box.top(), part * width(), 5),
                       colour(shown_[side] >= 1 ? Role::Fault : Role::Accent));
    }
  }

 private:
  float shown_[2] = {0, 0};
};

}  // namespace

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
  levels_ = new LevelBars(this);
  listening_ = new QLabel(this);
  listening_->setFont(Theme::caption());
  loudness_ = new QLabel(this);
  loudness_->setFont(Theme::caption());
  loudness_->setAccessibleName(tr("Loudness"));
  loudness_->setToolTip(tr("Loudness of the moment, and since playing began (EBU R 128)"));
  layout->addWidget(levels_);
  layout->addWidget(loudness_);
  layout->addWidget(listening_);
  layout->addStretch(3);
  searchAt_ = layout->count();
  layout_ = layout;
  addButtons(zoom);
}

void HeaderBar::setSession(const Session& session, bool open) {
  const QString name = open ? QString::fromStdString(session.displayName()) : tr("Octaphon");
  name_->setText(fontMetrics().elidedText(name, Qt::ElideMiddle, 320));
  tempo_ = TempoMap(session.tempo, session.rate);
  rate_ = session.rate;
  pictures_ = session.pictureRate;
  startPicture_ = session.startPicture;
  bars_->setVisible(!tempo_.empty());
  if (!open) saved_->clear();
  setPosition(position_);
}

void HeaderBar::addSearch(QWidget* field) { layout_->insertWidget(searchAt_, field, 2); }

void HeaderBar::setLevels(float left, float right) { static_cast<LevelBars*>(levels_)->set(left, right); }

void HeaderBar::setLoudness(double momentary, double integrated) {
  if (momentary <= kNoLoudness) return loudness_->clear();
  const QString whole =
      integrated <= kNoLoudness ? QString() : tr(", I %1").arg(text(decibelText(integrated)));
  loudness_->setText(tr("M %1%2 LUFS").arg(text(decibelText(momentary)), whole));
}

void HeaderBar::setListening(const QString& words) {
  listening_->setText(words);
  QPalette palette = listening_->palette();
  palette.setColor(QPalette::WindowText, colour(Role::Attention));
  listening_->setPalette(palette);
}

void HeaderBar::setTimecode(bool on) {
  timecode_ = on;
  setPosition(position_);
}

void HeaderBar::setModified(bool modified) { saved_->setText(modified ? tr("not saved yet") : tr("saved")); }

void HeaderBar::setPosition(Frame frame) {
  if (!tempo_.empty())
    bars_->setText(QString::fromStdString(octaphon::positionText(tempo_.positionAt(frame))));
  position_ = frame;
  time_->setText(QString::fromStdString(
      timecode_ ? timecodeText(startPicture_ + pictureFrameAt(frame, pictures_, rate_), pictures_)
                : timeText(frame, rate_)));
}

}  // namespace octaphon::app
