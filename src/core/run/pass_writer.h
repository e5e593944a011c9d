// The rows of a pass, from the taps of a source to files that are complete but for their names.
#pragma once

#include <memory>
#include <vector>

#include "plan/fingerprints.h"
#include "run/media_watch.h"
#include "run/pass.h"
#include "run/pass_loops.h"
#include "run/pass_sums.h"
#include "run/pass_tails.h"
#include "run/row_output.h"

namespace octaphon {

class PassWriter {
 public:
  /// The recipe is the pass's own, or of a longer stretch that holds it. All arguments must live as long.
  /// Files are made when it plays, not before.
  PassWriter(const PassSetting& setting, const PlannedPass& pass, SpanRecipe& recipe, MediaWatch& watch);

  const TapList& taps() const { return taps_; }

  /// Plays the source, which stands at session frame `at` (before the span: a run-up), until no row wants
  /// more. False after a cancel.
  bool play(TapSource& source, Frame at);
  /// Rows that hear a medium which changed since it was looked at fail.
  PassResult finish();
  /// All rows failed, for one reason.
  PassResult failed(const Error& error) const;

 private:
  struct Output {
    std::unique_ptr<RowOutput> row;
    std::size_t tap;
    std::optional<std::size_t> tail;  // that it waits for
    std::optional<std::size_t> loop;  // the same
    Frame latency = 0;
  };

  void tellStage(RowStage stage) const;
  void begin(const TapSource& source);
  void decideLoops();
  ClipStep inSession(ClipStep step) const;
  Frame framesWanted() const;
  Frame nextBlock(const TapSource& source, Frame at) const;
  void take(TapSource& source, Frame at, Frame frames);
  void takeOne(Output& output, TapSource& source, Frame at, Frame frames);
  bool hasOwnRecipe() const;
  Frame tailOf(std::size_t tail, const Row& row) const;
  struct Print {
    Fingerprint fingerprint;
    Frame tail;  // that it is of
  };
  std::vector<Print> fingerprints();
  void put(PassResult& result, Output& output, const Print& print, Fingerprints& others);
  template <class Work>
  void forEachOutput(const Work& work);
  bool failWhereMediaChanged();
  std::vector<ClipStep> stepsOf(const Output& output) const;

  const PassSetting& setting_;
  const PlannedPass& pass_;
  SpanRecipe& recipe_;
  MediaWatch& watch_;
  PlannedSpan span_;
  Frame playedFrom_ = 0;
  Frame before_ = 0;  // frames given before the files' first one
  TapList taps_;
  std::vector<Output> outputs_;
  std::vector<ClipStep> steps_;
  PassTails tails_;
  PassLoops loops_;
  PassSums sums_;
};

}  // namespace octaphon
