#include "signal/clip_player.h"

#include <algorithm>
#include <cfloat>
#include <cmath>

namespace octaphon {
namespace {

constexpr Frame kTurn = 4096;

/// One per thread: players come by the thousand.
float* scratch(std::size_t samples) {
  thread_local std::vector<float> buffer;
  if (buffer.size() < samples) buffer.resize(samples);
  return buffer.data();
}

bool isFinite(const float* samples, std::size_t count) {
  int bad = 0;
  for (std::size_t i = 0; i < count; ++i) bad |= !(std::fabs(samples[i]) <= FLT_MAX);
  return bad == 0;
}

/// out[i] += in[i · stride] · gain
void addScaled(float* out, const float* in, int stride, Frame frames, float gain) {
  for (Frame i = 0; i < frames; ++i) out[i] += in[i * stride] * gain;
}

/// The same where out is silence yet: a negative 0 becomes 0.
void setScaled(float* out, const float* in, int stride, Frame frames, float gain) {
  for (Frame i = 0; i < frames; ++i) out[i] = 0.0f + in[i * stride] * gain;
}

/// Averages all channels of each frame into the first of a packed buffer.
void averageInPlace(float* interleaved, int channels, Frame frames) {
  for (Frame i = 0; i < frames; ++i) {
    double sum = 0;
    for (int c = 0; c < channels; ++c) sum += interleaved[i * channels + c];
    interleaved[i] = static_cast<float>(sum / channels);
  }
}

}  // namespace

ClipPlayer::ClipPlayer(const Session& session, const ReadableMedia& media, Strip track,
                       std::vector<HeardClip> clips)
    : session_(session),
      media_(media),
      track_(track),
      channels_(session.tracks[track.track()].channels),
      clips_(std::move(clips)) {
  std::stable_sort(clips_.begin(), clips_.end(),
                   [](const HeardClip& a, const HeardClip& b) { return a.from < b.from; });
}

Result<bool> ClipPlayer::render(Frame at, Frame frames, float* const* out) {
  const auto& clips = session_.tracks[track_.track()].clips;
  for (; next_ < clips_.size() && clips_[next_].from < at + frames; ++next_) {
    const HeardClip& heard = clips_[next_];
    if (heard.to <= at) continue;
    const Clip& clip = clips[static_cast<std::size_t>(heard.clip)];
    voices_.push_back({heard, &clip, ClipEnvelope(clip, heard), nullptr});
  }
  if (voices_.empty()) return false;
  for (Voice& voice : voices_) OCTAPHON_TRY(play(voice, at, frames, out));
  std::erase_if(voices_, [&](Voice& voice) {
    if (voice.heard.to > at + frames) return false;
    idleFile_ = std::move(voice.file);
    idleMedium_ = voice.clip->medium;
    return true;
  });
  return true;
}

Result<> ClipPlayer::openFile(Voice& voice) {
  if (idleFile_ && idleMedium_ == voice.clip->medium) {
    voice.file = std::move(idleFile_);
    return {};
  }
  const ReadableMedium* medium = media_.find(voice.clip->medium);
  if (medium == nullptr) return fail(ErrorCode::MediumMissing, voice.clip->medium);
  OCTAPHON_ASSIGN(SoundFile file, medium->open());
  voice.file = std::make_unique<SoundFile>(std::move(file));
  return {};
}

Result<> ClipPlayer::play(Voice& voice, Frame at, Frame frames, float* const* out) {
  if (!voice.file) OCTAPHON_TRY(openFile(voice));
  SoundFile& file = *voice.file;
  const auto broken = [&](const char* why) {
    return fail(ErrorCode::MediumUnreadable, media_.find(voice.clip->medium)->name, why,
                "Replace the file by one that is whole");
  };
  Frame from = std::max(at, voice.heard.from);
  const Frame to = std::min(at + frames, voice.heard.to);
  const Frame origin = voice.clip->start - voice.clip->offset;  // where the medium's first frame lies
  const Frame end = std::max(from, std::min(to, origin + file.info().frames));
  const bool isFirst = &voice == voices_.data();
  if (isFirst) {
    clear(out, 0, from - at);
    clear(out, end - at, frames);
  }
  if (from == end) return {};
  if (!file.seek(from - origin)) return broken("a place in the file cannot be found");
  const auto channels = static_cast<std::size_t>(file.info().channels);
  while (from < end) {
    const Frame wanted = std::min(kTurn, end - from);
    float* samples = scratch(static_cast<std::size_t>(kTurn) * channels);
    const Frame got = file.read(samples, wanted);
    if (got < wanted) return broken("the file ends before its header says");
    if (file.info().isFloat && !isFinite(samples, static_cast<std::size_t>(got) * channels))
      return fail(ErrorCode::NotFinite, media_.find(voice.clip->medium)->name,
                  "the file holds samples that are not numbers", "Replace the file by one that is whole");
    if (isAveraged(voice)) averageInPlace(samples, file.info().channels, got);
    add(voice, samples, from, got, out, from - at);
    lookForSteps(voice, samples, from, got);
    from += got;
  }
  // It is opened again for the next block, which costs less than a pass that fails.
  if (SoundFile::openNow() > SoundFile::mostOpen()) voice.file.reset();
  return {};
}

/// Whether another clip of the track touches it there.
bool ClipPlayer::goesOn(const Clip& clip, bool isStart) const {
  const auto& clips = session_.tracks[track_.track()].clips;
  return std::any_of(clips.begin(), clips.end(), [&](const Clip& other) {
    if (&other == &clip || other.mute) return false;
    return isStart ? other.start < clip.start && other.end() >= clip.start
                   : other.start <= clip.end() && other.end() > clip.end();
  });
}

/// `frames` of the clip's medium from session frame `at` on.
void ClipPlayer::lookForSteps(const Voice& voice, const float* interleaved, Frame at, Frame frames) {
  const auto channels = static_cast<Frame>(isAveraged(voice) ? 1 : voice.file->info().channels);
  const auto look = [&](Frame frame, bool isStart) {
    if (frame < at || frame >= at + frames) return;
    float level = 0;
    for (Frame c = 0; c < channels; ++c)
      level = std::max(level, std::fabs(interleaved[(frame - at) * channels + c]));
    level *= static_cast<float>(voice.envelope.at(frame));
    if (level >= kLeastStep && !goesOn(*voice.clip, isStart))
      steps_.push_back({track_, voice.heard.clip, isStart, level});
  };
  if (voice.clip->fadeIn.length == 0) look(voice.clip->start, true);
  if (voice.clip->fadeOut.length == 0 && voice.heard.endFade == 0) look(voice.clip->end() - 1, false);
}

void ClipPlayer::clear(float* const* out, Frame from, Frame to) const {
  for (int c = 0; c < channels_; ++c) std::fill(out[c] + from, out[c] + to, 0.0f);
}

bool ClipPlayer::isAveraged(const Voice& voice) const {
  return channels_ == 1 && voice.clip->channel == 0 && voice.file->info().channels > 1;
}

void ClipPlayer::add(const Voice& voice, const float* interleaved, Frame at, Frame frames, float* const* out,
                     Frame offset) const {
  const int first = std::max(voice.clip->channel, 1) - 1;
  const int inputs = isAveraged(voice) ? 1 : voice.file->info().channels - first;
  const int stride = isAveraged(voice) ? 1 : voice.file->info().channels;
  thread_local std::vector<float> gains;
  const bool constant = voice.envelope.isConstant(at, at + frames);
  if (!constant) {
    gains.resize(static_cast<std::size_t>(frames));
    for (Frame i = 0; i < frames; ++i)
      gains[static_cast<std::size_t>(i)] = static_cast<float>(voice.envelope.at(at + i));
  }
  const bool ontoSilence = &voice == voices_.data();
  if (ontoSilence && (!constant || (inputs != 1 && inputs < channels_))) clear(out, offset, offset + frames);
  for (int c = 0; c < channels_; ++c) {
    const int input = inputs == 1 ? 0 : c;
    if (input >= inputs) break;
    float* target = out[c] + offset;
    const float* from = interleaved + first + input;
    if (constant && ontoSilence)
      setScaled(target, from, stride, frames, static_cast<float>(voice.envelope.gain()));
    else if (constant)
      addScaled(target, from, stride, frames, static_cast<float>(voice.envelope.gain()));
    else
      for (Frame i = 0; i < frames; ++i) target[i] += from[i * stride] * gains[static_cast<std::size_t>(i)];
  }
}

}  // namespace octaphon
