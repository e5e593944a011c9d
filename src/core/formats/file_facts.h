// What an audio file says of itself: format, data and places, whoever wrote it. Reads WAV, RF64, AIFF, FLAC,
// Ogg Vorbis, Opus and MP3.
#pragma once

#include <filesystem>
#include <optional>
#include <string>
#include <vector>

#include "base/result.h"
#include "formats/byte_source.h"
#include "formats/encoding.h"
#include "formats/file_data.h"

namespace octaphon {

/// A part of a file: a chunk, a metadata block, a header packet, a tag.
struct FilePart {
  std::string name;  ///< `bext`, `VORBIS_COMMENT`
  std::uint64_t bytes = 0;
  bool operator==(const FilePart&) const = default;
};

/// A text as it stands in a file.
struct FileText {
  std::string where;  ///< `bext`, `INFO`, `iXML`, `ID3`, `comment`
  std::string name;   ///< as it is called there: `INAM`, `TIT2`, `SPEED/FILE_SAMPLE_RATE`
  std::string value;
  bool operator==(const FileText&) const = default;
};

struct FileFacts {
  std::optional<Container> container;  ///< none: it is none of these
  std::string encoding = {};  ///< as in kEncodings, else what it is called there: `float64`; empty: unknown
  int rate = 0, channels = 0;
  int bits = 0;                 ///< of a sample; 0 where there is no saying
  std::optional<Frame> frames;  ///< that players give; none: it does not say
  bool isEstimated = false;     ///< `frames` is worked out from sizes
  std::vector<FilePart> parts;  ///< in order
  std::vector<FileText> texts;  ///< in order
  std::vector<FileMark> marks;  ///< by place
  std::vector<FileLoop> loops;
  std::optional<Frame> timeReference;  ///< frames from midnight to its first sample
  std::uint64_t soundAt = 0;           ///< bytes before its sound
  std::uint64_t missingBytes = 0;      ///< of sound that the header promises and the file does not have

  /// The texts by the names of tagInfo(), each from where it stands first, with `date`, and the free ones by
  /// the names they have.
  std::vector<std::pair<std::string, std::string>> tags() const;
  std::string rowMark() const;   ///< which row of ours it is: 16 hexadecimal digits; empty: none
  std::string madeMark() const;  ///< as what that was made
  /// What a text of a place is; empty where it does not stand there.
  std::string text(std::string_view where, std::string_view name) const;
};

/// Without a container where the file is none of these; Syntax where its parts contradict each other.
Result<FileFacts> readFileFacts(const ByteSource& source, const std::string& place);
Result<FileFacts> readFileFacts(const std::filesystem::path& file);

}  // namespace octaphon
