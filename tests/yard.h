// A session that is delivered again and again, and what its command line says of it.
#pragma once

#include <map>
#include <QtEndian>
#include <set>

#include "support.h"

namespace octaphon::test {

/// The samples of a WAV file that is read: a new name is said inside, too.
inline QByteArray soundIn(const QByteArray& wav) {
  const qsizetype data = wav.indexOf("data");
  return wav.mid(data + 8, static_cast<qsizetype>(qFromLittleEndian<quint32>(wav.constData() + data + 4)));
}

/// Groups Machines (Gear, Chain; an equaliser) and Bells (Low, High; a compressor), a return Hall that Low
/// sends to; regions A, B, C. `b1` prints tracks and mix over the regions, `b2` the groups over the session.
struct Yard {
  QTemporaryDir dir;
  SessionMaker make{dir.path()};
  Session& session = make.session;

  Yard() {
    session.title = "Yard";
    make.medium("a", noise(2, 30000, 1));
    make.medium("b", noise(1, 30000, 2));
    make.group("Machines").inserts = {insert("eq", "equaliser", {{"bell1_gain", 3}})};
    make.track("Gear", 2, "Machines");
    make.track("Chain", 1, "Machines");
    make.group("Bells").inserts = {insert("cmp", "compressor", {{"threshold", -30}})};
    make.track("Low", 2, "Bells");
    make.track("High", 2, "Bells");
    Track& hall = make.track("Hall", 2);
    hall.kind = TrackKind::Return;
    hall.inserts = {insert("rev", "reverb", {{"decay", 0.3}})};
    track("Low").sends = {{"s1", "Hall", -6, false, true, {}}};
    const std::map<std::string, QString> clips{
        {"A", "Gear Chain Low High"}, {"B", "Gear Chain"}, {"C", "Gear Low"}};
    Frame start = 0;
    for (const auto& [name, tracks] : clips) {
      make.region("r" + name, name, start, 4000);
      for (const QString& on : tracks.split(' '))
        make.clip(on.toStdString(), on == "Chain" ? "b" : "a", start + 100, 3000, start / 10);
      start += 6000;
    }
    make.brief("Game").what.tracks = Selection::everything();
    Brief& groups = make.brief("Groups");
    groups.what.mix = false;
    groups.what.groups = Selection::everything();
    groups.where.regions = {};
    groups.where.wholeSession = true;
    groups.heard.counts = Counts::EverythingHeard;
    groups.delivery.folder = "groups";
    groups.names.format = "{source}";
  }

  static Insert insert(const std::string& id, const std::string& effect,
                       const std::map<std::string, double>& values) {
    Insert made;
    made.id = id;
    made.effect = effect;
    made.values = values;
    return made;
  }
  Track& track(const std::string& id) { return *findTrack(session, id); }
  Region& region(const std::string& id) {
    std::vector<Region>& regions = session.regions.writable();
    return *std::find_if(regions.begin(), regions.end(),
                         [&](const Region& region) { return region.id == id; });
  }
  Brief& brief() { return session.briefs[0]; }
  QString out(const QString& file = {}) const { return dir.filePath(file.isEmpty() ? "out" : "out/" + file); }

  /// `status` of the session as it is now; exits and all.
  QJsonObject status(const QStringList& more = {}) {
    const Ran ran = cli(QStringList{"status", make.save(), "--json"} + more);
    const QJsonObject status = QJsonDocument::fromJson(ran.out).object();
    if (ran.exit != (status["up_to_date"].toBool() ? 0 : 1))
      QTest::qFail("exit and word differ", __FILE__, __LINE__);
    return status;
  }
  /// State by row: `A/Gear`.
  std::map<QString, QString> states(const QStringList& more = {}) {
    std::map<QString, QString> states;
    for (const auto& value : status(more)["rows"].toArray()) {
      const QJsonObject row = value.toObject();
      states[placeOf(row["key"].toString())] = row["state"].toString();
    }
    return states;
  }
  /// Files by row, as the plan names them.
  std::map<QString, QString> files(const QStringList& more = {}) {
    std::map<QString, QString> files;
    for (const auto& value : planOf(make.save(), more)["rows"].toArray())
      files[placeOf(value.toObject()["key"].toString())] = value.toObject()["file"].toString();
    return files;
  }
  std::vector<QJsonObject> render(const QStringList& more = {}, int exit = 0) {
    return renderOf(make.save(), more, exit);
  }
  /// Rows with a result, by result: `A/Gear`.
  static std::map<QString, QStringList> results(const std::vector<QJsonObject>& events) {
    std::map<QString, QStringList> results;
    for (const QJsonObject& event : events)
      if (event["event"] == "row") results[event["result"].toString()] << placeOf(event["key"].toString());
    for (auto& [result, rows] : results) rows.sort();
    return results;
  }
  static QJsonObject event(const std::vector<QJsonObject>& events, const QString& name,
                           const QString& folder = {}) {
    for (const QJsonObject& event : events)
      if (event["event"] == name && event["folder"].toString().endsWith(folder)) return event;
    return {};
  }

  /// `b1/region:rA/track:Gear/wav/all` is `A/Gear`, of the mix `A/mix`, of the session `W/Bells`.
  static QString placeOf(const QString& key) {
    const QStringList parts = key.split('/');
    const auto last = [](const QString& part) { return part.mid(part.indexOf(':') + 1); };
    const QString span = last(parts[1]);
    return (span.startsWith('r') ? span.mid(1) : "W") + "/" + last(parts[2]);
  }
};

}  // namespace octaphon::test
