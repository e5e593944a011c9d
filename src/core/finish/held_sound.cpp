#include "finish/held_sound.h"

#include <algorithm>
#include <array>

#include "routing/mixing_law.h"

namespace octaphon {
namespace {

tl::unexpected<Error> notHeld() {
  return fail(ErrorCode::DiskFull, "sound that is held back", "there is no room for it",
              "Make space where the system keeps temporary files");
}

}  // namespace

Result<> HeldSound::add(const SoundBlock& block, Frame from, Frame count) {
  if (count <= 0) return {};
  frames_ += count;
  if (block.isSilent() && !parts_.empty() && parts_.back().isSilent) {
    parts_.back().frames += count;
    return {};
  }
  Part& part = parts_.emplace_back();
  part.frames = count;
  part.isSilent = block.isSilent();
  if (part.isSilent) return {};
  part.samples.resize(static_cast<std::size_t>(channels_ * count));
  for (int c = 0; c < channels_; ++c)
    std::copy_n(block.channels[c] + from, count, part.samples.data() + c * count);
  bytes_ += part.samples.size() * sizeof(float);
  return bytes_ > kMostBytes ? spill(part) : Result<>{};
}

Result<> HeldSound::spill(Part& part) {
  if (!file_) file_.reset(std::tmpfile());
  if (!file_ || std::fseek(file_.get(), 0, SEEK_END) != 0) return notHeld();
  part.place = std::ftell(file_.get());
  if (part.place < 0 || std::fwrite(part.samples.data(), sizeof(float), part.samples.size(), file_.get()) !=
                            part.samples.size())
    return notHeld();
  bytes_ -= part.samples.size() * sizeof(float);
  part.samples = {};
  return {};
}

Result<> HeldSound::fetch(Part& part) {
  part.samples.resize(static_cast<std::size_t>(channels_ * part.frames));
  if (std::fseek(file_.get(), part.place, SEEK_SET) != 0 ||
      std::fread(part.samples.data(), sizeof(float), part.samples.size(), file_.get()) != part.samples.size())
    return notHeld();
  bytes_ += part.samples.size() * sizeof(float);
  part.place = -1;
  return {};
}

Result<> HeldSound::giveTo(Stage& next, Frame count) {
  while (count > 0 && !parts_.empty()) {
    Part& part = parts_.front();
    if (part.place >= 0) OCTAPHON_TRY(fetch(part));
    const Frame now = std::min(count, part.frames - part.given);
    std::array<const float*, kMaxMixChannels> channels{};
    for (int c = 0; c < channels_ && !part.isSilent; ++c)
      channels[static_cast<std::size_t>(c)] = part.samples.data() + c * part.frames + part.given;
    OCTAPHON_TRY(next.take({part.isSilent ? nullptr : channels.data(), now}));
    part.given += now;
    count -= now;
    frames_ -= now;
    if (part.given < part.frames) continue;
    bytes_ -= part.samples.size() * sizeof(float);
    parts_.pop_front();
  }
  if (parts_.empty()) file_.reset();
  return {};
}

void HeldSound::clear() {
  parts_.clear();
  frames_ = 0;
  bytes_ = 0;
  file_.reset();
}

}  // namespace octaphon
