// One row on its way from a tap to a file.
#pragma once

#include <memory>
#include <optional>

#include "finish/chain.h"
#include "finish/written_figures.h"
#include "finish/written_loop.h"
#include "ledger/made_file.h"
#include "loop/seam.h"
#include "plan/row_data.h"
#include "plan/sheet.h"
#include "run/sum_part.h"
#include "signal/graph.h"
#include "write/encoder.h"
#include "write/publisher.h"

namespace octaphon {

/// Samples go where they are told to, once that is known.
class LateSink : public SampleSink {
 public:
  void leadTo(SampleSink* sink) { sink_ = sink; }
  Result<> write(const std::int32_t* const* channels, Frame frames) override {
    return sink_ == nullptr ? Result<>{} : sink_->write(channels, frames);
  }
  Result<> write(const float* const* channels, Frame frames) override {
    return sink_ == nullptr ? Result<>{} : sink_->write(channels, frames);
  }

 private:
  SampleSink* sink_ = nullptr;
};

/// What became of a row: its file, complete but for its name, or why there is none.
struct RowResult {
  std::size_t row = 0;  ///< index in Sheet::rows
  Result<FinishedFile> file;
  Level level = {};                  ///< before rounding
  SoundFacts facts = {};             ///< how its sound ended
  Extent extent = {};                ///< of the file
  std::vector<ClipStep> steps = {};  ///< of clips that are heard in it
  std::optional<Seam> seam = {};     ///< of a loop
  double gainDb = 0;                 ///< that its level has
  Levels levels = {};                ///< of the file, where they were judged by themselves
  MadeFile made = {};                ///< what the receipt says of it, but for its remarks
};

/// Belongs to one thread at a time. What goes wrong is kept for the result; nothing of the file is left then.
class RowOutput {
 public:
  /// `row` indexes the sheet; it, the folder and the spool must live as long. Without a folder the sound is
  /// measured, and no file is written. `measures`: besides what its level takes.
  RowOutput(const Sheet& sheet, const RowData& data, std::size_t row, const SafeFolder* folder, Spool* spool,
            LevelsAsked measures)
      : sheet_(sheet),
        data_(data),
        folder_(folder),
        spool_(spool),
        besides_(measures),
        index_(row),
        key_(sheet.keyOf(this->row())) {
    made_.row = row;
  }

  /// Creates the file. Once, before the first block. `latency`: frames that the tap lies behind the session.
  /// `before`: frames that it is given before the file's first one, for the converter.
  void begin(Frame latency, Frame before);
  /// The next block of the tap, from `before` frames before the file's first one on.
  void take(const TapBlock& block, Frame frames);
  /// Of a tail that rings out: it has so many frames at least; so many and no more.
  void openTo(Frame tail) {
    if (chain_) keep(chain_->openTo(tail));
  }
  void decide(Frame tail) {
    if (chain_) keep(chain_->decide(tail));
  }
  /// Of a loop that waits for that; before its sound ends.
  void decide(const LoopDecision& decision) {
    if (chain_) chain_->decide(decision);
  }
  /// Whether more of the tap would change the file.
  bool wantsMore() const { return !error_ && chain_ && chain_->wantsMore(); }
  /// It has failed.
  void stop(Error error);
  /// The sound has ended. Once.
  void end();
  /// After end(): whether it waits for its gain.
  bool isWaiting() const { return isWaiting_ && !error_; }
  bool isFile() const { return folder_ != nullptr; }
  bool measures() const { return measures_; }  ///< the same, once it has begun
  /// After end(), of one that measures.
  Result<Levels> levels() const;
  /// Of one that waits: as WaitForGain::search().
  Result<double> searchGain(double gainDb);
  /// Of one that waits: its file is written.
  void release(double gainDb);
  /// Before finish(): what the file is in a sum of files.
  void setSum(SumPart part) { sum_ = std::move(part); }
  /// What became of it; after end(), and release() where it waited.
  RowResult finish(const Fingerprint& fingerprint);
  /// Frames of the session, from the file's first one on, that change the file, at most.
  Frame framesWanted() const { return chain_ ? chain_->soundFrames() - before_ : 0; }
  /// Frames before its first one that it has to be given, of `before` that are played: those at another rate.
  Frame framesBefore(Frame before) const { return row().rate == sheet_.rate ? 0 : before; }

  std::size_t index() const { return index_; }
  /// Whether the levels of its sound are to be measured here, before any gain.
  bool wouldMeasure() const;
  const Row& row() const { return sheet_.rows[index_]; }
  /// Frames of its sound that have come.
  Frame taken() const { return chain_ ? chain_->taken() : 0; }

 private:
  Result<> open();
  void planLevel(FinishPlan& plan);
  LevelsAsked measuredOf(const TappedSound& sound) const;
  void judgeDecoded(int fd);
  std::optional<Seam> decodedSeam(int fd) const;
  void measureSeam(int fd);
  bool isDecidedByHearing() const;
  Result<FinishedFile> finished(const Fingerprint& fingerprint);
  MadeFile madeFile(const Fingerprint& fingerprint) const;
  void keep(const Result<>& outcome);

  const Sheet& sheet_;
  const RowData& data_;
  const SafeFolder* folder_;
  Spool* spool_;
  LevelsAsked besides_;
  std::size_t index_;
  std::string key_;
  std::unique_ptr<PendingFile> file_;
  std::unique_ptr<Encoder> encoder_;
  std::unique_ptr<WrittenLoop> loop_;
  std::unique_ptr<WrittenFigures> figures_;
  SumPart sum_;
  LateSink sink_;
  std::unique_ptr<FinishChain> chain_;
  RowResult made_;  // but for its file: of a chain that is put away
  Frame before_ = 0;
  bool isWaiting_ = false, measures_ = false;
  std::optional<Error> error_;
};

/// The receipt's line of a row but for what only its file says: content, head and stamp.
ReceiptLine lineOf(const Sheet& sheet, const Row& row, const Fingerprint& fingerprint);

}  // namespace octaphon
