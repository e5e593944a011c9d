// How the kinds of files are read, each by its own part of readFileFacts().
#pragma once

#include "formats/file_facts.h"

namespace octaphon {

inline constexpr std::size_t kMostParts = 10'000;
inline constexpr std::size_t kMostTexts = 10'000;
inline constexpr std::uint64_t kMostPartBytes = 16 << 20;  ///< of one part that is read
inline constexpr std::size_t kLongestText = 200'000;       ///< bytes; what is more is cut off

/// Of a file that one of them takes for its own, by its first bytes.
Result<> readRiffFacts(const ByteSource& source, const std::string& place, FileFacts& facts);
Result<> readAiffFacts(const ByteSource& source, const std::string& place, FileFacts& facts);
Result<> readFlacFacts(const ByteSource& source, const std::string& place, std::uint64_t at,
                       FileFacts& facts);
Result<> readOggFacts(const ByteSource& source, FileFacts& facts);
/// Whether there is a frame of MP3 at `at` or soon behind it.
bool readMp3Facts(const ByteSource& source, std::uint64_t at, FileFacts& facts);

/// Content of a RIFF chunk that says something of the file; others count for nothing.
class RiffData {
 public:
  explicit RiffData(FileFacts& facts) : facts_(facts) {}
  static bool isRead(std::string_view id);
  void take(std::string_view id, const std::string& content);
  /// Labels and places are brought together.
  void finish();

 private:
  void takeCues(Bytes& bytes);
  void takeLabels(Bytes& bytes);
  void takeLoops(Bytes& bytes);
  void takeInfo(Bytes& bytes);
  void takeBroadcast(Bytes& bytes);

  FileFacts& facts_;
  std::vector<std::pair<std::uint32_t, std::uint32_t>> cues_;  // id and frame
  std::vector<std::pair<std::uint32_t, FileMark>> about_;      // by id of the cue point
};

void addText(FileFacts& facts, std::string_view where, std::string name, std::string_view value);
/// Of an `iXML` chunk: each text under the path of its element.
void takeIxml(FileFacts& facts, const std::string& xml);
/// Of a whole ID3v2 tag; its places are in milliseconds, `rate` is that of the file in Hz.
void takeId3(FileFacts& facts, const std::string& tag, int rate);
/// Of Vorbis comments; chapters and loops are places.
void takeComments(FileFacts& facts, std::string_view bytes, int placesAt);
/// Bytes of an ID3v2 tag that begins with these; 0 where none does.
std::uint64_t id3Bytes(std::string_view head);

tl::unexpected<Error> wrongFile(const std::string& place, const std::string& why);

}  // namespace octaphon
