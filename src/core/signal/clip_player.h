// The clips of one track, as a pass hears them.
#pragma once

#include <memory>
#include <vector>

#include "base/result.h"
#include "media/readable_media.h"
#include "media/sound_file.h"
#include "recipe/heard_clips.h"
#include "signal/fades.h"

namespace octaphon {

/// A clip that begins or ends away from zero, without a fade.
struct ClipStep {
  Strip track;
  std::size_t clip = 0;  ///< index in Track::clips
  bool isStart = true;
  float level = 0;  ///< magnitude of its first or last sample, full scale 1
};
/// Smaller steps are not told: −40 dBFS.
inline constexpr float kLeastStep = 0.01f;

/// Plays forward, block after block. One thread at a time. Media of more channels than the track give their
/// first ones, from the clip's channel on; one channel goes to all of the track's; several onto a mono track
/// are averaged, unless the clip says which it plays.
class ClipPlayer {
 public:
  /// `clips` by start; session and media must outlive the player.
  ClipPlayer(const Session& session, const ReadableMedia& media, Strip track, std::vector<HeardClip> clips);

  int channels() const { return channels_; }
  /// Of what was played so far. Clips that touch another one of the track have none there.
  const std::vector<ClipStep>& steps() const { return steps_; }
  /// Fills frames [at, at + frames) of each channel. False: nothing sounds there and the buffers are
  /// untouched.
  Result<bool> render(Frame at, Frame frames, float* const* out);

 private:
  struct Voice {
    HeardClip heard;
    const Clip* clip;
    ClipEnvelope envelope;
    std::unique_ptr<SoundFile> file;
  };
  Result<> openFile(Voice& voice);
  Result<> play(Voice& voice, Frame at, Frame frames, float* const* out);
  void clear(float* const* out, Frame from, Frame to) const;
  void lookForSteps(const Voice& voice, const float* interleaved, Frame at, Frame frames);
  bool goesOn(const Clip& clip, bool isStart) const;
  bool isAveraged(const Voice& voice) const;
  void add(const Voice& voice, const float* interleaved, Frame at, Frame frames, float* const* out,
           Frame offset) const;

  const Session& session_;
  const ReadableMedia& media_;
  Strip track_;
  int channels_;
  std::vector<HeardClip> clips_;
  std::size_t next_ = 0;       // first clip that has not begun
  std::vector<Voice> voices_;  // clips that sound now, in their order
  std::vector<ClipStep> steps_;
  std::unique_ptr<SoundFile> idleFile_;  // the file last done with: the next clip is often of the same
  std::string idleMedium_;
};

}  // namespace octaphon
