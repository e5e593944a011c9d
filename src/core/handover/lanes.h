// Tracks below each other, for clips that may overlap.
#pragma once

#include <algorithm>
#include <optional>
#include <string>
#include <vector>

#include "base/frames.h"

namespace octaphon {

class Lanes {
 public:
  /// The id of the first track that is free from `start` on, which is taken then; nothing where none is.
  /// Clips come in the order of their starts.
  std::optional<std::string> take(Frame start, Frame end) {
    for (Lane& lane : lanes_)
      if (lane.end <= start) {
        lane.end = end;
        return lane.track;
      }
    return std::nullopt;
  }
  void add(std::string track, Frame end) { lanes_.push_back({std::move(track), end}); }
  bool empty() const { return lanes_.empty(); }
  /// Behind the name of the next one: nothing, then ` 2` …
  std::string suffix() const {
    return lanes_.empty() ? std::string() : " " + std::to_string(lanes_.size() + 1);
  }

 private:
  struct Lane {
    std::string track;  // its id
    Frame end;          // of its last clip
  };
  std::vector<Lane> lanes_;
};

/// A file's name without its ending.
inline std::string stemOf(const std::string& file) {
  const std::size_t dot = file.rfind('.'), slash = file.rfind('/');
  const bool hasEnding = dot != std::string::npos && (slash == std::string::npos || dot > slash + 1);
  return hasEnding ? file.substr(0, dot) : file;
}

}  // namespace octaphon
