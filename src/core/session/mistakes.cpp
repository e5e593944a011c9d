#include "session/mistakes.h"

#include <algorithm>
#include <unordered_map>
#include <unordered_set>

#include "base/hash.h"

namespace octaphon {
namespace {

using MaybeMistake = std::optional<Mistake>;

MaybeMistake beyondEnd(const char* key, Frame start, Frame length) {
  if (checkedSum(start, length)) return std::nullopt;
  return Mistake{key, "it ends beyond frame 2^53 - 1"};
}

MaybeMistake fadeTooLong(const char* key, const Fade& fade, Frame length) {
  if (fade.length <= length) return std::nullopt;
  return Mistake{std::string(key) + ".length", "the fade is longer than its clip",
                 "Make it at most the clip's length"};
}

std::string placeOf(const std::string& list, std::size_t index) {
  return list + "[" + std::to_string(index) + "]";
}

/// Ids of one kind, gathered from wherever they are given.
class Ids {
 public:
  template <class List>
  void add(const List& things, const std::string& list) {
    for (std::size_t i = 0; i < things.size() && !mistake_; ++i)
      if (!ids_.insert(things[i].id).second)
        mistake_ = {placeOf(list, i) + ".id", "'" + things[i].id + "' is there twice", "Ids are given once"};
  }
  bool contains(std::string_view id) const { return ids_.contains(id); }
  const MaybeMistake& mistake() const { return mistake_; }

 private:
  std::unordered_set<std::string_view> ids_;
  MaybeMistake mistake_;
};

template <class List>
MaybeMistake idTwice(const List& things, const std::string& list) {
  Ids ids;
  ids.add(things, list);
  return ids.mistake();
}

class SessionCheck {
 public:
  explicit SessionCheck(const Session& session) : session_(session) {}

  MaybeMistake run() {
    using Step = MaybeMistake (SessionCheck::*)();
    for (const Step step :
         {&SessionCheck::lists, &SessionCheck::clips, &SessionCheck::inserts, &SessionCheck::markers,
          &SessionCheck::sums, &SessionCheck::groups, &SessionCheck::circles, &SessionCheck::sends})
      if (MaybeMistake mistake = (this->*step)()) return mistake;
    return std::nullopt;
  }

 private:
  static std::string track(std::size_t index) { return placeOf("tracks", index); }

  MaybeMistake lists() {
    for (MaybeMistake mistake :
         {idTwice(session_.media, "media"), idTwice(session_.tracks, "tracks"),
          idTwice(session_.regions, "regions"), idTwice(session_.markerSets, "marker_sets"),
          idTwice(session_.clipSets, "clip_sets"), idTwice(session_.briefs, "briefs")})
      if (mistake) return mistake;
    return std::nullopt;
  }

  MaybeMistake clips() {
    Ids ids, media;
    media.add(session_.media, "media");
    for (std::size_t t = 0; t < session_.tracks.size(); ++t) {
      const std::string list = track(t) + ".clips";
      const std::vector<Clip>& clips = session_.tracks[t].clips;
      ids.add(clips, list);
      if (ids.mistake()) return ids.mistake();
      for (std::size_t c = 0; c < clips.size(); ++c)
        if (!media.contains(clips[c].medium))
          return Mistake{placeOf(list, c) + ".medium", "there is no medium '" + clips[c].medium + "'",
                         "Add it to media, or take the clip out"};
    }
    return std::nullopt;
  }

  MaybeMistake inserts() {
    insertIds_.add(session_.main.inserts, "main.inserts");
    for (std::size_t t = 0; t < session_.tracks.size(); ++t) {
      insertIds_.add(session_.tracks[t].inserts, track(t) + ".inserts");
      const std::vector<Clip>& clips = session_.tracks[t].clips;
      for (std::size_t c = 0; c < clips.size(); ++c)
        if (!clips[c].inserts.empty())
          insertIds_.add(clips[c].inserts, placeOf(track(t) + ".clips", c) + ".inserts");
      if (MaybeMistake mistake = targetTwice(session_.tracks[t].automation, track(t) + ".automation"))
        return mistake;
    }
    if (MaybeMistake mistake = targetTwice(session_.main.automation, "main.automation")) return mistake;
    return insertIds_.mistake();
  }

  static MaybeMistake targetTwice(const std::vector<Automation>& curves, const std::string& list) {
    std::unordered_set<std::string_view> targets;
    for (std::size_t i = 0; i < curves.size(); ++i)
      if (!targets.insert(curves[i].target).second)
        return Mistake{placeOf(list, i) + ".target", "'" + curves[i].target + "' is there twice"};
    return std::nullopt;
  }

  MaybeMistake markers() {
    Ids ids;
    for (std::size_t s = 0; s < session_.markerSets.size(); ++s)
      ids.add(session_.markerSets[s].markers, placeOf("marker_sets", s) + ".markers");
    return ids.mistake();
  }

  MaybeMistake sums() {
    for (std::size_t b = 0; b < session_.briefs.size(); ++b)
      if (MaybeMistake mistake = idTwice(session_.briefs[b].what.sums, placeOf("briefs", b) + ".sums"))
        return mistake;
    return std::nullopt;
  }

  /// Groups that are named exist, and are groups.
  MaybeMistake groups() {
    std::unordered_map<std::string_view, std::size_t> byId;
    for (std::size_t i = 0; i < session_.tracks.size(); ++i) byId.emplace(session_.tracks[i].id, i);
    parents_.assign(session_.tracks.size(), session_.tracks.size());
    for (std::size_t i = 0; i < session_.tracks.size(); ++i) {
      const std::string& group = session_.tracks[i].group;
      if (group.empty()) continue;
      const auto found = byId.find(group);
      if (found == byId.end())
        return Mistake{track(i) + ".group", "there is no group '" + group + "'",
                       "Name a group, or leave the key out for main"};
      if (!session_.tracks[found->second].isGroup())
        return Mistake{track(i) + ".group", "'" + group + "' is a track, not a group", "Name a group"};
      parents_[i] = found->second;
    }
    return std::nullopt;
  }

  MaybeMistake circles() {
    enum class State : char { Unknown, OnTheWay, ReachesMain };
    std::vector<State> state(parents_.size(), State::Unknown);
    for (std::size_t i = 0; i < parents_.size(); ++i) {
      std::vector<std::size_t> way;
      std::size_t at = i;
      for (; at < parents_.size() && state[at] == State::Unknown; at = parents_[at]) {
        state[at] = State::OnTheWay;
        way.push_back(at);
      }
      if (at < parents_.size() && state[at] == State::OnTheWay)
        return Mistake{track(at) + ".group", "the group is inside itself",
                       "Take one of the groups out of the circle"};
      for (const std::size_t passed : way) state[passed] = State::ReachesMain;
    }
    return std::nullopt;
  }

  /// Sends lead to returns and inserts. Whether they feed themselves is asked while planning.
  MaybeMistake sends() {
    std::unordered_set<std::string_view> returns;
    for (const Track& strip : session_.tracks)
      if (strip.isReturn()) returns.insert(strip.id);
    Ids ids;
    for (std::size_t t = 0; t < session_.tracks.size(); ++t) {
      const std::vector<Send>& sends = session_.tracks[t].sends;
      const std::string list = track(t) + ".sends";
      ids.add(sends, list);
      if (ids.mistake()) return ids.mistake();
      for (std::size_t s = 0; s < sends.size(); ++s)
        if (!returns.contains(sends[s].to) && !insertIds_.contains(sends[s].to))
          return Mistake{placeOf(list, s) + ".to", "there is no return or insert '" + sends[s].to + "'",
                         "Name one, or take the send out"};
    }
    return std::nullopt;
  }

  const Session& session_;
  Ids insertIds_;
  std::vector<std::size_t> parents_;
};

}  // namespace

std::optional<Mistake> mistakeIn(const Medium& medium) {
  if (medium.file.starts_with('/'))
    return Mistake{"file", "the path is absolute", "Give a path relative to the session file"};
  if (!medium.content.empty() && Digest::fromHex(medium.content).empty())
    return Mistake{"content", "32 hexadecimal digits are needed"};
  return std::nullopt;
}

std::optional<Mistake> mistakeIn(const Automation& curve) {
  if (curve.points.empty()) return Mistake{"points", "a curve needs a point"};
  return std::nullopt;
}

std::optional<Mistake> mistakeIn(const Clip& clip) {
  for (MaybeMistake mistake :
       {beyondEnd("length", clip.start, clip.length), beyondEnd("offset", clip.offset, clip.length),
        fadeTooLong("fade_in", clip.fadeIn, clip.length), fadeTooLong("fade_out", clip.fadeOut, clip.length)})
    if (mistake) return mistake;
  return std::nullopt;
}

std::optional<Mistake> mistakeIn(const Track& track) {
  if (track.holdsClips() || track.clips.empty()) return std::nullopt;
  return Mistake{"clips", "a " + std::string(nameOf(track.kind)) + " holds no clips", "Put them on a track"};
}

std::optional<Mistake> mistakeIn(const Region& region) {
  return beyondEnd("length", region.start, region.length);
}

std::optional<Mistake> mistakeIn(const ClipSet& set) {
  return set.span ? beyondEnd("length", set.span->start, set.span->length) : std::nullopt;
}

std::optional<Mistake> mistakeIn(const TimeSpan& span) {
  return beyondEnd("length", span.start, span.length);
}

std::optional<Mistake> mistakeIn(const Pick& pick) {
  const bool isNumber = pick.by == PickBy::Colour || pick.by == PickBy::Level;
  if (isNumber && (pick.number < 1 || (pick.by == PickBy::Colour && pick.number > kInks)))
    return Mistake{
        "number", "'" + std::string(nameOf(pick.by)) + "' needs a number",
        pick.by == PickBy::Colour ? "Give an ink from 1 to 8" : "Give a level, 1 is right below main"};
  if (!isNumber && pick.by != PickBy::All && pick.value.empty())
    return Mistake{"value", "'" + std::string(nameOf(pick.by)) + "' needs a value", "Name what it goes by"};
  return std::nullopt;
}

std::optional<Mistake> mistakeAfter(const TempoPoint* before, const TempoPoint& point) {
  if (before == nullptr && point.at != 0) return Mistake{"at", "the first point must be at frame 0"};
  if (before != nullptr && point.at <= before->at) return Mistake{"at", "points must come in order of time"};
  return std::nullopt;
}

std::optional<Mistake> mistakeAfter(const CurvePoint* before, const CurvePoint& point) {
  if (before != nullptr && point.at <= before->at) return Mistake{"at", "points must come in order of time"};
  return std::nullopt;
}

std::optional<Mistake> mistakeIn(const Session& session) { return SessionCheck(session).run(); }

}  // namespace octaphon
