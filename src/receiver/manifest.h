// A stand-in for whoever receives a delivery: it knows a manifest and the files it names, and nothing else of
// Octaphon, so that what is not in them is not there.
#pragma once

#include <cstdint>
#include <filesystem>
#include <string>
#include <vector>

#include <tl/expected.hpp>

namespace octaphon::receiver {

enum class Play {
  Once,
  Points,   ///< from the loop's end back to its start, without a gap
  Restart,  ///< again every loop length, while the last one rings on
};

struct NamedFile {
  std::string file;  ///< below the folder
  std::int64_t frames = 0;
  int rate = 0, channels = 0;
  Play play = Play::Once;
  std::int64_t loopStart = 0, loopLength = 0;  ///< frames of the file
};

struct Variation {
  std::string name;
  std::vector<NamedFile> files;  ///< that sound together: the mix, or all there is, of one form
};

struct Sound {
  std::string name, brief;
  std::vector<Variation> variations;
};

/// What is wrong, in a sentence.
template <class T>
using Outcome = tl::expected<T, std::string>;

/// `manifest`: its file, which may lie elsewhere than the sounds.
Outcome<std::vector<Sound>> readManifest(const std::filesystem::path& manifest);

}  // namespace octaphon::receiver
