#include "finish/held_sound.h"

#include <algorithm>
#include <array>
#include <utility>
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
void HeldSound::makeOwn(Part& part, Frame frames) {
  part.room = frames;
  part.own = std::make_unique_for_overwrite<float[]>(static_cast<std::size_t>(channels_ * frames));
  bytes_ += static_cast<std::size_t>(channels_ * frames) * sizeof(float);
}

void HeldSound::free(Part& part) {
  if (part.piece != nullptr) spool_->budget().giveBack(std::exchange(part.piece, nullptr));
  if (part.own) bytes_ -= static_cast<std::size_t>(channels_ * part.room) * sizeof(float);
  part.own.reset();
}

bool HeldSound::mayStay(const Part& part) const {
  return part.piece != nullptr || (spool_ == nullptr && bytes_ <= kMostBytes);
}

/// The last one, where it has room left, or a new one.
HeldSound::Part& HeldSound::partFor(Frame frames) {
  if (!parts_.empty() && parts_.back().piece != nullptr && parts_.back().frames < parts_.back().room)
    return parts_.back();
  Part& part = parts_.emplace_back();
  if (spool_ != nullptr) part.piece = spool_->budget().take();
  if (part.piece == nullptr)
    makeOwn(part, frames);
  else
    part.room = static_cast<Frame>(MemoryBudget::kPieceSamples) / channels_;
  return part;
}

Result<> HeldSound::add(const SoundBlock& block, Frame from, Frame count) {
  if (count <= 0) return {};
  if (block.isSilent()) {
    if (parts_.empty() || !parts_.back().isSilent) parts_.emplace_back().isSilent = true;
    parts_.back().frames += count;
    frames_ += count;
    return {};
  }
  while (count > 0) {
    Part& part = partFor(count);
    const Frame now = std::min(count, part.room - part.frames);
    for (int c = 0; c < channels_; ++c)
      std::copy_n(block.channels[c] + from, now, part.samples() + c * part.room + part.frames);
    part.frames += now;
    frames_ += now;
    from += now;
    count -= now;
    if (!mayStay(part)) OCTAPHON_TRY(spill(part));
  }
  return {};
}

Result<> HeldSound::spill(Part& part) {
  if (spool_ == nullptr) return spillToSystem(part);
  OCTAPHON_ASSIGN(const std::uint64_t place, spool_->write(part.own.get(), bytesOf(part)));
  part.place = static_cast<std::int64_t>(place);
  free(part);
  return {};
}

Result<> HeldSound::spillToSystem(Part& part) {
  if (!file_) file_.reset(std::tmpfile());
  if (!file_ || std::fseek(file_.get(), 0, SEEK_END) != 0) return notHeld();
  part.place = std::ftell(file_.get());
  if (part.place < 0 ||
      std::fwrite(part.own.get(), sizeof(float), samplesOf(part), file_.get()) != samplesOf(part))
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
  makeOwn(part, part.frames);
  OCTAPHON_TRY(read(part, part.own.get()));
  if (spool_ != nullptr) spool_->forget(static_cast<std::uint64_t>(part.place), bytesOf(part));
  part.place = -1;
  return {};
}

/// `samples` may be null: silence.
Result<> HeldSound::give(const Part& part, const float* samples, Frame from, Frame count, Stage& next) const {
  std::array<const float*, kMaxTapChannels> channels{};
  for (int c = 0; c < channels_ && samples != nullptr; ++c)
    channels[static_cast<std::size_t>(c)] = samples + c * part.room + from;
  return next.take({samples == nullptr ? nullptr : channels.data(), count});
}

Result<> HeldSound::showTo(Stage& next) {
  std::vector<float> fetched;
  for (const Part& part : parts_) {
    const float* samples = part.samples();
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
    OCTAPHON_TRY(give(part, part.samples(), part.given, now, next));
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
