#include "app/preferences/sound_choice.h"

#include <QHBoxLayout>
#include <QPushButton>
#include <QSignalBlocker>

#include "app/work/settings.h"

namespace octaphon::app {

SoundChoice::SoundChoice(QWidget* parent)
    : QWidget(parent), devices_(new QComboBox(this)), outcome_(new QLabel(this)) {
  devices_->setAccessibleName(tr("Sound device"));
  devices_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
  auto* button = new QPushButton(tr("Play a tone"), this);
  button->setAutoDefault(false);
  outcome_->setObjectName("second");
  auto* layout = new QHBoxLayout(this);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->addWidget(devices_, 1);
  layout->addWidget(button);
  layout->addWidget(outcome_);
  setFocusProxy(devices_);
  fill();
  connect(&system_, &QMediaDevices::audioOutputsChanged, this, &SoundChoice::fill);
  connect(devices_, &QComboBox::currentIndexChanged, this, [this] {
    settings::setSoundDevice(devices_->currentData().toByteArray());
    outcome_->clear();
  });
  connect(button, &QPushButton::clicked, this, &SoundChoice::tryIt);
}

/// One that was chosen and is unplugged stays chosen.
void SoundChoice::fill() {
  const QSignalBlocker blocker(devices_);
  const QByteArray chosen = settings::soundDevice();
  devices_->clear();
  devices_->addItem(tr("as the system has it"), QByteArray());
  for (const QAudioDevice& device : QMediaDevices::audioOutputs())
    devices_->addItem(device.description(), device.id());
  int index = devices_->findData(chosen);
  if (index < 0) {
    index = devices_->count();
    devices_->addItem(tr("one that is not there now"), chosen);
  }
  devices_->setCurrentIndex(index);
}

void SoundChoice::tryIt() {
  const QAudioDevice device = chosenSoundDevice();
  outcome_->setText(device.isNull()      ? tr("There is no sound device")
                    : tone_.play(device) ? tr("It plays")
                                         : tr("It does not take 48 kHz"));
}

}  // namespace octaphon::app
