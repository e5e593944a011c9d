#include "write/shell.h"

#include "formats/id3.h"
#include "write/flac_shell.h"
#include "write/ogg_shell.h"
#include "write/pcm_shell.h"

namespace octaphon {
namespace {

/// ID3v2 stands before the sound, and nothing behind it.
class Mp3Shell : public Shell {
 public:
  explicit Mp3Shell(FileForm form) : form_(form) {}
  std::string head(const FileData& data, Frame) const override { return id3Tag(data, form_); }

 private:
  FileForm form_;
};

}  // namespace

std::string Shell::tail(const FileData&, Frame) const { return {}; }
Result<> Shell::take(const std::string&, const std::string&) { return {}; }
std::optional<std::uint64_t> Shell::soundBytes(Frame) const { return std::nullopt; }
Result<bool> Shell::settle(int, std::uint64_t, const std::string&) const { return false; }

std::unique_ptr<Shell> makeShell(const FileForm& form) {
  switch (encodingInfo(form.encoding).container) {
    case Container::Wav:
    case Container::Rf64: return std::make_unique<WavShell>(form);
    case Container::Aiff: return std::make_unique<AiffShell>(form);
    case Container::Flac: return std::make_unique<FlacShell>(form);
    case Container::Ogg: return std::make_unique<OggShell>(form);
    case Container::Mp3: return std::make_unique<Mp3Shell>(form);
  }
  return nullptr;
}

}  // namespace octaphon
