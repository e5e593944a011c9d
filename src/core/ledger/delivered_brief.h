// What a receipt says of a brief besides its files, for whoever gets them.
#pragma once

#include <string>
#include <vector>

#include "base/hash.h"

namespace octaphon {

struct DeliveredBrief {
  std::string brief;    ///< its id
  std::string session;  ///< name of the session's file
  int place = 0;        ///< among the briefs of its session, from 0
  std::string name, sentence;
  std::string title, client, credit, notes;  ///< of the delivery, in someone's own words; may be empty
  std::vector<std::string> sources = {};     ///< keys, in the order of its files
  bool operator==(const DeliveredBrief&) const = default;
};

/// A file that says what was delivered: a note, a list. Written by us, and of the same bytes still ours.
struct HandedList {
  std::string file;  ///< relative to the base folder
  Digest content;    ///< of its bytes
  bool operator==(const HandedList&) const = default;
};

}  // namespace octaphon
