// Variations of a step and a bell, differently loud, and what another program says of their files.
#pragma once

#include <QRegularExpression>
#include <QtTest>

#include "session/session_file.h"
#include "support.h"

namespace octaphon::test {

/// What another program says of a file.
struct Judged {
  double lufs = 0, truePeak = 0;
};
inline Judged judged(const QString& file) {
  const Ran ran = run("ffmpeg", {"-hide_banner", "-nostats", "-i", file, "-af",
                                 "ebur128=peak=true:framelog=verbose", "-f", "null", "-"});
  const QString summary = QString::fromUtf8(ran.err).section("Summary:", -1);
  const auto number = [&](const char* pattern) {
    return QRegularExpression(pattern).match(summary).captured(1).toDouble();
  };
  return {number("I: +(-?[0-9.]+) LUFS"), number("Peak: +(-?[0-9.]+) dBFS")};
}

/// Noise without much of it near half the rate, and without a step at its start.
inline Samples dull(unsigned seed, double level, Frame frames) {
  Samples sound = noise(2, frames, seed, level);
  for (auto& channel : sound) {
    channel[0] = 0;
    for (int turn = 0; turn < 3; ++turn)
      for (std::size_t i = 1; i < channel.size(); ++i) channel[i] = 0.6 * channel[i - 1] + 0.4 * channel[i];
  }
  return sound;
}

/// Three variations of a step and a bell, of two layers each, differently loud.
class Yard {
 public:
  Yard() : maker_(dir_.path()) {
    QDir(dir_.path()).mkpath("media");
    maker_.track("heel");
    maker_.track("gravel");
    const double loud[]{0.2, 0.5, 0.1, 0.3};
    const char* names[]{"Step 01", "Step 02", "Step 03", "Bell"};
    for (int i = 0; i < 4; ++i) {
      const std::string number = std::to_string(i);
      maker_.medium("heel" + number, dull(static_cast<unsigned>(10 + i), loud[i], 48000));
      maker_.medium("gravel" + number, dull(static_cast<unsigned>(20 + i), loud[i] / 2, 48000));
      maker_.clip("heel", "heel" + number, i * 96000, 48000);
      maker_.clip("gravel", "gravel" + number, i * 96000, 48000);
      maker_.region("r" + number, names[i], i * 96000, 48000);
    }
    Brief& brief = maker_.brief("Steps");
    brief.where.regions = {true, {}};
    brief.what.tracks = {true, {}};
    brief.what.mix = true;
    brief.files.encoding = Encoding::Float32;
    brief.delivery.existing = Existing::Replace;
  }

  Session& session() { return maker_.session; }
  QString save() { return maker_.save(); }
  /// A sample in the middle of a medium.
  void spoil(const QString& medium, double sample) {
    const QString path = dir_.filePath("media/" + medium + ".wav");
    Samples sound = readSound(path);
    sound[0][24000] = sample;
    writeSound(path, sound, 48000, Depth::Float);
  }
  QString file(const QString& name = {}) const { return dir_.filePath("out/" + name); }
  std::map<QString, QJsonObject> render(const QString& level, const QStringList& more = {}) {
    const QString session = maker_.save();
    QStringList options{"--out", file(), "--json"};
    if (!level.isEmpty())
      options << "--set"
              << "level=" + level;
    std::map<QString, QJsonObject> rows;
    for (const QJsonObject& event : renderOf(session, options + more))
      if (event["event"] == "row") rows[event["file"].toString()] = event;
    return rows;
  }
  std::map<QString, QString> states(const QString& level) {
    std::map<QString, QString> states;
    for (const auto& row :
         planOf(maker_.save(), {"--out", file(), "--set", "level=" + level})["rows"].toArray())
      states[row.toObject()["file"].toString()] = row.toObject()["state"].toString();
    return states;
  }

 private:
  QTemporaryDir dir_;
  SessionMaker maker_;
};

inline QString level(const char* kind, double target, const char* per) {
  return QString(R"({"kind":"%1","target":%2,"per":"%3"})").arg(kind).arg(target).arg(per);
}

inline QStringList codesOf(const QJsonObject& row) {
  QStringList codes;
  for (const auto& remark : row["remarks"].toArray()) codes << remark.toObject()["code"].toString();
  return codes;
}

}  // namespace octaphon::test
