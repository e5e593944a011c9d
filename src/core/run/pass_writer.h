// The rows of one pass on their way to files, and the sums that are measured meanwhile.
#pragma once

#include <memory>
#include <vector>

#include "plan/fingerprints.h"
#include "run/pass.h"
#include "run/pass_sums.h"
#include "run/row_output.h"

namespace octaphon {

class PassWriter {
 public:
  /// The recipe is the pass's own, or of a longer stretch that holds it. All arguments must live as long.
  PassWriter(const Sheet& sheet, const SignalContext& context, const PlannedPass& pass, SpanRecipe& recipe);

  const TapList& taps() const { return taps_; }

  /// Plays the source, which stands at session frame `at` (before the span: a run-up), until no row wants
  /// more. False after a cancel.
  bool play(TapSource& source, Frame at, RunControl& control);
  PassResult finish();
  /// All rows failed, for one reason.
  PassResult failed(const Error& error) const;

 private:
  struct Output {
    std::unique_ptr<RowOutput> row;
    std::size_t tap;
    Fingerprint fingerprint;
    Frame latency = 0;
  };

  void begin(const TapSource& source);
  Frame framesWanted() const;
  void take(TapSource& source, Frame at, Frame frames, RunControl& control);
  template <class Work>
  void forEachOutput(const Work& work);

  const Sheet& sheet_;
  const PlannedPass& pass_;
  TapList taps_;
  std::vector<Output> outputs_;
  PassSums sums_;
};

}  // namespace octaphon
