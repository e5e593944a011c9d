// How a recipe follows sources through strips; known to the recipe alone.
#pragma once

#include <algorithm>
#include <queue>

#include "recipe/recipe.h"

namespace octaphon {

/// One strip in one walk: what comes in, and what it becomes.
struct SpanRecipe::VisitedStrip {
  struct Input {
    int place;
    NodeIndex node;
  };
  Strip strip = Strip::main();
  std::vector<Input> inputs;
  NodeIndex clips = kSilentNode, pre = kSilentNode, out = kSilentNode;
  std::vector<NodeIndex> beforeInsert;  // by insert; only in full runs
};

/// Some sources on their walks, or (full) everything.
struct SpanRecipe::Walk {
  struct Point {
    Strip strip;
    ReachStage stage;  // Clips, Inserts or Track
    bool operator==(const Point&) const = default;
  };
  BriefWalks* walks = nullptr;
  bool isFull = false;
  bool followsReturns = true;
  std::vector<Point> points;
  std::map<Strip, VisitedStrip> strips;
  std::priority_queue<std::pair<int, Strip>, std::vector<std::pair<int, Strip>>, std::greater<>>
      open;  // rank, strip
  std::map<std::pair<Strip, std::size_t>, std::vector<NodeIndex>>
      keys;  // full: by strip and insert, what is sent there
  std::vector<SignalIssue> issues;

  void note(RemarkCode code, Strip strip, std::string what) {
    SignalIssue issue{code, strip, std::move(what)};
    if (std::find(issues.begin(), issues.end(), issue) == issues.end()) issues.push_back(std::move(issue));
  }
};

struct SpanRecipe::BriefWalks {
  const Brief* brief = nullptr;
  std::map<Strip, const Overrides*> exceptions;  // by strip
  std::unique_ptr<Walk> full;
};

}  // namespace octaphon
