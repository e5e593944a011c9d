// The session in real time: the graph, rendered ahead by a thread of its own into a small store that the
// sound device empties.
#pragma once

#include <array>
#include <atomic>
#include <filesystem>
#include <functional>
#include <memory>
#include <mutex>
#include <optional>
#include <thread>
#include <vector>

#include <boost/lockfree/spsc_queue.hpp>

#include "base/job_control.h"
#include "media/media_cache.h"
#include "media/media_facts.h"
#include "play/finished_row.h"
#include "play/loudness_meter.h"
#include "play/row_file.h"
#include "play/seam_loop.h"
#include "recipe/recipe.h"
#include "run/pass.h"
#include "run/pass_loops.h"
#include "session/session.h"

namespace octaphon {

/// What is listened to. None of it is ever saved, or heard in a file.
struct Listening {
  std::vector<std::string> only;  ///< ids of tracks and groups heard alone, through main; none: everything

  /// A row instead of the session: heard as it will be written, or from the file that was, or what differs
  /// between them.
  enum class Of { Session, File, Difference };
  Of of = Of::Session;
  bool isRow = false;
  PlannedSpan span;
  Counting counting;
  Brief brief;                                  ///< of a row: how far it is heard
  PlannedSource source;                         ///< of a row; else the mix
  Frame start = 0, frames = 0;                  ///< of the row's file, in frames of the session
  int channels = 2;                             ///< of the row's file
  SpanLoopPlan loop;                            ///< of a row
  FinishPlan finish;                            ///< its ends and its level, at the session's rate
  double compareDb = 0;                         ///< that it is heard louder, to be compared with others
  std::filesystem::path file;                   ///< on disk
  std::shared_ptr<const FileHandle> held = {};  ///< of the file, where no name leads to it any more
};

/// A row of a sheet, the file it became, or what differs between them.
Listening listeningTo(const Sheet& sheet, const Row& row, Listening::Of of);
/// A file that the row was before.
Listening listeningTo(const Sheet& sheet, const Row& row, std::shared_ptr<const FileHandle> before);

/// Plays the mix, everything heard, from a position to the session's end. All functions from one thread but
/// read(), which the sound device's thread calls.
class Player {
 public:
  /// `plugins` and `passes` may be null; then plug-ins are silent.
  Player(std::shared_ptr<const Session> session, std::shared_ptr<const MediaFacts> facts, MediaCache& cache,
         std::shared_ptr<const PluginCatalogue> plugins = {}, PluginPasses* passes = nullptr);
  ~Player();

  /// From `from` to `to` (the session's end where `to` is not after `from`). With `lapsFrom`, which is not
  /// after `from`, the frame there follows the last one without a gap, and so on until stop().
  void start(Frame from, Frame to = 0, Listening listening = {}, std::optional<Frame> lapsFrom = {});
  /// The join of a loop instead, over and over until stop().
  void start(SeamLoop seam);
  void stop();
  /// The same, without waiting for it to have stopped.
  void askToStop();

  /// Fills interleaved stereo, full scale ±1; takes no lock and allocates nothing. Silence where the thread
  /// is behind, and after the end. Gives how many frames were there.
  Frame read(float* interleaved, Frame frames);

  /// Session frame of the next sample read() gives.
  Frame position() const { return position_; }
  /// The same, so many frames ago; not before the start.
  Frame positionBefore(Frame frames) const;
  /// Largest sample of each side since this was last asked, full scale 1.
  std::array<float, 2> takePeaks();
  /// Of what was read since it started.
  Loudness loudness() const { return loudness_ ? loudness_->now() : Loudness{kNoLoudness, kNoLoudness}; }
  /// Media that are converted before anything can be heard; nothing to wait for where all are done.
  const JobControl& preparing() const { return preparing_; }
  bool atEnd() const { return !repeats_ && position_ >= end_; }
  /// Why the sound stopped; empty where it did not.
  std::string problem() const;

 private:
  void begin(Frame from, int rate, std::function<void()> work);
  void work(Frame from);
  void playSeam();
  using Tell = std::function<void(std::string)>;
  bool playSession(TapSource& source, Frame start, Frame from, const Tell& tell);
  bool playRow(TapSource& source, Frame start, Frame from, RowFile* file, LapTap* mix, const Tell& tell);
  bool storeRow(FinishedRow& row, Frame from, RowFile* file);
  void countRead(Frame frames);
  bool store(const std::vector<float>& stereo);
  PassKey keyFrom(Frame from) const;
  std::vector<HeardClip> heardClips(const ClipFinder& finder, const PassKey& key) const;

  std::shared_ptr<const Session> session_;
  std::shared_ptr<const MediaFacts> facts_;
  MediaCache& cache_;
  std::shared_ptr<const PluginCatalogue> plugins_;
  PluginPasses* passes_;
  std::thread thread_;
  std::atomic<bool> stopping_{false};
  JobControl preparing_;
  std::atomic<Frame> position_{0};
  std::atomic<Frame> end_{0};
  Frame from_ = 0;     // where a lap begins, or the only one
  Frame started_ = 0;  // where the first one did
  bool repeats_ = false;
  std::atomic<Frame> read_{0};  // in all laps
  static constexpr std::size_t kStored =
      std::size_t{2} * 16384;  // samples held ahead: a third of a second at 48 kHz
  boost::lockfree::spsc_queue<float, boost::lockfree::capacity<kStored>> ring_;  // interleaved stereo
  std::atomic<std::uint32_t> reads_{0};  // counts what may make room in it
  mutable std::mutex mutex_;
  std::string problem_;
  Listening listening_;
  std::optional<SeamLoop> seam_;
  std::array<std::atomic<float>, 2> peaks_{};
  std::unique_ptr<LoudnessMeter> loudness_;
};

}  // namespace octaphon
