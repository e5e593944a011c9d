#include "support.h"

#include <cmath>
#include <QDirIterator>
#include <QFileInfo>
#include <random>

#include <sndfile.h>

#include "handover/list_files.h"
#include "session/session_file.h"

namespace octaphon::test {

void writeSound(const QString& file, const Samples& samples, int rate, Depth depth) {
  const QString ending = QFileInfo(file).suffix();
  SF_INFO info{};
  info.samplerate = rate;
  info.channels = static_cast<int>(samples.size());
  const int subtype = depth == Depth::Pcm16   ? SF_FORMAT_PCM_16
                      : depth == Depth::Pcm24 ? SF_FORMAT_PCM_24
                                              : SF_FORMAT_FLOAT;
  info.format = ending == "ogg"    ? SF_FORMAT_OGG | SF_FORMAT_VORBIS
                : ending == "flac" ? SF_FORMAT_FLAC | subtype
                : ending == "aiff" ? SF_FORMAT_AIFF | subtype
                                   : SF_FORMAT_WAV | subtype;
  SNDFILE* out = sf_open(file.toLocal8Bit().constData(), SFM_WRITE, &info);
  QVERIFY2(out != nullptr, qPrintable(file));
  sf_command(out, SFC_SET_CLIPPING, nullptr, SF_TRUE);
  std::vector<double> interleaved;
  for (std::size_t i = 0; i < samples[0].size(); ++i)
    for (const auto& channel : samples) interleaved.push_back(channel[i]);
  sf_writef_double(out, interleaved.data(), static_cast<sf_count_t>(samples[0].size()));
  sf_close(out);
}

Samples readSound(const QString& file) {
  SF_INFO info{};
  SNDFILE* in = sf_open(file.toLocal8Bit().constData(), SFM_READ, &info);
  if (in == nullptr) return {};
  std::vector<double> interleaved(static_cast<std::size_t>(info.frames * info.channels));
  sf_readf_double(in, interleaved.data(), info.frames);
  sf_close(in);
  Samples samples(static_cast<std::size_t>(info.channels));
  for (std::size_t i = 0; i < interleaved.size(); ++i) samples[i % samples.size()].push_back(interleaved[i]);
  return samples;
}

Samples sound(int channels, Frame frames, const std::function<double(int, Frame)>& value, bool onGrid) {
  Samples samples(static_cast<std::size_t>(channels));
  for (int c = 0; c < channels; ++c)
    for (Frame i = 0; i < frames; ++i) {
      const double v = value(c, i);
      samples[static_cast<std::size_t>(c)].push_back(onGrid ? std::round(v * 8388608.0) / 8388608.0 : v);
    }
  return samples;
}

Samples noise(int channels, Frame frames, unsigned seed, double level) {
  std::mt19937 random(seed);
  return sound(channels, frames,
               [&](int, Frame) { return level * (static_cast<double>(random()) / 2147483648.0 - 1); });
}

Samples sine(int channels, Frame frames, double hertz, double level, int rate) {
  return sound(
      channels, frames,
      [=](int, Frame i) { return level * std::sin(2 * M_PI * hertz * static_cast<double>(i) / rate); },
      false);
}

void SessionMaker::medium(const std::string& id, const Samples& samples, int rate, Depth depth) {
  QDir(folder_).mkpath("media");
  const std::string file = "media/" + id + ".wav";
  writeSound(folder_ + "/" + QString::fromStdString(file), samples, rate, depth);
  session.media.push_back({id, file, {}});
}

Track& SessionMaker::track(const std::string& id, int channels, const std::string& group) {
  Track track;
  track.id = id;
  track.name = id;
  track.channels = channels;
  track.group = group;
  session.tracks.push_back(track);
  return session.tracks.back();
}

Track& SessionMaker::group(const std::string& id, const std::string& inside) {
  Track& made = track(id, 2, inside);
  made.kind = TrackKind::Group;
  return made;
}

Clip& SessionMaker::clip(const std::string& track, const std::string& medium, Frame start, Frame length,
                         Frame offset) {
  Clip clip;
  clip.id = "c" + std::to_string(++clips_);
  clip.medium = medium;
  clip.start = start;
  clip.offset = offset;
  clip.length = length;
  for (Track& t : session.tracks)
    if (t.id == track) {
      t.clips.push_back(clip);
      return t.clips.back();
    }
  qFatal("no such track");
}

Region& SessionMaker::region(const std::string& id, const std::string& name, Frame start, Frame length) {
  Region region;
  region.id = id;
  region.name = name;
  region.start = start;
  region.length = length;
  session.regions.push_back(region);
  return session.regions.back();
}

Brief& SessionMaker::brief(const std::string& name) {
  Brief brief;
  brief.id = "b" + std::to_string(session.briefs.size() + 1);
  brief.name = name;
  brief.delivery.folder = "out";
  brief.delivery.existing = Existing::Replace;
  session.briefs.push_back(brief);
  return session.briefs.back();
}

QString SessionMaker::save() {
  const QString file = folder_ + "/test.octaphon";
  const auto saved = saveSession(session, file.toStdString());
  if (!saved) qFatal("%s", saved.error().describe().c_str());
  return file;
}

Ran run(const QString& program, const QStringList& arguments, const QByteArray& input) {
  QProcess process;
  process.start(program, arguments);
  Ran ran;
  if (!process.waitForStarted()) {
    QTest::qFail(qPrintable("cannot be started: " + program), __FILE__, __LINE__);
    return ran;
  }
  process.write(input);
  process.closeWriteChannel();
  process.waitForFinished(300000);
  ran.exit = process.exitStatus() == QProcess::NormalExit ? process.exitCode() : -2;
  ran.out = process.readAllStandardOutput();
  ran.err = process.readAllStandardError();
  return ran;
}

Ran cli(const QStringList& arguments) {
  static QTemporaryDir cache;
  qputenv("OCTAPHON_CACHE", cache.path().toLocal8Bit());
  return run(OCTAPHON_CLI_PATH, arguments);
}

QJsonObject planOf(const QString& session, const QStringList& more) {
  const Ran ran = cli(QStringList{"plan", session, "--json"} + more);
  if (ran.exit != 0) QTest::qFail(ran.err.constData(), __FILE__, __LINE__);
  return QJsonDocument::fromJson(ran.out).object();
}

std::vector<QJsonObject> renderOf(const QString& session, const QStringList& more, int expectedExit) {
  const Ran ran = cli(QStringList{"render", session, "--json", "--no-sync"} + more);
  if (ran.exit != expectedExit)
    QTest::qFail(("exit " + QByteArray::number(ran.exit) + ": " + ran.err + ran.out).constData(), __FILE__,
                 __LINE__);
  std::vector<QJsonObject> events;
  for (const QByteArray& line : ran.out.split('\n'))
    if (!line.isEmpty()) events.push_back(QJsonDocument::fromJson(line).object());
  return events;
}

static bool isBesideTheFiles(const QString& name) {
  if (name.endsWith("octaphon-receipt.jsonl")) return true;
  return std::any_of(kListInfos.begin(), kListInfos.end(), [&](const ListInfo& info) {
    return name == QLatin1String(info.file.data(), static_cast<qsizetype>(info.file.size()));
  });
}

QStringList filesBelow(const QString& folder) {
  QStringList files;
  QDirIterator all(folder, QDir::Files | QDir::Hidden | QDir::System, QDirIterator::Subdirectories);
  while (all.hasNext()) {
    const QString file = all.next();
    if (!isBesideTheFiles(QFileInfo(file).fileName())) files << QDir(folder).relativeFilePath(file);
  }
  files.sort();
  return files;
}

QByteArray bytesOf(const QString& file) {
  QFile in(file);
  return in.open(QIODevice::ReadOnly) ? in.readAll() : QByteArray();
}

std::map<QString, QByteArray> contentsOf(const QString& folder) {
  std::map<QString, QByteArray> contents;
  for (const QString& file : filesBelow(folder)) contents[file] = bytesOf(folder + "/" + file);
  return contents;
}

QStringList receiptOf(const QString& folder) {
  QStringList lines;
  for (const QByteArray& line : bytesOf(folder + "/octaphon-receipt.jsonl").split('\n')) {
    QJsonObject json = QJsonDocument::fromJson(line).object();
    json.remove("changed");
    if (!json.isEmpty()) lines << QJsonDocument(json).toJson(QJsonDocument::Compact);
  }
  lines.sort();
  return lines;
}

}  // namespace octaphon::test
