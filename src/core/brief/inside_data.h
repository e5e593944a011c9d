// What files say of themselves besides their sound: a template for each text.
#pragma once

#include <string>
#include <vector>

#include "formats/file_data.h"

namespace octaphon {

/// A free fact.
struct DataFact {
  std::string name;
  std::string value;  ///< a template
  std::string unknownKeys = {};
  bool operator==(const DataFact&) const = default;
};

struct InsideData {
  bool isPlain = false;  ///< nothing but sound, loop and marks
  std::string title = "{region: }< - {track}>";
  std::string artist = "{author}";
  std::string album = "{session}";
  std::string number = {};
  std::string credit = {};
  std::string comment = {};
  std::string keywords = "{region.tags:, }";
  std::string category = "{region.fact:category}";
  std::string tempo = "{tempo}";
  std::string key = "{region.fact:key}";
  std::string isrc = "{region.fact:isrc}";
  std::string description = "{region: }< - {source}>";
  std::string originator = "Octaphon";
  std::string reference = {};
  std::string project = "{session}";
  std::string scene = "{region.path: }";
  std::string note = {};
  std::vector<DataFact> facts;
  bool regionFacts = true;    ///< all facts of the region or clip set, too
  bool marks = true;          ///< regions and markers inside the file
  bool loopComments = false;  ///< loops also as LOOPSTART and LOOPLENGTH, where comments are
  std::string unknownKeys = {};
  bool operator==(const InsideData&) const = default;

  /// The template of a text.
  const std::string& format(Tag tag) const;
};

inline constexpr std::size_t kMaxDataFacts = 64;

}  // namespace octaphon
