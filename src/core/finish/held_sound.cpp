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

/// It is written over at once.
void HeldSound::makeRoom(Part& part) {
  part.samples = std::make_unique_for_overwrite<float[]>(samplesOf(part));
  bytes_ += samplesOf(part) * sizeof(float);
}

void HeldSound::free(Part& part) {
  if (part.samples) bytes_ -= samplesOf(part) * sizeof(float);
  part.samples.reset();
}

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
  makeRoom(part);
  for (int c = 0; c < channels_; ++c)
    std::copy_n(block.channels[c] + from, count, part.samples.get() + c * count);
  return bytes_ > kMostBytes ? spill(part) : Result<>{};
}

Result<> HeldSound::spill(Part& part) {
  if (!file_) file_.reset(std::tmpfile());
  if (!file_ || std::fseek(file_.get(), 0, SEEK_END) != 0) return notHeld();
  part.place = std::ftell(file_.get());
  if (part.place < 0 ||
      std::fwrite(part.samples.get(), sizeof(float), samplesOf(part), file_.get()) != samplesOf(part))
    return notHeld();
  free(part);
  return {};
}

Result<> HeldSound::fetch(Part& part) {
  makeRoom(part);
  if (std::fseek(file_.get(), part.place, SEEK_SET) != 0 ||
      std::fread(part.samples.get(), sizeof(float), samplesOf(part), file_.get()) != samplesOf(part))
    return notHeld();
  part.place = -1;
  return {};
}

Result<> HeldSound::giveTo(Stage& next, Frame count) {
  while (count > 0 && !parts_.empty()) {
    Part& part = parts_.front();
    if (part.place >= 0) OCTAPHON_TRY(fetch(part));
    const Frame now = std::min(count, part.frames - part.given);
    std::array<const float*, kMaxTapChannels> channels{};
    for (int c = 0; c < channels_ && !part.isSilent; ++c)
      channels[static_cast<std::size_t>(c)] = part.samples.get() + c * part.frames + part.given;
    OCTAPHON_TRY(next.take({part.isSilent ? nullptr : channels.data(), now}));
    part.given += now;
    count -= now;
    frames_ -= now;
    if (part.given < part.frames) continue;
    free(part);
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
