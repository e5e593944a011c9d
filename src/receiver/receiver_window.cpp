#include "receiver/receiver_window.h"

#include <cmath>
#include <QAudioSink>
#include <QHeaderView>
#include <QKeyEvent>
#include <QMediaDevices>
#include <QPainter>
#include <QPushButton>
#include <QVBoxLayout>
#include <random>

namespace octaphon::receiver {
namespace {

constexpr int kRate = 48000;
constexpr int kTickMs = 33;
constexpr int kLane = 62, kLaneName = 20;
constexpr int kKeys = 26;  // letters

/// What the device asks for, on whatever thread it does.
class Feed : public QIODevice {
 public:
  explicit Feed(Mixer& mixer) : mixer_(mixer) { open(QIODevice::ReadOnly); }
  bool isSequential() const override { return true; }
  qint64 bytesAvailable() const override { return qint64{1} << 20; }

 protected:
  qint64 readData(char* data, qint64 most) override {
    const auto frames = static_cast<std::size_t>(most) / (2 * sizeof(float));
    mixer_.fill(reinterpret_cast<float*>(data), frames);
    return static_cast<qint64>(frames * 2 * sizeof(float));
  }
  qint64 writeData(const char*, qint64) override { return -1; }

 private:
  Mixer& mixer_;
};

QString howOf(const Variation& variation) {
  const NamedFile& file = variation.files.front();
  const QString length = QObject::tr("%1 s").arg(static_cast<double>(file.loopLength) / file.rate, 0, 'f', 3);
  switch (file.play) {
    case Play::Once: return QObject::tr("once");
    case Play::Points:
      return file.loopStart > 0 ? QObject::tr("intro, then round over %1").arg(length)
                                : QObject::tr("round over %1").arg(length);
    case Play::Restart: return QObject::tr("again every %1").arg(length);
  }
  return {};
}

}  // namespace

VoicesPicture::VoicesPicture(const Mixer& mixer, QWidget* parent) : QWidget(parent), mixer_(mixer) {
  setMinimumHeight(kLane * 3);
  setAccessibleName(tr("What plays"));
}

void VoicesPicture::paintEvent(QPaintEvent*) {
  QPainter painter(this);
  painter.fillRect(rect(), palette().base());
  const std::vector<Voice> voices = mixer_.voices();
  if (voices.empty()) {
    painter.setPen(palette().color(QPalette::PlaceholderText));
    painter.drawText(rect(), Qt::AlignCenter, tr("Nothing plays. Press the key of a sound."));
    return;
  }
  int y = 0;
  for (const Voice& voice : voices) {
    paintLane(painter, QRect(0, y, width(), kLane), voice);
    y += kLane;
  }
}

void VoicesPicture::paintLane(QPainter& painter, const QRect& lane, const Voice& voice) const {
  const Decoded& what = *voice.what;
  const double frames = static_cast<double>(std::max<std::int64_t>(1, what.frames));
  const auto xOf = [&](std::int64_t frame) {
    return lane.left() + static_cast<int>(static_cast<double>(frame) / frames * lane.width());
  };
  if (what.play != Play::Once)
    painter.fillRect(QRect(QPoint(xOf(what.loopStart), lane.top()), QPoint(xOf(what.loopEnd), lane.bottom())),
                     palette().alternateBase());
  painter.setPen(palette().color(QPalette::Link));
  const int half = (kLane - kLaneName) / 2 - 2, middle = lane.bottom() - half - 2;
  const auto each = std::max<std::int64_t>(1, what.frames / std::max(1, lane.width()));
  for (int x = 0; x < lane.width(); ++x) {
    float most = 0;
    const auto from = static_cast<std::int64_t>(x / static_cast<double>(lane.width()) * frames);
    for (std::int64_t i = from; i < std::min(what.frames, from + each);
         i += std::max<std::int64_t>(1, each / 16))
      most = std::max(most, std::abs(what.samples[static_cast<std::size_t>(i) * 2]));
    const int reach = static_cast<int>(std::sqrt(std::min(1.0f, most)) * half);
    painter.drawLine(lane.left() + x, middle - reach, lane.left() + x, middle + reach);
  }
  painter.setPen(palette().color(QPalette::WindowText));
  painter.drawText(lane.adjusted(6, 2, -6, 0), Qt::AlignTop | Qt::AlignLeft,
                   QString::fromStdString(what.name));
  painter.drawLine(xOf(voice.at), lane.top(), xOf(voice.at), lane.bottom());
  painter.setPen(palette().color(QPalette::Mid));
  painter.drawLine(lane.bottomLeft(), lane.bottomRight());
}

ReceiverWindow::ReceiverWindow(std::vector<Sound> sounds, const std::filesystem::path& folder)
    : sounds_(std::move(sounds)), files_(folder, kRate), mixer_(kRate) {
  setWindowTitle(tr("Try it: %1").arg(QString::fromStdString(folder.filename().string())));
  resize(960, 640);
  std::random_device seed;
  for (std::size_t i = 0; i < sounds_.size(); ++i) choices_.emplace_back(seed());
  playing_.resize(sounds_.size());
  auto* layout = new QVBoxLayout(this);
  table_ = new QTableWidget(this);
  table_->setAccessibleName(tr("Sounds"));
  picture_ = new VoicesPicture(mixer_, this);
  auto* keys = new QLabel(
      tr("A letter, Return or a double click plays a sound, Shift with it stops it; Esc stops all."), this);
  says_ = new QLabel(this);
  for (QLabel* label : {keys, says_}) label->setWordWrap(true);
  layout->addWidget(table_, 1);
  layout->addWidget(picture_, 1);
  layout->addWidget(says_);
  layout->addWidget(keys);
  fillTable();
  connect(table_, &QTableWidget::cellDoubleClicked, this, [this](int row, int) { trigger(row); });
  table_->installEventFilter(this);
  connect(&timer_, &QTimer::timeout, this, &ReceiverWindow::tick);
  openDevice();
  timer_.start(kTickMs);
}

ReceiverWindow::~ReceiverWindow() {
  if (sink_) sink_->stop();
}

void ReceiverWindow::fillTable() {
  table_->setColumnCount(5);
  table_->setHorizontalHeaderLabels({tr("Key"), tr("Sound"), tr("Variations"), tr("How"), tr("Brief")});
  table_->setRowCount(static_cast<int>(sounds_.size()));
  for (int row = 0; row < table_->rowCount(); ++row) {
    const Sound& sound = sounds_[static_cast<std::size_t>(row)];
    const QStringList cells{keyOf(row), QString::fromStdString(sound.name),
                            QString::number(sound.variations.size()), howOf(sound.variations.front()),
                            QString::fromStdString(sound.brief)};
    for (int column = 0; column < cells.size(); ++column) {
      auto* item = new QTableWidgetItem(cells[column]);
      item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable);
      table_->setItem(row, column, item);
    }
  }
  table_->verticalHeader()->hide();
  table_->setShowGrid(false);
  table_->horizontalHeader()->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
  table_->setSelectionBehavior(QAbstractItemView::SelectRows);
  table_->setSelectionMode(QAbstractItemView::SingleSelection);
  table_->resizeColumnsToContents();
  table_->horizontalHeader()->setSectionResizeMode(1, QHeaderView::Stretch);
  if (table_->rowCount() > 0) table_->selectRow(0);
}

QString ReceiverWindow::keyOf(int row) { return row < kKeys ? QString(QChar('A' + row)) : QString(); }

/// Where there is none, the timer keeps time.
void ReceiverWindow::openDevice() {
  const QAudioDevice device = QMediaDevices::defaultAudioOutput();
  QAudioFormat format;
  format.setSampleRate(kRate);
  format.setChannelCount(2);
  format.setSampleFormat(QAudioFormat::Float);
  if (device.isNull() || !device.isFormatSupported(format)) {
    says_->setText(tr("There is no sound device: it plays in silence."));
    return;
  }
  feed_ = std::make_unique<Feed>(mixer_);
  sink_ = std::make_unique<QAudioSink>(device, format);
  sink_->start(feed_.get());
  if (sink_->error() != QAudio::NoError) sink_.reset();
}

void ReceiverWindow::tick() {
  if (!sink_) {
    std::vector<float> unheard(static_cast<std::size_t>(kRate * kTickMs / 1000) * 2);
    mixer_.fill(unheard.data(), unheard.size() / 2);
  }
  picture_->update();
}

void ReceiverWindow::trigger(int row) {
  const auto at = static_cast<std::size_t>(row);
  if (row < 0 || at >= sounds_.size()) return;
  table_->selectRow(row);
  const Variation& variation = sounds_[at].variations[choices_[at].next(sounds_[at].variations.size())];
  std::vector<std::shared_ptr<const Decoded>> together;
  for (const NamedFile& file : variation.files) {
    const auto decoded = files_.get(file);
    if (!decoded) return says_->setText(QString::fromStdString(decoded.error()));
    together.push_back(*decoded);
  }
  playing_[at].push_back(mixer_.play(together));
  says_->setText(
      tr("%1: %2").arg(QString::fromStdString(sounds_[at].name), QString::fromStdString(variation.name)));
  picture_->update();
}

void ReceiverWindow::stop(int row) {
  const auto at = static_cast<std::size_t>(row);
  if (row < 0 || at >= playing_.size()) return;
  for (const int sound : playing_[at]) mixer_.stop(sound);
  playing_[at].clear();
}

bool ReceiverWindow::takeKey(QKeyEvent* event) {
  if (event->modifiers() & ~Qt::ShiftModifier) return false;
  const bool stops = event->modifiers() & Qt::ShiftModifier;
  int row = event->key() - Qt::Key_A;
  if (event->key() == Qt::Key_Escape) {
    mixer_.stopAll();
    return true;
  }
  if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter)
    row = table_->currentRow();
  else if (row < 0 || row >= std::min<int>(kKeys, table_->rowCount()))
    return false;
  stops ? stop(row) : trigger(row);
  return true;
}

bool ReceiverWindow::eventFilter(QObject* watched, QEvent* event) {
  if (watched == table_ && event->type() == QEvent::KeyPress && takeKey(static_cast<QKeyEvent*>(event)))
    return true;
  return QWidget::eventFilter(watched, event);
}

void ReceiverWindow::keyPressEvent(QKeyEvent* event) {
  if (!takeKey(event)) QWidget::keyPressEvent(event);
}

}  // namespace octaphon::receiver
