// What a file asks of its sound, from its tap to its samples.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/extent.h"
#include "base/fade_shape.h"
#include "brief/loop.h"
#include "finish/round.h"
#include "finish/spool.h"
#include "level/levels.h"

namespace octaphon {

/// A fade at one end of a file, in its frames.
struct EdgeFade {
  Frame frames = 0;
  FadeShape shape = FadeShape::Linear;
};

/// How one lap is made of what is played, in frames of the session.
struct LapPlan {
  LoopWay way = LoopWay::None;  ///< None and Overlap: none is
  Frame before = 0;             ///< played before the body: lead-in, what is blended in, or room to search
  Frame body = 0;
  int laps = 1;             ///< played one behind the other
  bool keepsIntro = false;  ///< all before the kept lap stays in the file
  BlendLaw blendLaw = BlendLaw::ByLikeness;
  bool isSearched = false;  ///< its places are decided on the way
  bool isMade() const { return way != LoopWay::None && way != LoopWay::Overlap; }
};

/// What was found out about a loop, for all files of its span.
struct LoopDecision {
  BlendLaw blendLaw = BlendLaw::EqualPower;
  Frame from = 0, frames = 0;  ///< of a plain join, from the first frame played
};

/// How loud a file is made.
struct LevelPlan {
  std::optional<double> gainDb = 0.0;        ///< nothing: it is found on the way
  std::optional<LevelsAsked> measures = {};  ///< of the sound before any gain; nothing: not even its peak
  std::optional<LevelsAsked> judges = {};    ///< of the file, behind gain and limiter
  bool isMeasuredOnly = false;               ///< no file comes of it
  std::optional<double> limitDb = {};        ///< a limiter keeps it under this, in dBTP
  std::optional<double> searchedLufs =
      {};                  ///< with the limiter, the gain is found by turns for this loudness
  Spool* spool = nullptr;  ///< where it waits; null: in memory, and the system's files
  bool isAny() const { return gainDb != 0.0 || measures || judges || isMeasuredOnly || limitDb; }
};

struct FinishPlan {
  int tapped = 2;     ///< channels where it is taken off
  Frame latency = 0;  ///< frames that the tap lies behind the session
  ExtentPlan extent;
  Frame tail = 0;         ///< frames of the session; of one that is decided on the way, the most
  bool isDecided = true;  ///< the tail's length is known; else FinishChain::decide() says it
  /// Frames of the session that come before the file's first one and after its last: what a converter needs
  /// to hear. `before` are given; what is missing of `context` there is silence.
  Frame context = 0, before = 0;
  std::optional<double> trimDb;  ///< dBFS
  LapPlan loop;
  EdgeFade fadeIn, fadeOut;
  LevelPlan level;
  SampleForm form;
  /// Of a file that holds one channel of several: how many, and which, from 1; 0: it holds all.
  int folded = 0, part = 0;

  /// Frames of the session before the tail: with those of a lap that comes before it.
  Frame beforeTail() const {
    return loop.isMade() ? loop.before + loop.body * loop.laps : extent.leadIn + extent.body;
  }
};

/// What is known of a sound when it has gone through.
struct SoundFacts {
  Frame tail = 0;  ///< frames of the session; the most as long as it is not decided
  Kept kept = {};
  bool isCut = false;  ///< the exact length ended it
  float cutLevel = 0;  ///< largest magnitude in the last 10 ms before that
  float lapDifference =
      0;  ///< largest, of a later lap and the kept one; full scale, or its own peak if that is more, 1
  std::vector<std::vector<float>> goesOn = {};  ///< by channel of the tap: how a later lap begins
  std::optional<double> foldLeftDb = {};        ///< what is folded was stopped by its limit, at so many dBFS
  double offset = 0;                            ///< largest mean of a channel of the file, full scale 1
};

}  // namespace octaphon
