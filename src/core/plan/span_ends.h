// The ends of one span's files, from what its brief and the span itself ask for.
#pragma once

#include <vector>

#include "base/extent.h"
#include "base/remark.h"
#include "base/tempo_map.h"
#include "brief/brief.h"
#include "recipe/span.h"
#include "session/session.h"

namespace octaphon {

/// The loop of one span's files.
struct SpanLoopPlan {
  Loop asked;                   ///< the brief's, with what the span has of its own
  Frame blend = 0, search = 0;  ///< frames of the session
  bool isLengthKept = false;    ///< a plain join moves, and stays as long as it is
  std::optional<double> beats;  ///< of the body; nothing without a tempo

  bool isThere() const { return asked.way != LoopWay::None; }
  /// The file is one lap (with what came before it): it is played over and over as it is.
  bool isLap() const { return isThere() && asked.way != LoopWay::Overlap; }
  /// Its places are known once its sound was heard.
  bool isSearched() const { return asked.way == LoopWay::Plain && search > 0; }
  /// Places or gains are found in the mix of the span.
  bool waitsForMix() const {
    return isSearched() || (asked.way == LoopWay::Blend && asked.blendLaw == BlendLaw::ByLikeness);
  }
};

struct SpanEnds {
  Ends asked;                     ///< the brief's, with what the span has of its own
  ExtentPlan extent;              ///< of its files
  Frame limit = 0;                ///< frames of the session that the tail has; of one that rings out, at most
  Frame fadeIn = 0, fadeOut = 0;  ///< frames of the file
  SpanLoopPlan loop;
  std::vector<Remark> faults;  ///< what cannot be had together

  /// Whether the length is known only when the sound has been heard.
  bool isMeasured() const {
    return (asked.tail == Tail::RingsOut && asked.exactSeconds <= 0 && !loop.isLap()) || isCutByHearing();
  }
  /// What is left of its sound is known once it was heard: row by row where it is trimmed.
  bool isCutByHearing() const {
    return asked.trimDb.has_value() || (loop.isSearched() && !loop.isLengthKept);
  }
  /// The longest file there can be.
  Extent most() const;
  /// Frames of the shortest.
  Frame least() const;
};

/// What ends cost of bars.
class SpanEndsPlanner {
 public:
  /// Keeps a reference.
  explicit SpanEndsPlanner(const Session& session) : session_(session), tempo_(session.tempo, session.rate) {}

  /// Of files at the first of these rates. Sets lead-in, tail and context of the span too, for all of them.
  SpanEnds plan(const Brief& brief, const OwnEnds& own, const OwnLoop& ownLoop, const std::vector<int>& rates,
                PlannedSpan& span) const;
  /// The same of files at another rate, once nothing else changes any more.
  static SpanEnds converted(SpanEnds ends, const PlannedSpan& span, int rate);
  /// Laps are so many; of an inner lap.
  void setLaps(SpanEnds& ends, PlannedSpan& span, int laps) const;
  /// The body gets another length, as its variations have.
  void setBody(SpanEnds& ends, PlannedSpan& span, Frame body) const;

 private:
  void planTails(SpanEnds& ends, PlannedSpan& span) const;
  void planLoop(SpanEnds& ends, PlannedSpan& span) const;
  Frame bodyOf(const Loop& loop, const PlannedSpan& span) const;
  void checkLoop(SpanEnds& ends, const PlannedSpan& span) const;
  void checkEnds(SpanEnds& ends, const PlannedSpan& span) const;
  Frame tailOf(const Ends& ends, const PlannedSpan& span) const;
  Frame leadInOf(const Ends& ends, const PlannedSpan& span) const;

  const Session& session_;
  TempoMap tempo_;
};

}  // namespace octaphon
