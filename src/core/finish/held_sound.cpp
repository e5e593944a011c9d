#include "finish/held_sound.h"

#include <algorithm>
#include <array>
#include <vector>

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
  bytes_ += bytesOf(part);
}

void HeldSound::free(Part& part) {
  if (part.samples) bytes_ -= bytesOf(part);
  if (part.samples && part.isBudgeted) spool_->budget().giveBack(bytesOf(part));
  part.samples.reset();
}

bool HeldSound::mayStay(const Part& part) {
  return spool_ == nullptr ? bytes_ <= kMostBytes : spool_->budget().take(bytesOf(part));
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
  if (!mayStay(part)) return spill(part);
  part.isBudgeted = spool_ != nullptr;
  return {};
}

Result<> HeldSound::spill(Part& part) {
  if (spool_ == nullptr) return spillToSystem(part);
  OCTAPHON_ASSIGN(const std::uint64_t place, spool_->write(part.samples.get(), bytesOf(part)));
  part.place = static_cast<std::int64_t>(place);
  free(part);
  return {};
}

Result<> HeldSound::spillToSystem(Part& part) {
  if (!file_) file_.reset(std::tmpfile());
  if (!file_ || std::fseek(file_.get(), 0, SEEK_END) != 0) return notHeld();
  part.place = std::ftell(file_.get());
  if (part.place < 0 ||
      std::fwrite(part.samples.get(), sizeof(float), samplesOf(part), file_.get()) != samplesOf(part))
    return notHeld();
  free(part);
  return {};
}

Result<> HeldSound::read(const Part& part, float* to) {
  if (spool_ != nullptr) return spool_->read(static_cast<std::uint64_t>(part.place), to, bytesOf(part));
  if (std::fseek(file_.get(), static_cast<long>(part.place), SEEK_SET) != 0 ||
      std::fread(to, sizeof(float), samplesOf(part), file_.get()) != samplesOf(part))
    return notHeld();
  return {};
}

Result<> HeldSound::fetch(Part& part) {
  makeRoom(part);
  OCTAPHON_TRY(read(part, part.samples.get()));
  if (spool_ != nullptr) spool_->forget(static_cast<std::uint64_t>(part.place), bytesOf(part));
  part.place = -1;
  return {};
}

/// `samples` may be null: silence.
Result<> HeldSound::give(const Part& part, const float* samples, Frame from, Frame count, Stage& next) const {
  std::array<const float*, kMaxTapChannels> channels{};
  for (int c = 0; c < channels_ && samples != nullptr; ++c)
    channels[static_cast<std::size_t>(c)] = samples + c * part.frames + from;
  return next.take({samples == nullptr ? nullptr : channels.data(), count});
}

Result<> HeldSound::showTo(Stage& next) {
  std::vector<float> fetched;
  for (const Part& part : parts_) {
    const float* samples = part.samples.get();
    if (part.place >= 0) {
      fetched.resize(samplesOf(part));
      OCTAPHON_TRY(read(part, fetched.data()));
      samples = fetched.data();
    }
    OCTAPHON_TRY(give(part, samples, part.given, part.frames - part.given, next));
  }
  return {};
}

Result<> HeldSound::giveTo(Stage& next, Frame count) {
  while (count > 0 && !parts_.empty()) {
    Part& part = parts_.front();
    if (part.place >= 0) OCTAPHON_TRY(fetch(part));
    const Frame now = std::min(count, part.frames - part.given);
    OCTAPHON_TRY(give(part, part.samples.get(), part.given, now, next));
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
  for (Part& part : parts_) {
    if (spool_ != nullptr && part.place >= 0)
      spool_->forget(static_cast<std::uint64_t>(part.place), bytesOf(part));
    free(part);
  }
  parts_.clear();
  frames_ = 0;
  bytes_ = 0;
  file_.reset();
}

}  // namespace octaphon
