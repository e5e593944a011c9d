#include "edit/rename.h"

#include <algorithm>
#include <map>
#include <optional>
#include <unordered_map>

#include "base/interval_index.h"
#include "base/pattern.h"
#include "base/unicode.h"
#include "edit/clip_sets.h"
#include "naming/file_name.h"
#include "routing/track_tree.h"

namespace octaphon {
namespace {

std::string padded(long number, int digits) {
  std::string text = std::to_string(number);
  const auto wanted = static_cast<std::size_t>(std::clamp(digits, 1, 6));
  return text.size() < wanted ? text.insert(0, wanted - text.size(), '0') : text;
}

std::string trimmed(std::string_view part) {
  std::string result;
  for (const char c : part) {
    const bool space = c == ' ' || c == '\t' || c == '\n' || c == '\r';
    if (space && (result.empty() || result.back() == ' ')) continue;
    result += space ? ' ' : c;
  }
  while (!result.empty() && result.back() == ' ') result.pop_back();
  return result;
}

template <class Change>
std::string perPart(std::string_view name, Change&& change) {
  std::string result;
  for (std::size_t at = 0;;) {
    const std::size_t slash = name.find('/', at);
    result += change(name.substr(at, slash == std::string_view::npos ? slash : slash - at));
    if (slash == std::string_view::npos) return result;
    result += '/';
    at = slash + 1;
  }
}

/// Groups and track that hold most of the sound of a span: `Machines/Winch`.
class Hierarchy {
 public:
  explicit Hierarchy(const Session& session) : session_(session), tree_(session) {
    std::vector<IntervalIndex::Interval> intervals;
    for (std::size_t t = 0; t < session.tracks.size(); ++t)
      for (const Clip& clip : session.tracks[t].clips) {
        trackOfClip_.emplace(clip.id, Strip(t));
        if (!clip.mute) intervals.push_back({clip.start, clip.end(), static_cast<std::uint32_t>(t)});
      }
    sounding_ = IntervalIndex(std::move(intervals));
    for (const Region& region : session.regions) spans_[region.id] = {region.start, region.length};
    for (const ClipSet& set : session.clipSets) sets_[set.id] = &set;
  }

  std::string pathOf(const NamedThing& thing) const {
    switch (thing.kind) {
      case NamedKind::Region: return pathOf(most(soundIn(spans_.at(thing.id))));
      case NamedKind::ClipSet: return pathOf(most(clipsOf(*sets_.at(thing.id))));
      case NamedKind::Track: {
        const std::optional<Strip> track = tree_.find(thing.id);
        return track ? pathOf(tree_.parent(*track)) : std::string();
      }
      case NamedKind::Clip: return pathOf(trackOfClip_.at(thing.id));
    }
    return {};
  }

 private:
  using Amounts = std::map<Strip, Frame>;  // by track

  Amounts soundIn(const TimeSpan& span) const {
    Amounts amounts;
    sounding_.overlapping(span.start, span.end(), [&](const IntervalIndex::Interval& found) {
      amounts[Strip(found.item)] += std::min(found.end, span.end()) - std::max(found.start, span.start);
    });
    return amounts;
  }

  Amounts clipsOf(const ClipSet& set) const {
    Amounts amounts;
    for (const std::string& id : set.clips)
      if (const auto found = trackOfClip_.find(id); found != trackOfClip_.end()) ++amounts[found->second];
    return amounts;
  }

  static Strip most(const Amounts& amounts) {
    const auto most = std::max_element(amounts.begin(), amounts.end(),
                                       [](const auto& a, const auto& b) { return a.second < b.second; });
    return most == amounts.end() ? Strip::main() : most->first;
  }

  std::string pathOf(Strip track) const {
    std::string path;
    for (; !track.isMain(); track = tree_.parent(track)) {
      const std::string& name = session_.tracks[track.track()].name;
      path = path.empty() ? name : name + "/" + path;
    }
    return path;
  }

  const Session& session_;
  TrackTree tree_;
  IntervalIndex sounding_;
  std::unordered_map<std::string, Strip> trackOfClip_;
  std::unordered_map<std::string, TimeSpan> spans_;
  std::unordered_map<std::string, const ClipSet*> sets_;
};

class Renamer {
 public:
  Renamer(const Session& session, const RenameRequest& request) : session_(session), request_(request) {}

  Result<> prepare(const std::vector<NamedThing>& things) {
    const bool pattern = request_.step == RenameStep::ReplacePattern;
    if (pattern || (request_.step == RenameStep::Replace && !request_.find.empty())) {
      auto compiled = pattern ? Pattern::compile(request_.find, request_.ignoreCase)
                              : Pattern::literal(request_.find, request_.ignoreCase);
      if (!compiled) return tl::unexpected(compiled.error());
      pattern_.emplace(std::move(*compiled));
    }
    if (request_.step == RenameStep::CloseGaps) findNumbers(things);
    if (request_.step == RenameStep::FromHierarchy) hierarchy_.emplace(session_);
    return {};
  }

  Result<std::string> renamed(const NamedThing& thing) {
    const std::string& name = thing.name;
    const std::string last(lastPart(name));
    const std::string path = name.substr(0, name.size() - last.size());
    switch (request_.step) {
      case RenameStep::Replace:
      case RenameStep::ReplacePattern: return pattern_ ? pattern_->replaceAll(name, request_.with) : name;
      case RenameStep::Trim: return perPart(name, trimmed);
      case RenameStep::Case:
        return perPart(name, [&](std::string_view part) { return withCase(part, request_.letterCase); });
      case RenameStep::Prefix: return path + request_.with + last;
      case RenameStep::Suffix: return name + request_.with;
      case RenameStep::Number: return numbered(name);
      case RenameStep::CloseGaps: return closed(name);
      case RenameStep::FromHierarchy: return fromHierarchy(thing, last);
    }
    return name;
  }

 private:
  std::string numbered(const std::string& name) {
    const std::string base = baseName(name);
    long& last = last_.try_emplace(base, request_.first - 1).first->second;
    return (base.empty() ? std::string("Part") : base) + " " + padded(++last, request_.digits);
  }

  /// Numbers that are there, by base and what separates them from it.
  void findNumbers(const std::vector<NamedThing>& things) {
    for (const NamedThing& thing : things) {
      const std::string digits(numberAtEnd(thing.name));
      if (digits.empty() || digits.size() > 9) continue;
      numbers_[thing.name.substr(0, thing.name.size() - digits.size())].push_back(std::stol(digits));
    }
    for (auto& [stem, numbers] : numbers_) {
      std::sort(numbers.begin(), numbers.end());
      numbers.erase(std::unique(numbers.begin(), numbers.end()), numbers.end());
    }
  }

  std::string closed(const std::string& name) {
    const std::string digits(numberAtEnd(name));
    if (digits.empty() || digits.size() > 9) return name;
    const std::string stem = name.substr(0, name.size() - digits.size());
    const std::vector<long>& numbers = numbers_.at(stem);
    const auto rank = std::lower_bound(numbers.begin(), numbers.end(), std::stol(digits)) - numbers.begin();
    return stem + padded(numbers.front() + rank, static_cast<int>(digits.size()));
  }

  std::string fromHierarchy(const NamedThing& thing, const std::string& last) const {
    const std::string path = hierarchy_->pathOf(thing);
    if (path.empty()) return thing.name;
    return isDefaultName(last) ? path : path + "/" + last;
  }

  const Session& session_;
  const RenameRequest& request_;
  std::optional<Hierarchy> hierarchy_;  // of FromHierarchy
  std::optional<Pattern> pattern_;
  std::map<std::string, long> last_;
  std::map<std::string, std::vector<long>> numbers_;
};

template <class Thing, class List>
EditCount giveNames(List& things, const std::map<std::string, const std::string*>& names,
                    const std::function<bool(const Thing&)>& isLocked) {
  EditCount count;
  if (names.empty()) return count;
  const auto isGiven = [&](const Thing& thing) {
    const auto found = names.find(thing.id);
    if (found == names.end() || thing.name == *found->second) return false;
    const bool stays = isLocked(thing);
    ++(stays ? count.locked : count.changed);
    return !stays;
  };
  changeWhere(things, isGiven, [&](Thing& thing) { thing.name = *names.at(thing.id); });
  return count;
}

template <class Thing>
bool locked(const Thing& thing) {
  return thing.lock;
}

}  // namespace

std::vector<NamedThing> namedThings(const Session& session, NamedKind kind) {
  std::vector<std::pair<Frame, NamedThing>> found;
  const TrackTree tree(session);
  if (kind == NamedKind::Region)
    for (const Region& region : session.regions)
      found.push_back({region.start, {kind, region.id, region.name, region.lock}});
  if (kind == NamedKind::ClipSet)
    for (const ClipSet& set : session.clipSets)
      found.push_back(
          {extentOf(session, set).value_or(TimeSpan{}).start, {kind, set.id, set.name, set.lock}});
  std::stable_sort(found.begin(), found.end(),
                   [](const auto& a, const auto& b) { return a.first < b.first; });
  for (const Strip index : tree.order()) {
    const Track& track = session.tracks[index.track()];
    if (kind == NamedKind::Track) found.push_back({0, {kind, track.id, track.name, track.lock}});
    if (kind == NamedKind::Clip)
      for (const Clip& clip : track.clips)
        found.push_back({0, {kind, clip.id, clip.name, clip.lock || track.lock}});
  }
  std::vector<NamedThing> things;
  things.reserve(found.size());
  for (auto& [start, thing] : found) things.push_back(std::move(thing));
  return things;
}

Result<std::vector<Renaming>> previewRename(const Session& session, const std::vector<NamedThing>& things,
                                            const RenameRequest& request) {
  Renamer renamer(session, request);
  OCTAPHON_TRY(renamer.prepare(things));
  std::vector<Renaming> preview;
  for (const NamedThing& thing : things) {
    Renaming renaming{thing, thing.name, {}};
    if (thing.lock) {
      renaming.skipped = "locked";
    } else if (request.onlyDefault && !isDefaultName(lastPart(thing.name))) {
      renaming.skipped = "has a name of its own";
    } else {
      OCTAPHON_ASSIGN(renaming.after, renamer.renamed(thing));
      if (renaming.after == thing.name) renaming.skipped = "stays the same";
    }
    preview.push_back(std::move(renaming));
  }
  return preview;
}

EditCount applyNames(Session& session, const std::vector<Renaming>& renamings) {
  std::map<NamedKind, std::map<std::string, const std::string*>> names;
  for (const Renaming& renaming : renamings)
    if (renaming.skipped.empty()) names[renaming.thing.kind][renaming.thing.id] = &renaming.after;
  EditCount all;
  const auto add = [&](const EditCount& count) {
    all.changed += count.changed;
    all.locked += count.locked;
  };
  add(giveNames<Region>(session.regions, names[NamedKind::Region], locked<Region>));
  add(giveNames<ClipSet>(session.clipSets, names[NamedKind::ClipSet], locked<ClipSet>));
  add(giveNames<Track>(session.tracks, names[NamedKind::Track], locked<Track>));
  for (Track& track : session.tracks)
    add(giveNames<Clip>(track.clips, names[NamedKind::Clip],
                        [&](const Clip& clip) { return clip.lock || track.lock; }));
  return all;
}

bool isDefaultName(std::string_view name) {
  const std::string word = foldedName(trimmed(baseName(name)));
  if (word.empty()) return true;
  static const std::vector<std::string> kGiven{"clip",  "clip set", "region", "track",
                                               "group", "markers",  "part"};
  return std::find(kGiven.begin(), kGiven.end(), word) != kGiven.end();
}

}  // namespace octaphon
