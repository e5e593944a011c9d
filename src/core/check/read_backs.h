// Files that were read back already: each counts as long as it stays as it was then.
#pragma once

#include <map>
#include <optional>
#include <set>
#include <string>

#include "check/read_back.h"

namespace octaphon {

class ReadBacks {
 public:
  /// Reads a file of the folder, which is the same in all calls, in place of what was kept of it. Of what
  /// cannot be read nothing is kept.
  void read(const SafeFolder& folder, const std::string& file, const ReadBackAsked& asked,
            std::initializer_list<const JobControl*> jobs = {});
  /// Nothing where it was not read, is another file by now, or more is asked.
  std::optional<ReadBack> of(const SafeFolder& folder, const std::string& file,
                             const ReadBackAsked& asked) const;
  /// It is to be read, whatever comes of that.
  void expect(const std::string& file) { asked_.insert(file); }
  /// Whether it was to be read.
  bool has(const std::string& file) const { return asked_.contains(file); }
  std::size_t size() const { return asked_.size(); }

 private:
  struct Kept {
    ReadBackAsked asked;
    ReadBack read;
  };
  std::set<std::string> asked_;
  std::map<std::string, Kept> kept_;  // by file, relative to the base folder
};

}  // namespace octaphon
