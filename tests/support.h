// What tests share: sessions and sounds made in a folder of their own, and programs run from outside.
#pragma once

#include <functional>
#include <map>
#include <QJsonArray>
#include <QJsonDocument>
#include <QJsonObject>
#include <QProcess>
#include <QTemporaryDir>
#include <QTest>
#include <string>
#include <vector>

#include "base/result.h"
#include "session/session.h"

namespace octaphon::test {

using Samples = std::vector<std::vector<double>>;  ///< by channel, full scale ±1

enum class Depth { Pcm16, Pcm24, Float };

/// A sound file, written through libsndfile; its kind by the name's ending (.wav, .flac, .ogg, .aiff …).
void writeSound(const QString& file, const Samples& samples, int rate = 48000, Depth depth = Depth::Pcm24);
Samples readSound(const QString& file);

/// `value(frame)` on each of `channels` channels; whole steps of 24 bits where `onGrid`.
Samples sound(int channels, Frame frames, const std::function<double(int channel, Frame frame)>& value,
              bool onGrid = true);
Samples noise(int channels, Frame frames, unsigned seed, double level = 0.25);
Samples sine(int channels, Frame frames, double hertz, double level, int rate = 48000);

/// Builds a session whose media lie in a folder.
class SessionMaker {
 public:
  explicit SessionMaker(QString folder) : folder_(std::move(folder)) {}

  Session session;

  /// Writes media/ID.wav and adds it.
  void medium(const std::string& id, const Samples& samples, int rate = 48000, Depth depth = Depth::Pcm24);
  Track& track(const std::string& id, int channels = 2, const std::string& group = {});
  Track& group(const std::string& id, const std::string& inside = {});
  Clip& clip(const std::string& track, const std::string& medium, Frame start, Frame length,
             Frame offset = 0);
  Region& region(const std::string& id, const std::string& name, Frame start, Frame length);
  Brief& brief(const std::string& name);
  /// Writes test.octaphon and gives its path.
  QString save();

 private:
  QString folder_;
  int clips_ = 0;
};

struct Ran {
  int exit = -1;
  QByteArray out;
  QByteArray err;
};
/// Runs a program to its end; a program that is not there fails the test.
Ran run(const QString& program, const QStringList& arguments, const QByteArray& input = {});
/// octaphon-cli with a cache of its own.
Ran cli(const QStringList& arguments);

QJsonObject planOf(const QString& session, const QStringList& more = {});
/// One object a line.
std::vector<QJsonObject> renderOf(const QString& session, const QStringList& more = {}, int expectedExit = 0);

/// All files below a folder but receipts, and the notes and lists beside them, by path relative to it,
/// sorted.
QStringList filesBelow(const QString& folder);
QByteArray bytesOf(const QString& file);
/// Bytes by file of a folder, but for receipts.
std::map<QString, QByteArray> contentsOf(const QString& folder);
/// Lines of a folder's receipt, sorted, without what times alone say.
QStringList receiptOf(const QString& folder);

}  // namespace octaphon::test
