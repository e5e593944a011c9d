// Files as they are played: all of a file, in two channels at the player's rate.
#pragma once

#include <map>
#include <memory>
#include <vector>

#include "receiver/manifest.h"

namespace octaphon::receiver {

struct Decoded {
  std::vector<float> samples;  ///< left, right, left …
  std::int64_t frames = 0;
  Play play = Play::Once;
  std::int64_t loopStart = 0, loopEnd = 0;  ///< in its frames
  std::string name;                         ///< of the file
};

/// Decodes a file when it is first asked for. One thread.
class DecodedFiles {
 public:
  DecodedFiles(std::filesystem::path folder, int rate) : folder_(std::move(folder)), rate_(rate) {}

  int rate() const { return rate_; }
  /// The file has to be what the manifest says: length, rate, channels.
  Outcome<std::shared_ptr<const Decoded>> get(const NamedFile& file);

 private:
  std::filesystem::path folder_;
  int rate_;
  std::map<std::string, std::shared_ptr<const Decoded>> decoded_;
};

}  // namespace octaphon::receiver
