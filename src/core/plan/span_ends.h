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

struct SpanEnds {
  Ends asked;                     ///< the brief's, with what the span has of its own
  ExtentPlan extent;              ///< of its files
  Frame limit = 0;                ///< frames of the session that the tail has; of one that rings out, at most
  Frame fadeIn = 0, fadeOut = 0;  ///< frames of the file
  std::vector<Remark> faults;     ///< what cannot be had together

  /// Whether the length is known only when the sound has been heard.
  bool isMeasured() const {
    return (asked.tail == Tail::RingsOut && asked.exactSeconds <= 0) || asked.trimDb.has_value();
  }
  /// The longest file there can be.
  Extent most() const { return extentOf(extent, limit); }
  /// Frames of the shortest.
  Frame least() const;
};

/// What ends cost of bars.
class SpanEndsPlanner {
 public:
  /// Keeps a reference.
  explicit SpanEndsPlanner(const Session& session) : session_(session), tempo_(session.tempo, session.rate) {}

  /// Sets lead-in, tail and context of the span too.
  SpanEnds plan(const Brief& brief, const OwnEnds& own, PlannedSpan& span) const;

 private:
  void checkEnds(SpanEnds& ends, const PlannedSpan& span) const;
  Frame tailOf(const Ends& ends, const PlannedSpan& span) const;
  Frame leadInOf(const Ends& ends, const PlannedSpan& span) const;

  const Session& session_;
  TempoMap tempo_;
};

}  // namespace octaphon
