// A WAV file of whole numbers, taken apart and put together again, chunk by chunk: for damage to one thing
// and no other.
#pragma once

#include <QByteArray>
#include <QtEndian>
#include <vector>

#include "support.h"

namespace octaphon::test {

class WavBytes {
 public:
  explicit WavBytes(QString file) : file_(std::move(file)) {
    const QByteArray bytes = bytesOf(file_);
    for (qsizetype at = 12; at + 8 <= bytes.size();) {
      const auto size = static_cast<qsizetype>(qFromLittleEndian<quint32>(bytes.constData() + at + 4));
      chunks_.push_back({bytes.mid(at, 4), bytes.mid(at + 8, size)});
      at += 8 + size + size % 2;
    }
  }
  /// Written back, under its own name or another.
  void save(const QString& as = {}) const {
    QByteArray body = "WAVE";
    for (const auto& [name, data] : chunks_) {
      body += name + number(static_cast<quint32>(data.size()), 4) + data;
      if (data.size() % 2 != 0) body += '\0';
    }
    QFile file(as.isEmpty() ? file_ : as);
    if (!file.open(QIODevice::WriteOnly)) qFatal("cannot write %s", qPrintable(file.fileName()));
    file.write("RIFF" + number(static_cast<quint32>(body.size()), 4) + body);
  }

  QByteArray& chunk(const QByteArray& name) {
    for (auto& [called, data] : chunks_)
      if (called == name) return data;
    qFatal("no chunk %s", name.constData());
  }
  void dropAllBut(const QByteArrayList& names) {
    std::erase_if(chunks_, [&](const auto& chunk) { return !names.contains(chunk.first); });
  }

  int channels() { return qFromLittleEndian<quint16>(chunk("fmt ").constData() + 2); }
  int width() { return qFromLittleEndian<quint16>(chunk("fmt ").constData() + 14) / 8; }
  void setRate(quint32 rate) {
    const auto bytes = rate * static_cast<quint32>(channels() * width());
    chunk("fmt ").replace(4, 8, number(rate, 4) + number(bytes, 4));
  }

  /// Each sample by channel and frame.
  template <class Change>
  void changeSamples(const Change& change) {
    const std::vector<std::vector<int>> before = samples();
    std::vector<std::vector<int>> after = before;
    for (std::size_t c = 0; c < after.size(); ++c)
      for (std::size_t i = 0; i < after[c].size(); ++i) after[c][i] = change(before, c, i);
    setSamples(after);
  }
  std::vector<std::vector<int>> samples() {
    const QByteArray& data = chunk("data");
    std::vector<std::vector<int>> all(static_cast<std::size_t>(channels()));
    const int bytes = width();
    for (qsizetype at = 0; at + bytes * channels() <= data.size();)
      for (auto& channel : all) {
        quint32 value = 0;
        for (int b = 0; b < bytes; ++b)
          value |= static_cast<quint32>(static_cast<uchar>(data[at + b])) << (8 * (b + 4 - bytes));
        channel.push_back(static_cast<int>(value) >> (8 * (4 - bytes)));
        at += bytes;
      }
    return all;
  }
  /// As many channels as there are samples of.
  void setSamples(const std::vector<std::vector<int>>& all) {
    QByteArray data;
    const int bytes = width();
    for (std::size_t i = 0; i < all[0].size(); ++i)
      for (const auto& channel : all) data += number(static_cast<quint32>(channel[i]), bytes);
    chunk("data") = data;
    const auto count = static_cast<quint32>(all.size());
    const quint32 rate = qFromLittleEndian<quint32>(chunk("fmt ").constData() + 4);
    chunk("fmt ").replace(2, 2, number(count, 2));
    chunk("fmt ").replace(8, 6,
                          number(rate * count * static_cast<quint32>(bytes), 4) +
                              number(count * static_cast<quint32>(bytes), 2));
  }

  static QByteArray number(quint32 value, int bytes) {
    QByteArray text;
    for (int b = 0; b < bytes; ++b) text += static_cast<char>(value >> (8 * b));
    return text;
  }

 private:
  QString file_;
  std::vector<std::pair<QByteArray, QByteArray>> chunks_;
};

}  // namespace octaphon::test
