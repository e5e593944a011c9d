#include "run/pass.h"

#include <tbb/parallel_for.h>
#include <tbb/task_arena.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <optional>
#include <set>

#include "base/decibels.h"
#include "base/denormals.h"
#include "base/unicode.h"
#include "plan/partition.h"

namespace octaphon {
namespace {

constexpr Frame kTurn = 4096;  // frames written at once; a multiple of kQuantiseCell
static_assert(kTurn % kQuantiseCell == 0);

/// One row on its way from a tap to a file.
class RowOutput {
 public:
  RowOutput(const Sheet& sheet, const PassRow& place)
      : index_(place.row), row_(sheet.rows[place.row]), tapped_(row_.tapped) {
    key_ = sheet.keyOf(row_);
    if (tapped_ > 1 && row_.channels != tapped_) fold_ = mixMatrix(tapped_, row_.channels, 1, 0);
    open(*place.folder, sheet.rate);
    const EncodingInfo& info = encodingInfo(row_.encoding);
    for (int c = 0; info.isInteger && c < row_.channels; ++c) quantisers_.emplace_back(info.bits, key_, c);
  }

  std::size_t row() const { return index_; }
  const Row& planned() const { return row_; }
  bool failed() const { return error_.has_value(); }

  /// `at` is the row's frame that the block begins with; below 0 the tap is not there yet.
  void write(const TapBlock& block, Frame at, Frame frames) {
    const Frame skipped = std::clamp<Frame>(-at, 0, frames);
    const Frame first = at + skipped;
    const Frame count = std::min(frames - skipped, row_.frames - first);
    if (error_ || count <= 0) return;
    if (block.error != nullptr) return stop(*block.error);
    // Quantising goes in whole cells of the row; taps that come late have to be shifted into them.
    if (first % kQuantiseCell == 0 && staged_ == 0)
      for (Frame done = 0; done < count && !error_; done += kTurn)
        writeTurn(block, skipped + done, first + done, std::min(kTurn, count - done));
    else
      stage(block, skipped, first, count);
  }

  void finish(PassResult& result) {
    WrittenSound written;
    if (!error_) {
      if (auto finished = writer_->finish(row_.frames))
        written = *finished;
      else
        stop(finished.error());
    }
    const auto stamp = error_ ? std::nullopt : stampOf(file_->fd());
    if (!error_ && !stamp) stop({ErrorCode::NotWritable, file_->place(), {}, {}});
    if (error_) {
      result.failed.emplace_back(index_, *error_);
      return;
    }
    const bool replace = row_.state != RowState::ToMake;
    result.levels.push_back(level_);
    result.files.push_back({index_,
                            std::move(*file_),
                            {key_, row_.file, written.content, row_.fingerprint, written.head, *stamp},
                            replace});
  }

 private:
  void stage(const TapBlock& block, Frame offset, Frame first, Frame count) {
    staging_.resize(static_cast<std::size_t>(tapped_ * kTurn));
    while (count > 0 && !error_) {
      const Frame part = std::min(count, kTurn - staged_);
      for (int c = 0; c < tapped_; ++c) {
        float* to = staging_.data() + c * kTurn + staged_;
        if (block.isSilent())
          std::fill_n(to, part, 0.0f);
        else
          std::copy_n(block.channel[c] + offset, part, to);
      }
      staged_ += part, offset += part, first += part, count -= part;
      if (staged_ < kTurn && first < row_.frames) continue;
      TapBlock whole;
      for (int c = 0; c < tapped_; ++c) whole.channel[c] = staging_.data() + c * kTurn;
      writeTurn(whole, 0, first - staged_, staged_);
      staged_ = 0;
    }
  }

  void stop(Error error) {
    error_ = std::move(error);
    writer_.reset();
    file_.reset();
  }
  void keep(const Result<>& outcome) {
    if (!outcome) stop(outcome.error());
  }

  void open(const SafeFolder& folder, int rate) {
    auto file = folder.create(row_.file);
    if (!file) return stop(file.error());
    file_ = std::make_unique<PendingFile>(std::move(*file));
    auto writer = SoundWriter::open(*file_, row_.encoding, row_.channels, rate);
    if (!writer) return stop(writer.error());
    writer_ = std::make_unique<SoundWriter>(std::move(*writer));
  }

  void writeTurn(const TapBlock& block, Frame offset, Frame at, Frame frames) {
    static const std::vector<float> kSilence(kTurn, 0.0f);
    const float* in[kMaxMixChannels];
    for (int c = 0; c < row_.channels; ++c)
      in[c] = block.isSilent() ? kSilence.data() : block.channel[std::min(c, tapped_ - 1)] + offset;
    if (fold_.inputs > 0 && !block.isSilent()) fold(block, offset, frames, in);
    if (quantisers_.empty())
      writeFloats(in, frames);
    else
      writeIntegers(in, at, frames);
  }

  /// Into fewer or more channels, by the laws of mixing. Mono is on both sides as it is.
  void fold(const TapBlock& block, Frame offset, Frame frames, const float** in) const {
    thread_local std::array<std::array<float, kTurn>, kMaxMixChannels> folded;
    for (int c = 0; c < row_.channels; ++c) {
      const auto& gains = fold_.gain[static_cast<std::size_t>(c)];
      for (Frame i = 0; i < frames; ++i) {
        double sum = 0;
        for (int t = 0; t < tapped_; ++t)
          sum += gains[static_cast<std::size_t>(t)] * block.channel[t][offset + i];
        folded[static_cast<std::size_t>(c)][static_cast<std::size_t>(i)] = static_cast<float>(sum);
      }
      in[c] = folded[static_cast<std::size_t>(c)].data();
    }
  }

  void writeFloats(const float* const* in, Frame frames) {
    for (int c = 0; c < row_.channels; ++c) measure(in[c], frames, level_);
    if (checkFinite()) keep(writer_->write(in, frames));
  }

  void writeIntegers(const float* const* in, Frame at, Frame frames) {
    thread_local std::array<std::array<std::int32_t, kTurn>, kMaxMixChannels> integers;
    const std::int32_t* out[kMaxMixChannels];
    for (std::size_t c = 0; c < quantisers_.size(); ++c) {
      quantisers_[c].run(in[c], at, frames, integers[c].data(), level_);
      out[c] = integers[c].data();
    }
    if (checkFinite()) keep(writer_->write(out, frames));
  }

  bool checkFinite() {
    if (!level_.finite)
      stop({ErrorCode::NotFinite, row_.file, "the sound out of main is not a number or infinite",
            "Look for a fader or clip gain that is far too high"});
    return level_.finite;
  }

  std::size_t index_;
  const Row& row_;
  int tapped_;
  MixMatrix fold_{0, 0, {}};  // where the file has other channels than the tap
  std::string key_;
  std::unique_ptr<PendingFile> file_;
  std::unique_ptr<SoundWriter> writer_;
  std::vector<Quantiser> quantisers_;
  std::vector<float> staging_;  // planar, of the tap
  Frame staged_ = 0;
  Level level_;
  std::optional<Error> error_;
};

/// Rows in parallel, each by one worker; no worker leaves for another pass meanwhile.
template <class Work>
void forEachRow(std::vector<std::unique_ptr<RowOutput>>& outputs, Work&& work) {
  tbb::this_task_arena::isolate([&] {
    tbb::parallel_for(std::size_t{0}, outputs.size(), [&](std::size_t i) {
      const DenormalGuard guard;
      work(*outputs[i], i);
    });
  });
}

}  // namespace

PassKey passKeyOf(const Sheet& sheet, const Row& row) {
  const PlannedSpan& span = sheet.spanOf(row);
  const bool isSet = span.kind == PlannedSpan::Kind::ClipSet;
  return {span.start, span.length, span.finish, isSet ? span.id : std::string(),
          countingOf(sheet.briefOf(row).brief, sheet.rate)};
}

PlannedSpan PassKey::span() const {
  PlannedSpan span = PlannedSpan::stretch(start, length, finish);
  span.kind = clipSet.empty() ? PlannedSpan::Kind::Region : PlannedSpan::Kind::ClipSet;
  span.id = clipSet;
  return span;
}

namespace {

/// The rows of one pass on their way to files, and the sums that are measured meanwhile.
class PassWriter {
 public:
  PassWriter(const Sheet& sheet, const PlannedPass& pass, SpanRecipe& recipe)
      : sheet_(sheet), pass_(pass), recipe_(recipe) {
    for (const PassRow& row : pass.rows) {
      outputs_.push_back(std::make_unique<RowOutput>(sheet, row));
      outputTaps_.push_back(tapOf(sheet.rows[row.row]));
      frames_ = std::max(frames_, sheet.rows[row.row].frames);
    }
    if (pass.judgesSums) addMeters();
  }

  const std::vector<int>& taps() const { return taps_; }
  const std::vector<TapRequest>& requests() const { return requests_; }
  Frame frames() const { return frames_; }

  /// `at`: session frame where the source stands. False after a cancel.
  bool play(TapSource& source, Frame at, RunControl& control) {
    Frame latency = 0;
    for (std::size_t i = 0; i < taps_.size(); ++i) latency = std::max(latency, source.latency(i));
    for (Meter& meter : meters_)
      if (meter.meter) meter.meter->begin(source);
    const Frame runUp = pass_.key.start - at;
    for (Frame done = -runUp; done < frames_ + latency;) {
      if (!control.mayGoOn()) return false;
      // What is thrown away ends with a block of its own, so that the rest begins with one.
      const Frame until = done < 0 ? 0 : frames_ + latency;
      const Frame block = std::min(source.blockFrames(), until - done);
      source.process(pass_.key.start + done, block);
      if (done >= 0) take(source, done, block, control);
      done += block;
    }
    return true;
  }

  /// All of them, for one reason.
  PassResult failed(const Error& error) {
    PassResult result;
    for (const PassRow& row : pass_.rows) result.failed.emplace_back(row.row, error);
    return result;
  }

  PassResult finish() {
    std::vector<PassResult> parts(outputs_.size());
    forEachRow(outputs_, [&](RowOutput& output, std::size_t i) { output.finish(parts[i]); });
    PassResult result;
    for (PassResult& part : parts) {
      std::move(part.files.begin(), part.files.end(), std::back_inserter(result.files));
      result.levels.insert(result.levels.end(), part.levels.begin(), part.levels.end());
      result.failed.insert(result.failed.end(), part.failed.begin(), part.failed.end());
    }
    for (const Meter& meter : meters_) result.sums.push_back(judged(meter));
    return result;
  }

 private:
  struct Meter {
    SumOutcome outcome;
    std::optional<SumMeter> meter;  // none where nothing can be judged
    std::size_t layers = 0;
    std::vector<SignalIssue> issues;
  };

  std::size_t add(int node, TapRequest request) {
    const auto found = std::find(taps_.begin(), taps_.end(), node);
    if (found != taps_.end()) return static_cast<std::size_t>(found - taps_.begin());
    taps_.push_back(node);
    requests_.push_back(std::move(request));
    return taps_.size() - 1;
  }

  std::size_t tapOf(const Row& row) {
    const PlannedBrief& brief = sheet_.briefOf(row);
    const PlannedSource& source = sheet_.sourceOf(row);
    return add(recipe_.tap(brief.brief, source).node, {&brief.brief, {source}, false});
  }

  /// The sources that have a row in the same brief and span, made now or not.
  std::vector<std::size_t> presentWith(std::size_t row) const {
    const auto isWith = [&](std::size_t other) {
      return sheet_.rows[other].brief == sheet_.rows[row].brief &&
             sheet_.rows[other].span == sheet_.rows[row].span;
    };
    while (row > 0 && isWith(row - 1)) --row;
    std::vector<std::size_t> present;
    const std::size_t first = row;
    for (; row < sheet_.rows.size() && sheet_.rows[row].brief == sheet_.rows[first].brief &&
           sheet_.rows[row].span == sheet_.rows[first].span;
         ++row)
      present.push_back(sheet_.rows[row].source);
    return present;
  }

  void addMeters() {
    std::set<std::pair<std::uint32_t, std::uint32_t>> seen;
    for (const PassRow& place : pass_.rows) {
      const Row& row = sheet_.rows[place.row];
      if (seen.insert({row.brief, row.span}).second) addMeter(row, presentWith(place.row));
    }
  }

  void addMeter(const Row& row, const std::vector<std::size_t>& present) {
    const PlannedBrief& brief = sheet_.briefOf(row);
    SumCheck check = sumCheckOf(recipe_, brief, brief.spans[row.span], present);
    Meter& meter = meters_.emplace_back();
    meter.outcome.brief = row.brief;
    meter.outcome.span = row.span;
    meter.outcome.text = std::move(check.text);
    meter.layers = check.sources.size();
    if (!check.isJudged) return;
    std::vector<PlannedSource> sources;
    for (const std::size_t index : check.sources) sources.push_back(brief.sources[index]);
    const Tap all = recipe_.everything(brief.brief, sources);
    std::vector<std::size_t> layers;
    for (const PlannedSource& source : sources) {
      const Tap tap = recipe_.tap(brief.brief, source);
      meter.issues.insert(meter.issues.end(), tap.issues.begin(), tap.issues.end());
      layers.push_back(
          add(recipe_.asWide(tap.node, all.channels), {&brief.brief, {source}, false, all.channels}));
    }
    const std::size_t reference = add(all.node, {&brief.brief, sources, true});
    meter.meter.emplace(std::move(layers), reference, row.frames);
  }

  SumOutcome judged(const Meter& meter) const {
    SumOutcome outcome = meter.outcome;
    if (!meter.meter || !meter.meter->problem().empty()) {
      if (meter.meter) outcome.text = meter.meter->problem();
      return outcome;
    }
    outcome.residualDb = meter.meter->residualDb();
    outcome.verdict = outcome.residualDb < kSumToleranceDb ? SumVerdict::AddsUp : SumVerdict::Differs;
    const Brief& brief = sheet_.briefs[outcome.brief].brief;
    const std::string whole = brief.reach.stage == ReachStage::Main ? "the mix" : "what they are taken from";
    const std::string layers = counted(meter.layers, "layer");
    if (outcome.verdict == SumVerdict::AddsUp)
      outcome.text =
          layers + (meter.layers == 1 ? " is " : " add up to ") + whole +
          (outcome.residualDb <= kExactSumDb ? ", exactly" : ", within " + residualText(outcome.residualDb));
    else
      outcome.text = layers + (meter.layers == 1 ? " differs" : " together differ") + " from " + whole +
                     " by up to " + residualText(outcome.residualDb) + causeOf(meter.issues);
    return outcome;
  }

  static std::string residualText(double decibels) {
    char text[32];
    std::snprintf(text, sizeof text, "%.1f dB", std::fabs(decibels));
    return (decibels < 0 ? "−" : "") + std::string(text);
  }

  static std::string causeOf(const std::vector<SignalIssue>& issues) {
    for (const SignalIssue& issue : issues) {
      if (issue.code == RemarkCode::CannotSplit)
        return ": " + printable(issue.what, 200) + " cannot be split among layers";
      if (issue.code == RemarkCode::KeyedAlone)
        return ": " + printable(issue.what, 200) + " reacts to each layer alone. Key them by the mix";
    }
    return {};
  }

  void take(TapSource& source, Frame at, Frame frames, RunControl& control) {
    forEachRow(outputs_, [&](RowOutput& output, std::size_t i) {
      const Frame latency = source.latency(outputTaps_[i]);
      output.write(source.tap(outputTaps_[i]), at - latency, frames);
      const Frame first = std::max<Frame>(0, at - latency);
      control.framesDone +=
          std::clamp<Frame>(std::min(output.planned().frames, at - latency + frames) - first, 0, frames);
    });
    for (Meter& meter : meters_)
      if (meter.meter) meter.meter->take(source, at, frames);
  }

  const Sheet& sheet_;
  const PlannedPass& pass_;
  SpanRecipe& recipe_;
  std::vector<std::unique_ptr<RowOutput>> outputs_;
  std::vector<std::size_t> outputTaps_;
  std::vector<int> taps_;
  std::vector<TapRequest> requests_;
  std::vector<Meter> meters_;
  Frame frames_ = 0;
};

/// Ids of the plug-ins that a node hears, with the nodes they are.
std::map<std::string, const RecipeNode*> pluginsOf(const SpanRecipe& recipe, int tapped) {
  std::map<std::string, const RecipeNode*> plugins;
  std::set<int> seen;
  std::vector<int> open;
  if (tapped != kSilentNode) open.push_back(tapped);
  while (!open.empty()) {
    const int index = open.back();
    open.pop_back();
    if (!seen.insert(index).second) continue;
    const RecipeNode& node = recipe.node(index);
    if (node.info != nullptr && node.info->isPlugin) plugins[node.insert->id] = &node;
    open.insert(open.end(), node.inputs.begin(), node.inputs.end());
  }
  return plugins;
}

/// Taps without plug-ins here, the others in another process.
class MixedSource : public TapSource {
 public:
  static Result<std::unique_ptr<TapSource>> open(const SpanRecipe& recipe, const PassKey& key,
                                                 const ReadableMedia& media, const std::vector<int>& taps,
                                                 const std::vector<TapRequest>& requests,
                                                 PluginPasses& plugins) {
    auto mixed = std::make_unique<MixedSource>();
    std::vector<int> here;
    std::vector<TapRequest> there;
    for (std::size_t i = 0; i < taps.size(); ++i) {
      const bool isThere = !pluginsOf(recipe, taps[i]).empty();
      mixed->places_.push_back({isThere, isThere ? there.size() : here.size()});
      if (isThere)
        there.push_back(requests[i]);
      else
        here.push_back(taps[i]);
    }
    OCTAPHON_ASSIGN(mixed->there_, plugins.open(recipe, key, media, there));
    mixed->here_ = std::make_unique<Graph>(recipe, media, std::move(here));
    return mixed;
  }

  Frame blockFrames() const override { return std::min(here_->blockFrames(), there_->blockFrames()); }
  void process(Frame at, Frame frames) override {
    here_->process(at, frames);
    there_->process(at, frames);
  }
  TapBlock tap(std::size_t index) const override { return of(index).tap(places_[index].second); }
  int channels(std::size_t index) const override { return of(index).channels(places_[index].second); }
  Frame latency(std::size_t index) const override { return of(index).latency(places_[index].second); }

 private:
  const TapSource& of(std::size_t index) const { return places_[index].first ? *there_ : *here_; }

  std::unique_ptr<TapSource> here_, there_;
  std::vector<std::pair<bool, std::size_t>> places_;  // whether it is there, and its number
};

/// Rows that failed because a plug-in did which they do not hear: they can be made without the rows that do.
/// Those get its name.
std::vector<PassRow> innocentRows(SpanRecipe& recipe, const Sheet& sheet, const PlannedPass& pass,
                                  PassResult& result) {
  std::set<std::size_t> innocent;
  bool isSomeoneGuilty = false;
  for (auto& [index, error] : result.failed) {
    if (error.code != ErrorCode::PluginFailed || error.place.empty()) continue;
    const Row& row = sheet.rows[index];
    const auto heard = pluginsOf(recipe, recipe.tap(sheet.briefOf(row).brief, sheet.sourceOf(row)).node);
    const auto found = heard.find(error.place);
    if (found == heard.end()) {
      innocent.insert(index);
      continue;
    }
    isSomeoneGuilty = true;
    const RecipeNode& node = *found->second;
    error.place = printable(node.insert->name.empty() ? node.info->name : node.insert->name, 60) + " (" +
                  node.insert->id + ")";
  }
  std::vector<PassRow> again;
  if (!isSomeoneGuilty) return again;
  std::erase_if(result.failed, [&](const auto& failed) { return innocent.contains(failed.first); });
  for (const PassRow& place : pass.rows)
    if (innocent.contains(place.row)) again.push_back(place);
  return again;
}

void append(PassResult& to, PassResult from) {
  std::move(from.files.begin(), from.files.end(), std::back_inserter(to.files));
  to.levels.insert(to.levels.end(), from.levels.begin(), from.levels.end());
  std::move(from.failed.begin(), from.failed.end(), std::back_inserter(to.failed));
}

}  // namespace

PassResult runPass(const Sheet& sheet, const SignalContext& context, const PlannedPass& pass,
                   const ReadableMedia& media, RunControl& control, PluginPasses* plugins) {
  if (!control.mayGoOn()) return {};
  const PlannedSpan span = pass.key.span();
  SpanRecipe recipe(context, span, pass.key.counting, context.finder.heardIn(span, pass.key.counting));
  PassWriter writer(sheet, pass, recipe);
  const Frame at = pass.key.start - context.finder.runUpOf(span, pass.key.counting);
  if (!recipe.hasPlugins() || plugins == nullptr) {
    Graph graph(recipe, media, writer.taps());
    return writer.play(graph, at, control) ? writer.finish() : PassResult{};
  }
  auto source = MixedSource::open(recipe, pass.key, media, writer.taps(), writer.requests(), *plugins);
  if (source && !writer.play(**source, at, control)) return {};
  PassResult result = source ? writer.finish() : writer.failed(source.error());
  PlannedPass rest{pass.key, innocentRows(recipe, sheet, pass, result), false};
  if (!rest.rows.empty()) append(result, runPass(sheet, context, rest, media, control, plugins));
  return result;
}

void runSweep(const Sheet& sheet, const SignalContext& context, const std::vector<PlannedPass>& passes,
              const ReadableMedia& media, RunControl& control, PluginPasses* plugins,
              const std::function<void(PassResult)>& done) {
  // One recipe for all, of everything that sounds up to the last end, so that the states fit.
  Frame end = 0;
  for (const PlannedPass& pass : passes) end = std::max(end, pass.key.span().end());
  PlannedSpan whole = passes.front().key.span();
  whole.start = 0;
  whole.length = end;
  Counting counting = passes.front().key.counting;
  SpanRecipe recipe(context, whole, counting, context.finder.heardIn(whole, counting));
  std::vector<std::unique_ptr<PassWriter>> writers;
  std::vector<int> taps;
  for (const PlannedPass& pass : passes) {
    writers.push_back(std::make_unique<PassWriter>(sheet, pass, recipe));
    taps.insert(taps.end(), writers.back()->taps().begin(), writers.back()->taps().end());
  }
  if (recipe.hasPlugins()) {  // their state cannot be copied: each pass goes all the way on its own
    writers.clear();
    for (const PlannedPass& pass : passes) done(runPass(sheet, context, pass, media, control, plugins));
    return;
  }
  Graph sweep(recipe, media, std::move(taps));
  Frame at = 0;
  for (std::size_t i = 0; i < passes.size(); ++i) {
    const PassKey& key = passes[i].key;
    while (at < key.start) {
      if (!control.mayGoOn()) return;
      const Frame block = std::min(sweep.blockFrames(), key.start - at);
      sweep.process(at, block);
      at += block;
    }
    const auto fork = sweep.fork(writers[i]->taps(), key.span().end());
    if (!writers[i]->play(*fork, key.start, control)) return;
    done(writers[i]->finish());
    writers[i].reset();
  }
}

}  // namespace octaphon
