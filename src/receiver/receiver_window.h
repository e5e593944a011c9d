// The receiver's window: the sounds with their keys, and a picture of what plays.
#pragma once

#include <memory>
#include <QLabel>
#include <QTableWidget>
#include <QTimer>
#include <QWidget>

#include "receiver/mixer.h"

class QAudioSink;

namespace octaphon::receiver {

/// Waves of all that sounds, a lane each, with the place that is heard.
class VoicesPicture : public QWidget {
  Q_OBJECT
 public:
  explicit VoicesPicture(const Mixer& mixer, QWidget* parent = nullptr);

 protected:
  void paintEvent(QPaintEvent* event) override;

 private:
  void paintLane(QPainter& painter, const QRect& lane, const Voice& voice) const;

  const Mixer& mixer_;
};

class ReceiverWindow : public QWidget {
  Q_OBJECT
 public:
  ReceiverWindow(std::vector<Sound> sounds, const std::filesystem::path& folder);
  ~ReceiverWindow() override;

 protected:
  void keyPressEvent(QKeyEvent* event) override;
  bool eventFilter(QObject* watched, QEvent* event) override;

 private:
  void fillTable();
  void openDevice();
  void trigger(int row);
  void stop(int row);
  bool takeKey(QKeyEvent* event);
  void tick();
  static QString keyOf(int row);

  std::vector<Sound> sounds_;
  DecodedFiles files_;
  Mixer mixer_;
  std::vector<VariationChoice> choices_;
  std::vector<std::vector<int>> playing_;  // by sound
  std::unique_ptr<QIODevice> feed_;
  std::unique_ptr<QAudioSink> sink_;
  QTableWidget* table_;
  VoicesPicture* picture_;
  QLabel* says_;
  QTimer timer_;
};

}  // namespace octaphon::receiver
