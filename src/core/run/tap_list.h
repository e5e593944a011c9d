// The taps of a pass: each node once, with what it takes to make it in another process.
#pragma once

#include <algorithm>
#include <vector>

#include "run/plugin_passes.h"

namespace octaphon {

class TapList {
 public:
  /// Index of the tap of a node (or kSilentNode), which it is given where it is new.
  std::size_t add(NodeIndex node, TapRequest request) {
    const auto found = std::find(nodes_.begin(), nodes_.end(), node);
    if (found != nodes_.end()) return static_cast<std::size_t>(found - nodes_.begin());
    nodes_.push_back(node);
    requests_.push_back(std::move(request));
    return nodes_.size() - 1;
  }
  const std::vector<NodeIndex>& nodes() const { return nodes_; }
  const std::vector<TapRequest>& requests() const { return requests_; }

 private:
  std::vector<NodeIndex> nodes_;
  std::vector<TapRequest> requests_;
};

}  // namespace octaphon
