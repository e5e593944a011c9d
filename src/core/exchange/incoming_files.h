// Sound files that are to become media of a session: which of those named they are, and what is in them.
#pragma once

#include <filesystem>
#include <optional>
#include <vector>

#include "base/job_control.h"
#include "base/remark.h"
#include "base/result.h"
#include "formats/file_facts.h"
#include "media/sound_file.h"

namespace octaphon {

/// A sound file on its way in.
struct IncomingFile {
  std::filesystem::path file;
  SoundInfo info;
  FileFacts facts;
};

struct IncomingFiles {
  std::vector<IncomingFile> files;  ///< in natural order of the path
  std::vector<Error> refused;       ///< files that cannot be used
  std::vector<Remark> remarks;
};

/// Audio files of a folder and the folders in it, by ending; hidden ones are left out. In natural order of
/// the path.
std::vector<std::filesystem::path> audioFilesIn(const std::filesystem::path& folder,
                                                const JobControl* job = nullptr);
bool isAudioName(const std::filesystem::path& file);
bool isMidiName(const std::filesystem::path& file);
bool isTableName(const std::filesystem::path& file);

/// Looks into files, and into folders with all that is in them; what is no sound is left out. A part of the
/// job is a file; those it came to before it was stopped are given.
IncomingFiles lookInto(const std::vector<std::filesystem::path>& inputs, JobControl* job = nullptr);

/// The most common rate of the files, the higher one where two are equally common; nothing where none has a
/// rate that a session may have.
std::optional<int> commonRate(const IncomingFiles& incoming);

/// Without links, as far as it is there.
std::filesystem::path resolved(const std::filesystem::path& path);
/// The folder it is in without links; a file that is a link itself stays what it is called.
std::filesystem::path placed(const std::filesystem::path& file);

}  // namespace octaphon
