#include "write/pcm_shell.h"

#include "formats/aiff_head.h"
#include "formats/riff_data.h"
#include "formats/wav_head.h"

namespace octaphon {

std::string PcmShell::head(const FileData& data, Frame frames) const {
  return headOf(data, dataBytes(form_, frames), chunksBehind(data).size());
}

std::string PcmShell::tail(const FileData& data, Frame frames) const {
  return std::string(dataBytes(form_, frames) % 2, '\0') + chunksBehind(data);
}

std::string WavShell::chunksBehind(const FileData& data) const {
  std::string all;
  for (const std::string& chunk : riffDataChunks(data, form_)) all += chunk;
  return all;
}

std::string WavShell::headOf(const FileData& data, std::uint64_t dataBytes, std::uint64_t behindBytes) const {
  return WavHead{form_, behindBytes, dataBytes}.bytes(data);
}

std::string AiffShell::chunksBehind(const FileData& data) const { return aiffDataChunks(data, form_); }

std::string AiffShell::headOf(const FileData&, std::uint64_t dataBytes, std::uint64_t behindBytes) const {
  return AiffHead{form_, behindBytes, dataBytes}.bytes();
}

}  // namespace octaphon
