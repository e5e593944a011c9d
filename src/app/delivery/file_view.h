// A delivered file as a picture: its wave with its loudness over time, or its frequencies, and a spot in it.
#pragma once

#include <memory>
#include <QImage>
#include <QWidget>

#include "check/file_picture.h"

namespace octaphon::app {

class FileView : public QWidget {
  Q_OBJECT
 public:
  explicit FileView(QWidget* parent = nullptr);

  /// Null: it is not known yet, and `words` say why.
  void show(std::shared_ptr<const FilePicture> picture, std::shared_ptr<const Spectrogram> frequencies,
            bool showsFrequencies, const QString& words);
  /// In frames of the file; it is heard from there.
  void setSpot(Frame frame);
  Frame spot() const { return spot_; }
  /// Where the largest sample is.
  Frame loudestFrame() const;
  QSize sizeHint() const override { return {260, 90}; }

 signals:
  void spotChanged(octaphon::Frame frame);  ///< by hand

 protected:
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;
  bool event(QEvent* event) override;

 private:
  QRectF area() const;
  Frame frames() const { return picture_ ? picture_->frames : 0; }
  double xOf(Frame frame) const;
  void moveSpot(Frame frame);
  void paintWave(QPainter& painter) const;
  void paintLoudness(QPainter& painter) const;
  void paintFrequencies(QPainter& painter);
  void paintTimes(QPainter& painter) const;
  void describe();

  std::shared_ptr<const FilePicture> picture_;
  std::shared_ptr<const Spectrogram> frequencies_;
  bool showsFrequencies_ = false;
  QString words_;
  QImage image_;  // of the frequencies, in the colours of now
  Frame spot_ = 0;
};

}  // namespace octaphon::app
