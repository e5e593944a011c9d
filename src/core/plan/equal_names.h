// Which of many names are equal, found by sorting their hashes: no name has to be kept for it.
#pragma once

#include <tbb/blocked_range.h>
#include <tbb/parallel_for.h>
#include <tbb/parallel_sort.h>

#include <algorithm>
#include <optional>
#include <string>
#include <tuple>
#include <vector>

#include "base/hash.h"

namespace octaphon {

class EqualNames {
 public:
  /// `nameOf(i)` for i below `count`, in parallel; an empty one is equal to none.
  template <class NameOf>
  EqualNames(std::size_t count, const NameOf& nameOf) {
    std::vector<Entry> all(count);
    tbb::parallel_for(tbb::blocked_range<std::size_t>(0, count, 256), [&](const auto& share) {
      for (std::size_t i = share.begin(); i < share.end(); ++i) {
        const std::string name = nameOf(i);
        all[i] = {name.empty() ? Digest() : digestOf(name), static_cast<std::uint32_t>(i)};
      }
    });
    std::erase_if(all, [](const Entry& entry) { return entry.digest.empty(); });
    tbb::parallel_sort(all.begin(), all.end());
    entries_ = std::move(all);
  }

  /// Calls visit(run) for each name.
  template <class Visit>
  void forEachRun(const Visit& visit) const {
    for (std::size_t begin = 0; begin < entries_.size();) {
      std::size_t end = begin + 1;
      while (end < entries_.size() && entries_[end].digest == entries_[begin].digest) ++end;
      visit(Run{entries_.data() + begin, end - begin});
      begin = end;
    }
  }
  /// The first of this name.
  std::optional<std::size_t> find(const std::string& name) const {
    const Entry wanted{digestOf(name), 0};
    const auto found = std::lower_bound(entries_.begin(), entries_.end(), wanted);
    if (found == entries_.end() || found->digest != wanted.digest) return std::nullopt;
    return found->place;
  }

 private:
  struct Entry {
    Digest digest;
    std::uint32_t place = 0;
    bool operator<(const Entry& other) const {
      return std::tie(digest, place) < std::tie(other.digest, other.place);
    }
  };

 public:
  /// Places of one name, in their order.
  class Run {
   public:
    Run(const Entry* first, std::size_t count) : first_(first), count_(count) {}
    std::size_t size() const { return count_; }
    std::size_t operator[](std::size_t i) const { return first_[i].place; }
    const Digest& name() const { return first_->digest; }  ///< of it

   private:
    const Entry* first_;
    std::size_t count_;
  };

 private:
  static Digest digestOf(const std::string& name) {
    Hasher hasher;
    hasher.add(std::string_view(name));
    return hasher.digest();
  }

  std::vector<Entry> entries_;
};

}  // namespace octaphon
