// The tails of a pass that ring out: of each brief and span, all sources are listened to, whether they are
// made or not, so that their files are equally long.
#pragma once

#include <memory>
#include <vector>

#include "finish/ring_meter.h"
#include "ledger/receipt.h"
#include "plan/sheet.h"
#include "recipe/recipe.h"
#include "run/tap_list.h"

namespace octaphon {

/// What came of one.
struct HeardTail {
  std::uint32_t brief = 0, span = 0;  ///< indices in the sheet, and in its brief
  Measured measured;
};

/// How the tail of a sound's span is listened to. `longestDelay`: of all its sources.
RingSetting ringSettingOf(const Sheet& sheet, const TappedSound& sound, Frame longestDelay);

class PassTails {
 public:
  /// Of files that are there and stay: they keep their tail where a new one would be shorter.
  using FloorOf = std::function<Frame(std::uint32_t brief, std::uint32_t span)>;

  PassTails(const Sheet& sheet, SpanRecipe& recipe, TapList& taps, const FloorOf& floorOf)
      : sheet_(sheet), recipe_(recipe), taps_(taps), floorOf_(floorOf) {}

  /// The tail that a row waits for; nothing where it waits for none.
  std::optional<std::size_t> add(std::size_t row);

  /// Once, before the first block.
  void begin(const TapSource& source);
  /// The block that starts `at` frames after the files' first one.
  void take(const TapSource& source, Frame at, Frame frames);
  /// Frames from the files' first one that have to be given, latency included; 0 once all are decided.
  Frame framesWanted() const;

  /// Frames that the tail has at least.
  Frame certain(std::size_t tail) const;
  /// Nothing before it is decided.
  std::optional<Frame> decided(std::size_t tail) const;
  /// Frames of the file up to which it was listened to; once it is decided.
  Frame heardTo(std::size_t tail) const;
  const TappedSound& soundOf(std::size_t tail) const { return *tails_[tail].sound; }
  std::size_t size() const { return tails_.size(); }
  /// Level in dBFS of a tail to be folded at the limit that stopped it; nothing where none did.
  std::optional<double> leftOfFold(std::size_t tail) const;
  HeardTail heard(std::size_t tail, const Digest& digest) const;

 private:
  struct Source {
    std::size_t tap;
    Frame skipped = 0;  // frames of latency that are still to come
    Frame latency = 0;
    bool isBroken = false;
  };
  struct TailOfSpan {
    const TappedSound* sound;
    Frame floor = 0;
    std::vector<Source> sources;
    std::unique_ptr<RingMeter> meter;
  };
  static void takeOne(Source& source, RingingSound& sound, const TapSource& from, Frame at, Frame frames);

  const Sheet& sheet_;
  SpanRecipe& recipe_;
  TapList& taps_;
  FloorOf floorOf_;
  std::vector<TailOfSpan> tails_;
};

}  // namespace octaphon
