#include "run/tail_levels.h"

#include <algorithm>

#include "base/decibels.h"
#include "base/denormals.h"
#include "finish/cut.h"
#include "finish/ring_meter.h"
#include "run/pass_tails.h"

namespace octaphon {
namespace {

constexpr Frame kRingBlock = 4096;
constexpr double kBodySeconds = 0.5;

/// Gives what it takes to a sound that rings, and keeps the levels of the last of the body.
class TailStage : public Stage {
 public:
  TailStage(RingMeter& meter, int channels) : meter_(meter), channels_(channels) {}
  Result<> take(const SoundBlock& block) override {
    for (Frame i = 0; i < block.frames; ++i, ++taken_) {
      if (taken_ >= meter_.setting().before) break;
      const auto cell = static_cast<std::size_t>(taken_ * 100 / meter_.setting().rate);
      if (body_.size() <= cell) body_.resize(cell + 1, 0.0f);
      for (int c = 0; c < channels_ && !block.isSilent(); ++c)
        body_[cell] = std::max(body_[cell], std::abs(block.channels[c][i]));
    }
    meter_.sound(0).take(block);
    meter_.decide();
    return {};
  }
  Result<> end() override { return {}; }
  bool wantsMore() const override { return !meter_.tail(); }
  const std::vector<float>& body() const { return body_; }

 private:
  RingMeter& meter_;
  int channels_;
  Frame taken_ = 0;
  std::vector<float> body_;
};

TailLevels answerOf(const RingMeter& meter, const RingingSound& sound, const std::vector<float>& body) {
  const RingSetting& setting = meter.setting();
  TailLevels levels;
  levels.rate = setting.rate;
  const auto shown = static_cast<std::size_t>(kBodySeconds * 100);
  levels.bodyCells = std::min(body.size(), shown);
  levels.cells.assign(body.end() - static_cast<std::ptrdiff_t>(levels.bodyCells), body.end());
  for (std::size_t cell = 0; cell < sound.cells(); ++cell) levels.cells.push_back(sound.peakOf(cell));
  levels.thresholdDb = setting.relative
                           ? std::max(decibelsOf(sound.peak()) + setting.thresholdDb, setting.leastDb)
                           : setting.thresholdDb;
  levels.heard = meter.heard();
  if (!meter.isByLimit()) levels.end = meter.tail();
  return levels;
}

}  // namespace

Result<TailLevels> levelsOfTail(const TailQuestion& question, MediaCache& cache,
                                const std::atomic<bool>& cancel) {
  const DenormalGuard guard;
  const Sheet& sheet = *question.sheet;
  const Row& row = sheet.rows[question.row];
  const PlannedSpan& span = sheet.spanOf(row);
  const Brief& brief = sheet.briefOf(row).brief;
  const PlannedSource& source = sheet.sourceOf(row);
  const SessionContext context(*question.session, *question.facts, question.plugins.get());
  const Counting counting = countingOf(brief, span, sheet.rate);
  SpanRecipe recipe(context.signal, span, counting, context.finder.heardIn(span, counting));
  const Tap tap = recipe.tap(brief, source);
  std::vector<std::string> needed;
  recipe.forEachClipBefore(
      tap.node, [&](const HeardClip& clip) { needed.push_back(context.finder.clipOf(clip).medium); });
  const auto media = ReadableMedia::prepare(*question.session, *question.facts, cache, needed, &cancel);
  std::unique_ptr<TapSource> player;
  if (!recipe.pluginsBefore(tap.node).empty() && question.pluginPasses != nullptr) {
    OCTAPHON_ASSIGN(player, question.pluginPasses->open(recipe, passKeyOf(span, counting), media,
                                                        {{&brief, {source}, false}}));
  } else {
    player = std::make_unique<Graph>(recipe, media, std::vector<NodeIndex>{tap.node});
  }
  RingSetting setting = ringSettingOf(sheet, sheet.soundOf(row), recipe.longestDelay(tap.node));
  setting.limit = std::max(span.tail, framesOf(sheet.endsOf(row).asked.limitSeconds, sheet.rate));
  RingMeter meter(setting, {tap.channels});
  TailStage listening(meter, tap.channels);
  Cut cut(tap.channels, player->latency(0), setting.before + setting.limit, listening);
  for (Frame at = span.first() - context.finder.runUpOf(span, counting); cut.wantsMore(); at += kRingBlock) {
    if (cancel) return fail(ErrorCode::Cancelled, row.file);
    player->process(at, kRingBlock);
    const TapBlock whole = player->tap(0);
    if (whole.error != nullptr) return tl::unexpected(*whole.error);
    const Frame before = std::clamp<Frame>(span.first() - at, 0, kRingBlock);
    const TapBlock block = whole.after(before);
    if (before < kRingBlock)
      OCTAPHON_TRY(cut.take({block.isSilent() ? nullptr : block.channel, kRingBlock - before}));
  }
  return answerOf(meter, meter.sound(0), listening.body());
}

}  // namespace octaphon
