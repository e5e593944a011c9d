// Audio files and folders as tracks of a session.
#pragma once

#include <filesystem>
#include <optional>
#include <string>
#include <vector>

#include "base/remark.h"
#include "base/result.h"
#include "edit/grouping.h"
#include "exchange/incoming_files.h"
#include "session/session.h"

namespace octaphon {

enum class Placement {
  Start,  ///< every file at the start, or where told
  Stamp,  ///< where the file says (`bext`), seen from the session's start timecode
};

/// What becomes of a file with more than two channels.
enum class ManyChannels {
  OneTrack,  ///< one track, with the next larger number of channels a track can have; over 8 as Each
  Each,      ///< a mono track a channel
  Pairs,     ///< a stereo track for two channels
};

enum class Grouping { None, Folders, Prefixes };

struct BringInRequest {
  Placement placement = Placement::Start;
  Frame at = 0;  ///< of Placement::Start, in frames of the session
  ManyChannels manyChannels = ManyChannels::OneTrack;
  Grouping grouping = Grouping::None;
  bool copy = false;      ///< copies of the files go into `media/` beside the session
  std::string intoGroup;  ///< id of the group the tracks go into; empty: main
};

struct BroughtIn {
  std::vector<std::string> tracks;  ///< ids of the new tracks
  std::vector<std::string> media;   ///< ids of the new media
  std::size_t regions = 0, markers = 0;
  std::vector<Error> refused;  ///< files that cannot be used, now or before; the others are there
  std::vector<Remark> remarks;
  std::vector<std::pair<std::string, Frame>> stamped;  ///< clips whose file says where they lie, and where
  std::vector<GroupGuess> folders, prefixes;           ///< groups that could be made; members index `tracks`
  std::vector<GroupGuess> takes;                       ///< takes of one name; the same
};

/// Adds a track for each file, in natural order, with the clip, regions, markers and loops that the file
/// holds. The session must know its file: media are written relative to its folder. Where the session is
/// empty and files are stamped an hour or later after midnight, its start timecode becomes the last full hour
/// before all of them.
BroughtIn bringIn(Session& session, const IncomingFiles& incoming, const BringInRequest& request);

/// Standard MIDI Files and tables of regions, as they were read.
struct OtherFiles {
  struct One {
    std::filesystem::path file;
    std::string bytes;
  };
  std::vector<One> files;
  std::vector<Error> refused;  ///< files that cannot be read
};

/// Those among files; others are passed over.
OtherFiles readOthers(const std::vector<std::filesystem::path>& inputs, const JobControl* job = nullptr);

/// Tempo, metre and markers of MIDI files, into a session: its tempo map is replaced, markers go into a set
/// named after the file. Regions and markers of tables. Gives what is wrong with files, or with lines of
/// them; the rest is there.
std::vector<Error> bringInOthers(Session& session, const OtherFiles& others);

/// Copies a file into a folder, which is made; under its name with a number where that is taken. Nothing is
/// copied where it lies there already. Gives where it is; Cancelled where it was stopped.
Result<std::filesystem::path> copyIntoFolder(const std::filesystem::path& file,
                                             const std::filesystem::path& folder,
                                             const JobControl* job = nullptr);

/// Channels of the narrowest track that so many fit on; 0: none is wide enough.
int trackWidth(int channels);

/// The path of a file as a session in `folder` names it: relative, with `/`.
std::string mediaPath(const std::filesystem::path& file, const std::filesystem::path& folder);

}  // namespace octaphon
