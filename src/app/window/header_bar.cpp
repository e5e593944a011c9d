#include "app/window/header_bar.h"

#include <QHBoxLayout>
#include <QPainter>
#include <QToolButton>

#include "app/look/icons.h"
#include "app/look/theme.h"
#include "app/work/text.h"
#include "base/decibels.h"
#include "base/timecode.h"
#include "base/unicode.h"
#include "play/loudness_meter.h"

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

HeaderBar::HeaderBar(Work& work, Commands& commands, QWidget* search, QWidget* parent)
    : QWidget(parent), work_(work) {
  setObjectName("bar");
  setAttribute(Qt::WA_StyledBackground);
  setFixedHeight(44);
  makeLabels();
  layOut(commands, search);
  connectWork();
  showSession();
}

void HeaderBar::makeLabels() {
  const auto label = [this](const QFont& font, const QString& name) {
    auto* made = new QLabel(this);
    made->setFont(font);
    made->setAccessibleName(name);
    return made;
  };
  QFont strong = Theme::sentence();
  strong.setWeight(QFont::DemiBold);
  name_ = label(strong, tr("Session"));
  saved_ = label(Theme::caption(), tr("Whether it is saved"));
  bars_ = label(Theme::sentence(), tr("Position in bars"));
  time_ = label(Theme::body(), tr("Position in time"));
  listening_ = label(Theme::caption(), tr("What is listened to"));
  loudness_ = label(Theme::caption(), tr("Loudness"));
  loudness_->setToolTip(tr("Loudness of the moment, and since playing began (EBU R 128)"));
  // Figures that change must not move what is beside them.
  bars_->setMinimumWidth(bars_->fontMetrics().horizontalAdvance("bar 888, beat 8.88"));
  time_->setMinimumWidth(time_->fontMetrics().horizontalAdvance("88:88:88:88"));
  levels_ = new LevelBars(this);
}

void HeaderBar::layOut(Commands& commands, QWidget* search) {
  auto* mark = new QLabel(this);
  const auto draw = [mark] { mark->setPixmap(pixmap("mark", Role::Accent, 26)); };
  draw();
  connect(&Theme::instance(), &Theme::changed, mark, draw);
  auto* layout = new QHBoxLayout(this);
  layout->setContentsMargins(14, 0, 14, 0);
  layout->setSpacing(6);
  const auto addButtons = [&](const QStringList& ids) {
    for (QAction* action : commands.actions(ids)) {
      auto* button = new QToolButton(this);
      button->setDefaultAction(action);
      button->setToolButtonStyle(Qt::ToolButtonIconOnly);
      button->setAccessibleName(Commands::title(*action));
      layout->addWidget(button);
    }
  };
  layout->addWidget(mark);
  layout->addSpacing(4);
  layout->addWidget(name_);
  layout->addWidget(saved_);
  layout->addStretch(2);
  addButtons({"region.previous", "play.toggle", "play.stop", "region.next"});
  layout->addSpacing(10);
  for (QWidget* shown : {static_cast<QWidget*>(bars_), static_cast<QWidget*>(time_), levels_,
                         static_cast<QWidget*>(loudness_), static_cast<QWidget*>(listening_)})
    layout->addWidget(shown);
  layout->addStretch(3);
  layout->addWidget(search, 2);
  addButtons({"view.zoom-out", "view.zoom-in", "view.zoom-all"});
}

void HeaderBar::connectWork() {
  connect(&work_.document(), &Document::opened, this, &HeaderBar::showSession);
  connect(&work_.document(), &Document::moved, this, &HeaderBar::showSession);
  connect(&work_.document(), &Document::changed, this, &HeaderBar::showSession);
  connect(&work_.document(), &Document::modifiedChanged, this, &HeaderBar::showModified);
  connect(&work_.transport(), &Transport::positionChanged, this, &HeaderBar::showPosition);
  connect(&work_.transport(), &Transport::loudnessChanged, this, &HeaderBar::showLoudness);
  connect(&work_.transport(), &Transport::levelsChanged, this,
          [this](float left, float right) { static_cast<LevelBars*>(levels_)->set(left, right); });
  connect(&work_.listener(), &Listener::onlyChanged, this, &HeaderBar::showListening);
  connect(&work_.drawn(), &Drawn::timecodeChanged, this, &HeaderBar::showPosition);
  connect(&Theme::instance(), &Theme::changed, this, &HeaderBar::showListening);
}

void HeaderBar::showSession() {
  const auto session = work_.session();
  const QString name = work_.document().isOpen() ? text(session->displayName()) : tr("Octaphon");
  name_->setText(name_->fontMetrics().elidedText(name, Qt::ElideMiddle, 320));
  name_->setToolTip(text(session->file.string()));
  tempo_ = TempoMap(session->tempo, session->rate);
  bars_->setVisible(!tempo_.empty());
  showModified();
  showPosition();
}

void HeaderBar::showModified() {
  saved_->setText(!work_.document().isOpen()      ? QString()
                  : work_.document().isModified() ? tr("not saved yet")
                                                  : tr("saved"));
}

void HeaderBar::showPosition() {
  const Frame frame = work_.transport().position();
  const Session& session = *work_.session();
  if (!tempo_.empty()) bars_->setText(text(octaphon::positionText(tempo_.positionAt(frame))));
  const PictureRate pictures = session.pictureRate;
  time_->setText(
      text(work_.drawn().isTimecode()
               ? timecodeText(session.startPicture + pictureFrameAt(frame, pictures, session.rate), pictures)
               : timeText(frame, session.rate)));
}

void HeaderBar::showLoudness(double momentary, double integrated) {
  if (momentary <= kNoLoudness) return loudness_->clear();
  const QString whole =
      integrated <= kNoLoudness ? QString() : tr(", I %1").arg(text(decibelText(integrated)));
  loudness_->setText(tr("M %1%2 LUFS").arg(text(decibelText(momentary)), whole));
}

void HeaderBar::showListening() {
  const auto& only = work_.listener().only();
  listening_->setText(only.empty() ? QString()
                                   : tr("hearing %1 only").arg(text(counted(only.size(), "track"))));
  QPalette palette = listening_->palette();
  palette.setColor(QPalette::WindowText, colour(Role::Attention));
  listening_->setPalette(palette);
}

}  // namespace octaphon::app
