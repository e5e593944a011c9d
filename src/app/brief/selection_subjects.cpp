#include "app/brief/selection_subjects.h"

#include <set>

#include "app/work/text.h"
#include "naming/file_name.h"
#include "plan/chosen_words.h"

namespace octaphon::app {
namespace {

using Values = QList<std::pair<QString, QString>>;

Values inks() {
  Values values;
  for (int ink = 1; ink <= kInks; ++ink)
    values.push_back({QObject::tr("ink %1").arg(ink), QString::number(ink)});
  return values;
}

Values plain(const std::set<std::string>& texts) {
  Values values;
  for (const std::string& each : texts) values.push_back({text(each), text(each)});
  return values;
}

/// Every path that something lies under.
template <class Thing>
void addPaths(std::set<std::string>& paths, const std::vector<Thing>& things) {
  for (const Thing& thing : things)
    for (std::size_t slash = thing.name.find('/'); slash != std::string::npos;
         slash = thing.name.find('/', slash + 1))
      if (slash > 0) paths.insert(thing.name.substr(0, slash));
}

template <class Thing>
void addTags(std::set<std::string>& tags, const std::vector<Thing>& things) {
  for (const Thing& thing : things) tags.insert(thing.tags.begin(), thing.tags.end());
}

template <class Thing>
Values spanValues(PickBy by, const std::vector<Thing>& things) {
  std::set<std::string> texts;
  if (by == PickBy::Colour) return inks();
  if (by == PickBy::Under) addPaths(texts, things);
  if (by == PickBy::Tag) addTags(texts, things);
  return plain(texts);
}

QList<SelectionSubject::Rule> spanRules() {
  return {{PickBy::All, QObject::tr("all")},
          {PickBy::Under, QObject::tr("under")},
          {PickBy::Named, QObject::tr("named")},
          {PickBy::Colour, QObject::tr("in colour"), true},
          {PickBy::Tag, QObject::tr("tagged")}};
}

Values stripsOfKind(const Session& session, bool withTracks) {
  Values values;
  for (const Track& track : session.tracks)
    if (track.isGroup() || (withTracks && track.holdsClips()))
      values.push_back({text(track.name), text(track.id)});
  return values;
}

}  // namespace

SelectionSubject regionsSubject(Work& work) {
  return {QObject::tr("Regions"), spanRules(),
          [&work](PickBy by) { return spanValues(by, work.session()->regions.all()); },
          [&work] { return regionsKind(*work.session()); }};
}

SelectionSubject clipSetsSubject(Work& work) {
  return {QObject::tr("Clip sets"), spanRules(),
          [&work](PickBy by) { return spanValues(by, work.session()->clipSets.all()); },
          [&work] { return clipSetsKind(*work.session()); }};
}

SelectionSubject clipsSubject(Work& work) {
  return {QObject::tr("Each clip"),
          {{PickBy::All, QObject::tr("all")},
           {PickBy::Under, QObject::tr("on"), true},
           {PickBy::Named, QObject::tr("named")},
           {PickBy::Colour, QObject::tr("in colour"), true}},
          [&work](PickBy by) {
            if (by == PickBy::Under) return stripsOfKind(*work.session(), true);
            return by == PickBy::Colour ? inks() : Values();
          },
          [&work] { return tracksKind(*work.session(), "clip"); }};
}

SelectionSubject markersSubject(Work& work) {
  return {QObject::tr("Between markers"),
          {{PickBy::All, QObject::tr("all")}, {PickBy::Named, QObject::tr("of the set")}},
          [&work](PickBy) {
            std::set<std::string> names;
            for (const MarkerSet& set : work.session()->markerSets) names.insert(set.name);
            return plain(names);
          },
          [] {
            return PickedKind{"set", nullptr};
          }};
}

SelectionSubject stripsSubject(Work& work, TrackKind kind) {
  const bool isGroup = kind == TrackKind::Group;
  SelectionSubject subject;
  subject.title = isGroup                    ? QObject::tr("Groups")
                  : kind == TrackKind::Track ? QObject::tr("Tracks")
                                             : QObject::tr("Returns");
  subject.rules = {{PickBy::All, QObject::tr("all")},
                   {PickBy::Under, QObject::tr("in group"), true},
                   {PickBy::Named, QObject::tr("named")},
                   {PickBy::Colour, QObject::tr("in colour"), true},
                   {PickBy::Tag, QObject::tr("tagged")}};
  if (isGroup) subject.rules.push_back({PickBy::Level, QObject::tr("on level"), true});
  subject.values = [&work](PickBy by) {
    std::set<std::string> texts;
    Values levels;
    switch (by) {
      case PickBy::Under: return stripsOfKind(*work.session(), false);
      case PickBy::Colour: return inks();
      case PickBy::Level:
        for (int level = 1; level <= 9; ++level)
          levels.push_back({QString::number(level), QString::number(level)});
        return levels;
      case PickBy::Tag: addTags(texts, work.session()->tracks); break;
      default: break;
    }
    return plain(texts);
  };
  const char* singular = isGroup ? "group" : kind == TrackKind::Track ? "track" : "return";
  subject.kind = [&work, singular] { return tracksKind(*work.session(), singular); };
  return subject;
}

}  // namespace octaphon::app
