// What a file was when it was made, by which it is checked later, without the session.
#pragma once

#include <optional>
#include <string>
#include <utility>
#include <vector>

#include <nlohmann/json_fwd.hpp>

#include "base/frames.h"
#include "formats/file_data.h"
#include "level/sound_figures.h"

namespace octaphon {

/// Where a file's sound lies in its session, and the parts of the file.
struct MadePlace {
  int sessionRate = 0;                   ///< Hz; 0: not said
  Frame start = 0;                       ///< of the first frame, in frames of the session; may be before it
  Frame leadIn = 0, body = 0, tail = 0;  ///< at the file's rate
  std::string loopWay = {};              ///< as in briefs; empty: it is no loop. Its lap is the body
  std::optional<double> beats = {};      ///< of the lap; nothing without a tempo
  int laps = 0;                          ///< that were played for it
  bool operator==(const MadePlace&) const = default;
};

/// A warning that was told of a file when it was made.
struct MadeRemark {
  std::string code, text;
  bool operator==(const MadeRemark&) const = default;
};

struct MadeFile {
  std::string encoding;  ///< as in kEncodings
  int rate = 0;          ///< Hz
  int channels = 0;
  SoundFigures
      figures;  ///< of lossless formats as it lies in the file, of lossy ones before they are encoded
  std::uint64_t clipped = 0;   ///< samples that were over full scale
  std::optional<double> seam;  ///< 0 … 100, of a loop
  std::string span, source;    ///< names, for people
  std::string family = {};     ///< name of its span without its number, as its variations have it
  std::string addsTo = {};     ///< key of the row whose file it is a layer of, and adds up to with the others
  int layers = 0;              ///< files that add up to it
  std::optional<double> ceilingDb = {};  ///< dBTP, where the brief asks for one
  std::optional<double> lufs = {};       ///< programme loudness that this very file was to have
  std::vector<std::pair<std::string, std::string>> tags = {};  ///< as FileFacts::tags() gives them
  std::vector<FileMark> marks = {};                            ///< without notes
  std::vector<FileLoop> loops = {};
  MadePlace place = {};
  std::vector<MadeRemark> remarks = {};
  bool operator==(const MadeFile&) const = default;
};

/// Without nesting beyond lists of texts and numbers.
nlohmann::ordered_json asJson(const MadeFile& made);
/// Nothing where it contradicts itself.
std::optional<MadeFile> madeFileFrom(const nlohmann::ordered_json& json);

/// The same as ReceiptLine::made has it, in one line; nothing where it does not say.
std::string madeText(const MadeFile& made);
std::optional<MadeFile> madeFileIn(const std::string& text);

}  // namespace octaphon
