#include "plan/partition.h"

#include <algorithm>

#include "base/unicode.h"

namespace octaphon {
namespace {

/// Looks whether layers hold every audible sound once. Each step gives what stands against it; nothing where
/// all is well.
class PartitionCheck {
 public:
  PartitionCheck(SpanRecipe& recipe, const PlannedBrief& brief, const PlannedSpan& span)
      : recipe_(recipe),
        brief_(brief),
        span_(span),
        session_(recipe.context().session()),
        tree_(recipe.context().tree()),
        carried_(brief.brief.heard.withReturns == Returns::In),
        times_(session_.tracks.size(), 0),
        isReturnPrinted_(session_.tracks.size(), 0) {}

  SumCheck check(const std::vector<std::size_t>& present) {
    for (const std::size_t index : present) take(index);
    check_.text = problem();
    check_.isJudged = check_.text.empty();
    return check_;
  }

 private:
  std::string nameOf(Strip strip) const { return printable(session_.tracks[strip.track()].name, 60); }

  /// A source is one of the layers, but for mixes, and returns whose shares the layers carry already.
  void take(std::size_t index) {
    const PlannedSource& source = brief_.sources[index];
    if (source.isWhole() || source.kind == PlannedSource::Kind::Together) return;
    if (source.kind == PlannedSource::Kind::Return) {
      if (carried_) return;
      isReturnPrinted_[source.track.track()] = 1;
    } else {
      const std::vector<Strip> tops =
          source.kind == PlannedSource::Kind::Sum ? source.tracks : std::vector{source.track};
      for (std::size_t t = 0; t < times_.size(); ++t)
        for (const Strip top : tops) times_[t] += tree_.isInside(Strip(t), top) ? 1 : 0;
    }
    check_.sources.push_back(index);
  }

  std::string problem() const {
    if (check_.sources.empty()) return "there are no layers to add up";
    if (brief_.brief.ends.trimDb) return "silence is trimmed off each file on its own";
    std::string text = missingOrTwice();
    if (!text.empty()) return text;
    return carried_ ? returnBeyondReach() : returnInNoFile();
  }

  std::string missingOrTwice() const {
    std::vector<char> active(session_.tracks.size(), 0);  // 1: rings on from before, 2: sounds in the span
    for (const HeardClip& clip : recipe_.heard())
      if (!tree_.isHelper(clip.track) && clip.from < span_.end())
        active[clip.track.track()] =
            static_cast<char>(active[clip.track.track()] | (clip.to > span_.first() ? 2 : 1));
    for (const Strip track : tree_.order()) {
      const auto t = track.track();
      if (active[t] == 1 && times_[t] == 0)
        return nameOf(track) + " may ring on from before the span and is in none of the layers";
      if (active[t] != 0 && times_[t] == 0) return nameOf(track) + " is in none of the layers";
      if (active[t] != 0 && times_[t] > 1) return nameOf(track) + " is in several of the layers";
    }
    return {};
  }

  std::string returnInNoFile() const {
    for (const Strip strip : tree_.order()) {
      const bool isFile = isReturnPrinted_[strip.track()] != 0;
      if (isFile || !session_.tracks[strip.track()].isReturn() || tree_.isMuted(strip)) continue;
      PlannedSource through;
      through.kind = PlannedSource::Kind::Return;
      through.track = strip;
      if (recipe_.tap(brief_.brief, through).node != kSilentNode)
        return "what goes through " + nameOf(strip) + " is in none of the layers";
    }
    return {};
  }

  std::string returnBeyondReach() const {
    for (const std::size_t index : check_.sources)
      for (const SignalIssue& issue : recipe_.tap(brief_.brief, brief_.sources[index]).issues)
        if (issue.code == RemarkCode::ReturnBeyondReach)
          return "what goes through " + nameOf(issue.strip) +
                 " joins beyond the reach and is in none of the layers";
    return {};
  }

  SpanRecipe& recipe_;
  const PlannedBrief& brief_;
  const PlannedSpan& span_;
  const Session& session_;
  const TrackTree& tree_;
  bool carried_;
  std::vector<int> times_;  // by track: in how many of the layers
  std::vector<char> isReturnPrinted_;
  SumCheck check_;
};

}  // namespace

SumCheck sumCheckOf(SpanRecipe& recipe, const PlannedBrief& brief, const PlannedSpan& span,
                    const std::vector<std::size_t>& present) {
  return PartitionCheck(recipe, brief, span).check(present);
}

}  // namespace octaphon
