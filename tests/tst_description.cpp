// Every field of everything in a session, walked: out and in again, at its limits, beyond them, undone,
// shown.
#include <QtTest>

#include "brief/editing.h"
#include "edit/patch.h"
#include "plan/sentence.h"
#include "session/description.h"
#include "session/session_json.h"

using namespace octaphon;

namespace {

// Values of a kind that differ from the default: the ends of its range, and others.

std::vector<std::string> samples(const IdKind&, const std::string&) {
  return {"other.id-1", std::string(64, 'x')};
}
std::vector<std::string> samples(const ReferenceKind&, const std::string&) {
  return {};
}  // need their target
std::vector<std::string> samples(const StripReferenceKind&, const std::string&) { return {"main", "t1"}; }
std::vector<std::string> samples(const TextKind&, const std::string&) { return {"a \"b\" \\ é 東京", "x/y"}; }
std::vector<bool> samples(const FlagKind&, bool usual) { return {!usual}; }
std::vector<double> samples(const NumberKind& kind, double) {
  return {kind.least, kind.most, kind.least / 3 + kind.most / 7};
}
std::vector<std::optional<double>> samples(const OptionalNumberKind& kind, std::optional<double>) {
  return {kind.number.least, kind.number.most};
}
std::vector<int> samples(const IntegerKind& kind, int) { return {kind.least, kind.most}; }
std::vector<int> samples(const OneOfKind& kind, int) { return {kind.values[0], kind.values[3]}; }
std::vector<Frame> samples(const FramesKind&, Frame) { return {0, 77}; }
std::vector<std::vector<std::string>> samples(const TagsKind&, const std::vector<std::string>&) {
  return {{"sound"}, {"own", "mix"}};
}
std::vector<std::vector<std::string>> samples(const TextListKind&, const std::vector<std::string>&) {
  return {{"gone", "c1"}};
}
std::vector<Facts> samples(const TextMapKind&, const Facts&) { return {{{"place", "quay"}, {"", ""}}}; }
std::vector<std::map<std::string, double>> samples(const NumberMapKind& kind,
                                                   const std::map<std::string, double>&) {
  return {{{"time", kind.most}, {"other", -0.5}}};
}
std::vector<std::map<std::string, Facts>> samples(const TextMapsKind&, const std::map<std::string, Facts>&) {
  return {{{"A/B", {{"k", "v"}}}}};
}
std::vector<Selection> samples(const SelectionKind&, const Selection& usual) {
  Selection rules(true, {"a"});
  rules.picks.push_back({true, PickBy::Tag, "draft"});
  rules.picks.push_back({false, PickBy::Colour, {}, 3});
  return {Selection(!usual.isEverything(), {}), Selection(false, {"a", "b"}), rules};
}
std::vector<Reach> samples(const ReachKind&, const Reach&) {
  return {{ReachStage::Clips, {}}, {ReachStage::GroupInserts, "g"}, {ReachStage::Group, "a:b"}};
}
std::vector<RunUp> samples(const RunUpKind&, const RunUp&) { return {{kMaxRunUpSeconds, false}, {0, true}}; }
std::vector<PictureRate> samples(const PictureRateKind&, const PictureRate&) {
  return {*parsePictureRate("29.97df"), *parsePictureRate("60")};
}
std::vector<Frame> samples(const TimecodeKind&, Frame) { return {90'000}; }
std::vector<OutputChannels> samples(const OutputChannelsKind&, OutputChannels) {
  return {OutputChannels::Mono, OutputChannels::WideSurround};
}
std::vector<std::string> samples(const JsonKind&, const std::string&) { return {R"({"tail":"rings-out"})"}; }
template <class E>
std::vector<E> samples(const ChoiceKind<E>&, E) {
  std::vector<E> values;
  for (const Choice<E>& choice : kChoices<E>) values.push_back(choice.value);
  return values;
}

template <class E>
std::vector<std::optional<E>> samples(const OptionalChoiceKind<E>&, std::optional<E>) {
  std::vector<std::optional<E>> values;
  for (const Choice<E>& choice : kChoices<E>) values.push_back(choice.value);
  return values;
}

/// JSON that a field refuses, each a near twin of one that it takes.
QStringList refused(const TextKind& kind) {
  return kind.cureWhereMissing ? QStringList{"7", "\"\""} : QStringList{"7", "\"a\\u0000\"", "null"};
}
QStringList refused(const FlagKind&) { return {"1", "\"true\"", "null"}; }
QStringList refused(const NumberKind& kind) {
  return {QString::number(kind.least - 0.001, 'g', 17), QString::number(kind.most * 1.001 + 0.001, 'g', 17),
          "\"1\"", "[]"};
}
QStringList refused(const OptionalNumberKind& kind) { return refused(kind.number); }
QStringList refused(const IntegerKind& kind) {
  return {QString::number(kind.least - 1), QString::number(static_cast<long>(kind.most) + 1),
          QString::number(kind.least + 0.5), "\"1\""};
}
QStringList refused(const OneOfKind& kind) {
  return {"3", QString::number(kind.values[0] == 1 ? -1 : kind.values[0] - 1), "1.5"};
}
QStringList refused(const FramesKind&) { return {"-1", "0.5", "9007199254740992", "\"1\""}; }
QStringList refused(const TagsKind&) { return {"\"a\"", "[1]", "[\"\"]"}; }
QStringList refused(const TextListKind&) { return {"\"a\"", "[1]"}; }
QStringList refused(const TextMapKind&) { return {"[]", "{\"a\":1}"}; }
QStringList refused(const NumberMapKind&) { return {"[]", "{\"a\":\"1\"}", "{\"a\":1e10}"}; }
QStringList refused(const TextMapsKind&) { return {"[]", "{\"a\":\"b\"}", "{\"a\":{\"b\":1}}"}; }
QStringList refused(const SelectionKind&) {
  return {"\"some\"", "{}", "[1]", "[{\"by\":\"tag\"}]", "[{\"by\":\"colour\",\"number\":9}]"};
}
QStringList refused(const ReachKind&) { return {"\"bus\"", "\"group\"", "\"main:x\"", "1"}; }
QStringList refused(const RunUpKind&) { return {"\"begin\"", "-1", "3600.5"}; }
QStringList refused(const PictureRateKind&) { return {"\"29\"", "25"}; }
QStringList refused(const TimecodeKind&) { return {"\"24:00:00:00\"", "\"1:2\"", "5"}; }
QStringList refused(const OutputChannelsKind&) { return {"3", "\"three\"", "[]"}; }
QStringList refused(const JsonKind&) { return {"[]", "\"{}\""}; }
QStringList refused(const IdKind&) { return {"\"\"", "\"main\"", "\"a b\"", "7"}; }
QStringList refused(const ReferenceKind&) { return {"\"main\"", "\"a b\"", "7"}; }
QStringList refused(const StripReferenceKind&) { return {"\"\"", "\"a b\"", "7"}; }
template <class E>
QStringList refused(const ChoiceKind<E>&) {
  return {"\"\"", "\"no such\"", "1"};
}
template <class E>
QStringList refused(const OptionalChoiceKind<E>&) {
  return refused(ChoiceKind<E>{});
}
template <class T>
QStringList refused(const ListKind<T>&) {
  return {"{}", "\"a\"", "[1]"};
}
template <class T>
QStringList refused(const ObjectKind<T>&) {
  return {"[]", "1"};
}

/// A session with one of everything, and the way to each thing in it.
Session full() {
  Session session;
  session.tempo = {{}};
  session.media = {{"m", "m.wav", 0, 0, {}, {}}};
  Track track;
  track.id = "t1";
  track.inserts = {{"i1", "echo", {}, true, {}, {}, {}, {}}};
  track.sends = {{"s1", "room", 0, false, true, {}}};
  track.automation = {{"gain", true, {{0, 0, Segment::Linear, 0, {}}}, {}}};
  Clip clip;
  clip.id = "c1";
  clip.medium = "m";
  clip.length = 100;
  track.clips = {clip};
  Track room;
  room.id = "room";
  room.kind = TrackKind::Return;
  session.tracks = {track, room};
  session.regions = {{"r1", "R", 0, 100, false, false, false, {}, {}, {}, 0, {}, {}, {}}};
  session.markerSets = {{"ms", "M", {{"mk", "K", 5, false, {}, {}}}, {}}};
  session.clipSets = {{"cs", "S"}};
  session.clipSets[0].span = TimeSpan{5, 50};
  Brief brief;
  brief.id = "b1";
  brief.what.sums = {{"su", "Sum", {"t1"}, false, {}}};
  brief.heard.exceptions = {{"t1", {}, {}}};
  brief.files.outputs = {{Encoding::Pcm16, 0, OutputChannels::AsTapped, false, false, "", "small"}};
  brief.rowExceptions = {{"region:r1/mix/wav/all"}};
  brief.accepted = {{"clipped", "loud", {"region:r1/mix/wav/all"}}};
  brief.what.groups.picks = {{true, PickBy::Tag, "draft"}};
  brief.where.range = {5, 50};
  session.briefs = {brief};
  session.presets = {{"Quay", "tail"}};
  return session;
}

template <class T>
using Reach1 = std::function<T&(Session&)>;

/// Calls visit(name, way) for one of each kind of thing.
template <class Visit>
void forEachThing(const Visit& visit) {
  visit("session", Reach1<Session>([](Session& s) -> Session& { return s; }));
  visit("main", Reach1<Main>([](Session& s) -> Main& { return s.main; }));
  visit("tempo", Reach1<TempoPoint>([](Session& s) -> TempoPoint& { return s.tempo[0]; }));
  visit("medium", Reach1<Medium>([](Session& s) -> Medium& { return s.media[0]; }));
  visit("track", Reach1<Track>([](Session& s) -> Track& { return s.tracks[0]; }));
  visit("clip", Reach1<Clip>([](Session& s) -> Clip& { return s.tracks[0].clips[0]; }));
  visit("fade", Reach1<Fade>([](Session& s) -> Fade& { return s.tracks[0].clips[0].fadeOut; }));
  visit("insert", Reach1<Insert>([](Session& s) -> Insert& { return s.tracks[0].inserts[0]; }));
  visit("send", Reach1<Send>([](Session& s) -> Send& { return s.tracks[0].sends[0]; }));
  visit("curve", Reach1<Automation>([](Session& s) -> Automation& { return s.tracks[0].automation[0]; }));
  visit("point",
        Reach1<CurvePoint>([](Session& s) -> CurvePoint& { return s.tracks[0].automation[0].points[0]; }));
  visit("region", Reach1<Region>([](Session& s) -> Region& { return s.regions[0]; }));
  visit("own ends", Reach1<OwnEnds>([](Session& s) -> OwnEnds& { return s.regions[0].ends; }));
  visit("own loop", Reach1<OwnLoop>([](Session& s) -> OwnLoop& { return s.regions[0].loop; }));
  visit("loop", Reach1<Loop>([](Session& s) -> Loop& { return s.briefs[0].loop; }));
  visit("marker set", Reach1<MarkerSet>([](Session& s) -> MarkerSet& { return s.markerSets[0]; }));
  visit("marker", Reach1<Marker>([](Session& s) -> Marker& { return s.markerSets[0].markers[0]; }));
  visit("clip set", Reach1<ClipSet>([](Session& s) -> ClipSet& { return s.clipSets[0]; }));
  visit("span", Reach1<TimeSpan>([](Session& s) -> TimeSpan& { return *s.clipSets[0].span; }));
  visit("brief", Reach1<Brief>([](Session& s) -> Brief& { return s.briefs[0]; }));
  visit("overrides", Reach1<Overrides>([](Session& s) -> Overrides& { return s.briefs[0].heard.overrides; }));
  visit("exception", Reach1<TrackException>(
                         [](Session& s) -> TrackException& { return s.briefs[0].heard.exceptions[0]; }));
  visit("sum", Reach1<SumSource>([](Session& s) -> SumSource& { return s.briefs[0].what.sums[0]; }));
  visit("pick", Reach1<Pick>([](Session& s) -> Pick& { return s.briefs[0].what.groups.picks[0]; }));
  visit("range", Reach1<TimeSpan>([](Session& s) -> TimeSpan& { return s.briefs[0].where.range; }));
  visit("output", Reach1<Output>([](Session& s) -> Output& { return s.briefs[0].files.outputs[0]; }));
  visit("row exception",
        Reach1<RowException>([](Session& s) -> RowException& { return s.briefs[0].rowExceptions[0]; }));
  visit("accepted",
        Reach1<AcceptedRemark>([](Session& s) -> AcceptedRemark& { return s.briefs[0].accepted[0]; }));
  visit("preset", Reach1<Preset>([](Session& s) -> Preset& { return s.presets[0]; }));
}

/// What would break another rule of the session if it were changed alone.
bool isBound(const std::string& name, const char* key) {
  const std::pair<const char*, const char*> kBound[]{
      {"track", "id"},        {"track", "kind"},    {"medium", "id"},   {"tempo", "at"},
      {"pick", "by"},         {"pick", "value"},    {"fade", "length"}, {"clip", "length"},
      {"session", "version"}, {"medium", "content"}};
  return std::any_of(std::begin(kBound), std::end(kBound), [&](const auto& bound) {
    return name == bound.first && std::string_view(key) == bound.second;
  });
}

QString placeOf(const std::string& name, const char* key) { return QString("%1.%2").arg(name.c_str(), key); }

}  // namespace

class DescriptionTest : public QObject {
  Q_OBJECT
 private slots:
  // Every value of every field: written, read back, and undone.
  void everyFieldGoesOutAndInAndBack() {
    const Session before = full();
    QVERIFY(readSession(writeSession(before), "full").has_value());
    int fields = 0;
    forEachThing([&]<class T>(const char* name, const Reach1<T>& thing) {
      forEachField<T>([&](const auto& field) {
        if constexpr (requires { samples(field.kind, field.in(std::declval<T&>())); }) {
          if (isBound(name, field.key)) return;
          Session usual = before;
          for (const auto& value : samples(field.kind, field.in(thing(usual)))) {
            Session after = before;
            field.in(thing(after)) = value;
            const auto read = readSession(writeSession(after), "s");
            QVERIFY2(read.has_value(),
                     qPrintable(placeOf(name, field.key) + (read ? "" : read.error().describe().c_str())));
            QVERIFY2(*read == after, qPrintable(placeOf(name, field.key)));
            checkUndo(before, after, placeOf(name, field.key));
            ++fields;
          }
        }
      });
    });
    QVERIFY2(fields > 200, qPrintable(QString::number(fields)));
  }

  // Every field refuses what is beyond its limits, and names the place.
  void everyFieldNamesItsMistakes() {
    int mistakes = 0;
    forEachThing([&]<class T>(const char* name, const Reach1<T>& thing) {
      forEachField<T>([&](const auto& field) {
        if constexpr (requires { refused(field.kind); }) {
          for (const QString& bad : refused(field.kind)) {
            const std::string text = withKey(thing, field.key, bad);
            const auto read = readSession(text, "s");
            QVERIFY2(!read, qPrintable(placeOf(name, field.key) + " takes " + bad));
            const QString place = QString::fromStdString(read.error().place);
            QVERIFY2(place.contains(field.key), qPrintable(placeOf(name, field.key) + " told as " + place));
            QVERIFY(!read.error().text.empty());
            ++mistakes;
          }
        }
      });
    });
    QVERIFY2(mistakes > 300, qPrintable(QString::number(mistakes)));
  }

  // What a newer version wrote is kept in every object there is.
  void unknownKeysAreKeptEverywhere() {
    forEachThing([&]<class T>(const char* name, const Reach1<T>& thing) {
      if constexpr (requires(T t) { t.unknownKeys; }) {
        Session session = full();
        thing(session).unknownKeys = R"({"later":[1,{"a":"b"}]})";
        auto read = readSession(writeSession(session), "s");
        QVERIFY2(read.has_value(), name);
        QVERIFY2(*read == session, name);
        // Also when something beside it is edited.
        Session edited = *read;
        edited.title = "edited";
        SessionPatch patch(*read, edited);
        patch.undo(edited);
        QVERIFY2(edited == session, name);
      }
    });
  }

  // A field at its default leaves no trace where it need not; all fields of a fresh thing are at their
  // default.
  void defaultsAreLeftOut() {
    const Session read =
        *readSession(R"({"format":"octaphon-session","version":"1.0","rate":48000,)"
                     R"("briefs":[{"id":"b1"}],"regions":[{"id":"r","start":0,"length":1}]})",
                     "s");
    Brief fresh;
    fresh.id = "b1";
    QVERIFY(read.briefs[0] == fresh);
    const std::string text = writeSession(read);
    forEachField<Brief>([&](const auto& field) {
      const bool isWritten = text.find("\"" + std::string(field.key) + "\"") != std::string::npos;
      if (*field.key != '\0') QVERIFY2(isWritten || !field.isAlwaysWritten, field.key);
    });
    QVERIFY(text.find("\"reach\"") == std::string::npos);
  }

  // Whatever a person changes in a control is seen in the sentence, in other ink, and goes into the file.
  void everyControlIsSaid() {
    const Session session = full();
    QVERIFY(editableFields().size() >= 9);
    for (const EditableField<Brief>& field : editableFields()) {
      Brief brief = session.briefs[0];
      if (field.phrase == PhraseKind::RunUp) brief.heard.counts = Counts::EverythingHeard;
      if (field.phrase == PhraseKind::Existing) brief.delivery.existing = newBrief().delivery.existing;
      if (field.phrase == PhraseKind::Edges) brief.ends.fadeInMs = brief.ends.fadeOutMs = 10;
      if (field.phrase == PhraseKind::Level) brief.levelling.level.kind = LevelKind::Peak;
      if (std::string_view(field.key) == "ceiling_by") brief.levelling.ceilingDb = -1;
      for (const Choice<Tail>& tail : kChoices<Tail>)  // one under which the field matters
        if (field.matters != nullptr && !field.matters(brief)) brief.ends.tail = tail.value;
      for (const Choice<LoopWay>& way : kChoices<LoopWay>)
        if (field.matters != nullptr && !field.matters(brief)) brief.loop.way = way.value;
      const Brief before = brief;
      std::visit([&](const auto& control) { change(brief, control); }, field.control);
      QVERIFY2(!(brief == before), field.key);
      QVERIFY2(*field.act != '\0', field.key);
      const auto of = [&](const Brief& b) {
        for (const Phrase& phrase : sentenceOf(b, session))
          if (phrase.kind == field.phrase) return phrase;
        return Phrase{};
      };
      QVERIFY2(of(brief).text != of(before).text, field.key);
      if (field.matters == nullptr || field.matters(brief)) QVERIFY2(!of(brief).isDefault, field.key);
    }
  }

 private:
  static void checkUndo(const Session& before, const Session& after, const QString& place) {
    SessionPatch patch(before, after);
    QVERIFY2(patch.empty() == (before == after), qPrintable(place));
    Session session = before;
    patch.redo(session);
    QVERIFY2(session == after, qPrintable(place));
    patch.undo(session);
    QVERIFY2(session == before, qPrintable(place));
  }

  /// The session's text with a key of a thing set to some JSON: the thing is marked, and its mark replaced.
  template <class T>
  static std::string withKey(const Reach1<T>& thing, const char* key, const QString& json) {
    Session session = full();
    const QByteArray text = QByteArray::fromStdString(writeSession(marked(thing, session)));
    QJsonDocument document = QJsonDocument::fromJson(text);
    QJsonObject root = document.object();
    const QJsonValue value = QJsonDocument::fromJson(QByteArray("[") + json.toUtf8() + "]").array().at(0);
    const QJsonValue changed = replaced(root, key, value);
    QByteArray out = QJsonDocument(changed.toObject()).toJson();
    // Numbers beyond a double's whole range, and zero characters, do not survive Qt's own JSON.
    out.replace("\"@value@\"", json.toUtf8());
    return out.toStdString();
  }

  template <class T>
  static Session marked(const Reach1<T>& thing, Session session) {
    if constexpr (std::is_same_v<T, TimeSpan>)
      session.clipSets[0].unknownKeys = "{\"mark\":1}";
    else if constexpr (std::is_same_v<T, OwnEnds>)
      session.regions[0].unknownKeys = "{\"mark\":1}";
    else if constexpr (std::is_same_v<T, Overrides>)
      session.briefs[0].unknownKeys = "{\"mark\":1}";
    else
      thing(session).unknownKeys = "{\"mark\":1}";
    return session;
  }

  /// The object that holds the mark, wherever it is, gets the key.
  static QJsonValue replaced(const QJsonValue& value, const char* key, const QJsonValue& put) {
    if (value.isArray()) {
      QJsonArray array;
      for (const QJsonValue& item : value.toArray()) array.append(replaced(item, key, put));
      return array;
    }
    if (!value.isObject()) return value;
    QJsonObject object = value.toObject();
    if (object.contains("mark")) {
      object.remove("mark");
      object[key] = "@value@";
      return object;
    }
    for (const QString& inner : object.keys()) object[inner] = replaced(object[inner], key, put);
    return object;
  }

  static void change(Brief& brief, const EditableField<Brief>::Flag& flag) {
    flag.in(brief) = !flag.in(brief);
  }
  static void change(Brief& brief, const EditableField<Brief>::Number& number) {
    number.in(brief) = (number.range.least + number.range.most) / 2;
  }
  static void change(Brief& brief, const EditableField<Brief>::Whole& whole) {
    whole.set(brief, whole.get(brief) + 1);
  }
  static void change(Brief& brief, const EditableField<Brief>::OptionalNumber& number) {
    number.in(brief) = number.in(brief) ? std::nullopt : std::optional(number.range.offered);
  }
  static void change(Brief& brief, const EditableField<Brief>::Text& text) { text.in(brief) += "x"; }
  static void change(Brief& brief, const EditableField<Brief>::Texts& texts) {
    texts.in(brief).push_back("x");
  }
  static void change(Brief& brief, const EditableField<Brief>::ReachOf& reach) {
    reach.in(brief) = {reach.in(brief).stage == ReachStage::Track ? ReachStage::Clips : ReachStage::Track,
                       {}};
  }
  static void change(Brief& brief, const EditableField<Brief>::RunUpOf& runUp) {
    runUp.in(brief).seconds += 1;
    runUp.in(brief).fromStart = false;
  }
  static void change(Brief& brief, const EditableField<Brief>::OneOf& choice) {
    choice.set(brief, (choice.get(brief) + 1) % choice.options.size());
  }
};

QTEST_APPLESS_MAIN(DescriptionTest)
#include "tst_description.moc"
