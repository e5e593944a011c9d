#include "receiver/recording.h"

#include <sndfile.h>

#include <algorithm>
#include <cmath>
#include <cstdio>
#include <cstdlib>
#include <map>

#include <nlohmann/json.hpp>

#include "receiver/mixer.h"

namespace octaphon::receiver {
namespace {

constexpr std::int64_t kBlock = 4096;

class Recorder {
 public:
  Recorder(const std::vector<Sound>& sounds, const std::filesystem::path& folder, const Recording& asked)
      : sounds_(sounds), asked_(asked), files_(folder, asked.rate), mixer_(asked.rate) {
    for (std::size_t i = 0; i < sounds.size(); ++i)
      choices_.emplace_back(asked.seed + static_cast<std::uint32_t>(i));
  }

  Outcome<int> run() {
    SF_INFO info{};
    info.channels = 2;
    info.samplerate = asked_.rate;
    info.format = SF_FORMAT_WAV | SF_FORMAT_FLOAT;
    const std::unique_ptr<SNDFILE, decltype(&sf_close)> file(sf_open(asked_.file.c_str(), SFM_WRITE, &info),
                                                             &sf_close);
    if (!file) return tl::unexpected(asked_.file.string() + ": " + sf_strerror(nullptr));
    const std::int64_t end = std::llround(asked_.seconds * asked_.rate);
    std::vector<float> block(static_cast<std::size_t>(kBlock) * 2);
    while (now_ < end) {
      std::int64_t next = std::min(end, now_ + kBlock);
      for (std::size_t i = 0; i < asked_.cues.size(); ++i) {
        const std::int64_t at = std::llround(asked_.cues[i].seconds * asked_.rate);
        if (at == now_)
          if (const auto done = follow(asked_.cues[i]); !done) return tl::unexpected(done.error());
        if (at > now_) next = std::min(next, at);
      }
      const auto frames = static_cast<std::size_t>(next - now_);
      mixer_.fill(block.data(), frames);
      if (sf_writef_float(file.get(), block.data(), next - now_) != next - now_)
        return tl::unexpected(asked_.file.string() + " cannot be written");
      now_ = next;
    }
    return 0;
  }

 private:
  Outcome<int> follow(const Cue& cue) {
    const auto sound =
        std::find_if(sounds_.begin(), sounds_.end(), [&](const Sound& one) { return one.name == cue.sound; });
    if (sound == sounds_.end()) return tl::unexpected("there is no sound '" + cue.sound + "'");
    if (cue.isStop) {
      mixer_.stop(playing_[cue.sound]);
      return 0;
    }
    const std::size_t chosen =
        choices_[static_cast<std::size_t>(sound - sounds_.begin())].next(sound->variations.size());
    const Variation& variation = sound->variations[chosen];
    std::vector<std::shared_ptr<const Decoded>> together;
    for (const NamedFile& file : variation.files) {
      const auto decoded = files_.get(file);
      if (!decoded) return tl::unexpected(decoded.error());
      together.push_back(*decoded);
    }
    playing_[cue.sound] = mixer_.play(together);
    const nlohmann::ordered_json line{{"sound", cue.sound}, {"variation", variation.name}, {"at", now_}};
    std::printf("%s\n", line.dump(-1, ' ', false, nlohmann::json::error_handler_t::replace).c_str());
    return 0;
  }

  const std::vector<Sound>& sounds_;
  const Recording& asked_;
  DecodedFiles files_;
  Mixer mixer_;
  std::vector<VariationChoice> choices_;
  std::map<std::string, int> playing_;
  std::int64_t now_ = 0;
};

}  // namespace

Cue parseCue(const std::string& text, bool isStop) {
  const std::size_t at = text.rfind('@');
  if (at == std::string::npos) return {0, text, isStop};
  return {std::strtod(text.c_str() + at + 1, nullptr), text.substr(0, at), isStop};
}

Outcome<int> record(const std::vector<Sound>& sounds, const std::filesystem::path& folder,
                    const Recording& recording) {
  return Recorder(sounds, folder, recording).run();
}

}  // namespace octaphon::receiver
