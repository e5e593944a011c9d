#include "run/pass.h"

#include <tbb/parallel_for.h>
#include <tbb/task_arena.h>

#include <algorithm>
#include <array>

#include "base/denormals.h"

namespace octaphon {
namespace {

constexpr Frame kTurn = 4096;  // frames written at once; a multiple of kQuantiseCell
static_assert(kTurn % kQuantiseCell == 0);

/// One row on its way from a tap to a file.
class RowOutput {
 public:
  /// `tapped` is the number of channels that the graph gives.
  RowOutput(const Sheet& sheet, const PassRow& place, int tapped)
      : index_(place.row), row_(sheet.rows[place.row]), tapped_(tapped) {
    key_ = sheet.keyOf(row_);
    open(*place.folder, sheet.rate);
    const EncodingInfo& info = encodingInfo(row_.encoding);
    for (int c = 0; info.isInteger && c < row_.channels; ++c) quantisers_.emplace_back(info.bits, key_, c);
  }

  std::size_t row() const { return index_; }
  const Row& planned() const { return row_; }
  bool failed() const { return error_.has_value(); }

  void write(const TapBlock& block, Frame at, Frame frames) {
    frames = std::min(frames, row_.frames - at);
    if (error_ || frames <= 0) return;
    if (block.error != nullptr) return stop(*block.error);
    for (Frame done = 0; done < frames && !error_; done += kTurn)
      writeTurn(block, done, at + done, std::min(kTurn, frames - done));
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
    if (row_.channels < tapped_ && !block.isSilent()) in[0] = halfSum(block, offset, frames);
    if (quantisers_.empty())
      writeFloats(in, frames);
    else
      writeIntegers(in, at, frames);
  }

  /// Stereo as mono: half of each side, as a mono bus would take it.
  static const float* halfSum(const TapBlock& block, Frame offset, Frame frames) {
    thread_local std::vector<float> mono(kTurn);
    for (Frame i = 0; i < frames; ++i)
      mono[static_cast<std::size_t>(i)] = static_cast<float>(
          0.5 * (static_cast<double>(block.channel[0][offset + i]) + block.channel[1][offset + i]));
    return mono.data();
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
  std::string key_;
  std::unique_ptr<PendingFile> file_;
  std::unique_ptr<SoundWriter> writer_;
  std::vector<Quantiser> quantisers_;
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

PassResult runPass(const Sheet& sheet, const PassKey& key, const std::vector<PassRow>& rows,
                   const ClipFinder& finder, const ReadableMedia& media, RunControl& control) {
  PassResult result;
  if (!control.mayGoOn()) return result;
  std::vector<int> taps;
  std::vector<std::unique_ptr<RowOutput>> outputs;
  Frame frames = 0;
  for (const PassRow& row : rows) {
    taps.push_back(sheet.sourceOf(sheet.rows[row.row]).track);
    outputs.push_back(std::make_unique<RowOutput>(sheet, row, finder.session().main.channels));
    frames = std::max(frames, sheet.rows[row.row].frames);
  }
  const std::vector<HeardClip> heard = finder.heardIn(key.span(), key.counting);
  Graph graph(finder, media, heard, taps);
  for (Frame at = 0; at < frames; at += graph.blockFrames()) {
    if (!control.mayGoOn()) return result;
    const Frame block = std::min(graph.blockFrames(), frames - at);
    graph.process(key.start + at, block);
    forEachRow(outputs, [&](RowOutput& output, std::size_t i) {
      output.write(graph.tap(i), at, block);
      control.framesDone += std::clamp<Frame>(output.planned().frames - at, 0, block);
    });
  }
  std::vector<PassResult> parts(outputs.size());
  forEachRow(outputs, [&](RowOutput& output, std::size_t i) { output.finish(parts[i]); });
  for (PassResult& part : parts) {
    std::move(part.files.begin(), part.files.end(), std::back_inserter(result.files));
    result.levels.insert(result.levels.end(), part.levels.begin(), part.levels.end());
    result.failed.insert(result.failed.end(), part.failed.begin(), part.failed.end());
  }
  return result;
}

}  // namespace octaphon
