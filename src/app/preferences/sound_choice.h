// The sound devices that are there, tried with a tone.
#pragma once

#include <QComboBox>
#include <QLabel>
#include <QMediaDevices>
#include <QWidget>

#include "app/work/test_tone.h"

namespace octaphon::app {

class SoundChoice : public QWidget {
  Q_OBJECT
 public:
  explicit SoundChoice(QWidget* parent);

 private:
  void fill();
  void tryIt();
  QComboBox* devices_;
  QLabel* outcome_;
  QMediaDevices system_;  // tells when devices come and go
  TestTone tone_;
};

}  // namespace octaphon::app
