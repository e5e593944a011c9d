#include "run/row_output.h"

#include <algorithm>
#include <cmath>

#include "check/file_levels.h"
#include "check/file_seam.h"
#include "run/planned_as_made.h"
#include "run/row_finish.h"

namespace octaphon {

Result<> RowOutput::open() {
  OCTAPHON_ASSIGN(PendingFile file, folder_->create(row().file));
  file_ = std::make_unique<PendingFile>(std::move(file));
  OCTAPHON_ASSIGN(encoder_,
                  openEncoder(*file_, sheet_.formOf(row()), data_.of(row(), row().extent, {}), key_));
  const SpanEnds& ends = sheet_.endsOf(row());
  if (ends.loop.isThere())
    loop_ = std::make_unique<WrittenLoop>(*encoder_, row().rate, row().channels,
                                          std::max(1, encodingInfo(row().encoding).bits), row().extent.leadIn,
                                          ends.loop.isLap() ? 0 : row().extent.body);
  figures_ = std::make_unique<WrittenFigures>(
      loop_ ? static_cast<SampleSink&>(*loop_) : *encoder_, row().channels,
      encodingInfo(row().encoding).isInteger ? encodingInfo(row().encoding).bits : 0);
  sink_.leadTo(figures_.get());
  return {};
}

/// What its gain takes, what else is asked for, and what is known already.
LevelsAsked RowOutput::measuredOf(const TappedSound& sound) const {
  const LevelsAsked known = sound.levels ? sound.levels->measured : LevelsAsked{};
  return besides_.with(known).with(sheet_.gainSetOf(sound).measures());
}

/// A sound is measured in its first row, all channels of it.
bool RowOutput::wouldMeasure() const {
  if (!isFile()) return true;
  if (!row().isLead || row().part != 0) return false;
  const TappedSound& sound = sheet_.soundOf(row());
  const bool isAsked = sheet_.gainSetOf(sound).isFound() || besides_ != LevelsAsked{};
  return isAsked && !(sound.levels && sound.levels->answers(measuredOf(sound)));
}

void RowOutput::planLevel(FinishPlan& plan) {
  const TappedSound& sound = sheet_.soundOf(row());
  const GainSet& set = sheet_.gainSetOf(sound);
  plan.level.gainDb = set.gainDb;
  plan.level.spool = spool_;
  if (set.isLimited) plan.level.limitDb = set.asked.ceilingDb;
  if (set.isSearched()) plan.level.searchedLufs = set.asked.target();
  plan.level.isMeasuredOnly = !isFile();
  measures_ = wouldMeasure();
  if (measures_) plan.level.measures = measuredOf(sound);
  // Its gain says what comes of what was measured, but for a limiter, and for files in other forms.
  const bool isAlike = row().isLead && row().part == 0;
  if (isFile() && (set.isLimited || (set.measures().truePeak && !isAlike)))
    plan.level.judges = LevelsAsked{true, set.isSearched()}.with(besides_);
  if (isFile() || row().part == 0) return;
  plan.part = 0;
  plan.form.channels = row().folded;
}

ReceiptLine lineOf(const Sheet& sheet, const Row& row, const Fingerprint& fingerprint) {
  ReceiptLine line;
  line.key = sheet.keyOf(row);
  line.file = row.file;
  line.fingerprint = fingerprint;
  line.edition = sheet.briefOf(row).edition.version;
  line.session = sheet.sessionFile;
  return line;
}

void RowOutput::begin(Frame latency, Frame before) {
  isWaiting_ = isFile() && !sheet_.gainSetOf(sheet_.soundOf(row())).gainDb;
  if (isFile() && !isWaiting_) keep(open());
  if (error_) return;
  before_ = framesBefore(before);
  const EncodingInfo& encoding = encodingInfo(row().encoding);
  const SpanEnds& ends = sheet_.endsOf(row());
  const PlannedSpan& span = sheet_.spanOf(row());
  FinishPlan plan;
  plan.tapped = sheet_.soundOf(row()).channels;
  plan.latency = latency;
  plan.extent = ends.extent;
  const RungOut& heard = sheet_.briefOf(row()).rungOut[sheet_.soundOf(row()).span];
  plan.isDecided = !span.ringsOut || heard.isKnown;
  plan.tail = heard.isKnown ? heard.tail : ends.limit;
  plan.context = row().rate == sheet_.rate ? 0 : span.context;
  plan.before = before_;
  plan.trimDb = ends.asked.trimDb;
  plan.fadeIn = {ends.fadeIn, ends.asked.fadeInShape};
  plan.fadeOut = {ends.fadeOut, ends.asked.fadeOutShape};
  plan.form = {row().channels, encoding.bits, encoding.isInteger, sheet_.noiseKeyOf(row()), row().file};
  plan.folded = row().folded;
  plan.part = row().part;
  if (ends.loop.isLap()) {
    plan.loop = lapPlanOf(sheet_, row());
    plan.isDecided = span.loop.way != LoopWay::Fold;
    plan.tail = span.tail;
  }
  planLevel(plan);
  made_.gainDb = plan.level.gainDb.value_or(0);
  chain_ = std::make_unique<FinishChain>(std::move(plan), sink_);
}

void RowOutput::take(const TapBlock& block, Frame frames) {
  if (!wantsMore()) return;
  if (block.error != nullptr) return stop(*block.error);
  keep(chain_->take({block.isSilent() ? nullptr : block.channel, frames}));
}

void RowOutput::end() {
  if (!error_ && chain_) keep(chain_->end());
}

Result<Levels> RowOutput::levels() const {
  if (error_) return tl::unexpected(*error_);
  if (!chain_) return fail(ErrorCode::Cancelled, row().file);
  return chain_->levels();
}

Result<double> RowOutput::searchGain(double gainDb) {
  if (error_) return tl::unexpected(*error_);
  if (!chain_) return fail(ErrorCode::Cancelled, row().file);
  return chain_->searchGain(gainDb);
}

void RowOutput::release(double gainDb) {
  if (error_ || !chain_) return;
  isWaiting_ = false;
  made_.gainDb = gainDb;
  keep(open());
  if (!error_) keep(chain_->release(gainDb));
}

RowResult RowOutput::finish(const Fingerprint& fingerprint) {
  Result<FinishedFile> file = finished(fingerprint);
  if (file && loop_) measureSeam(file->file.fd());
  if (file) judgeDecoded(file->file.fd());
  if (file) made_.made = madeFile(fingerprint);
  if (!file) stop(file.error());
  made_.file = std::move(file);
  return std::move(made_);
}

/// As players decode it: what a lossy format leaves out may open it. Its file has no name yet.
std::optional<Seam> RowOutput::decodedSeam(int fd) const {
  const Extent& extent = made_.extent;
  const auto found = seamOf("/proc/self/fd/" + std::to_string(fd), LoopPlace{extent.leadIn, extent.body}, 0);
  return found ? std::optional(found->seam) : std::nullopt;
}

/// What the receipt keeps of it, by which it is checked without the session.
MadeFile RowOutput::madeFile(const Fingerprint& fingerprint) const {
  MadeFile made = plannedAsMade(sheet_, row(), made_.extent, data_.of(row(), made_.extent, fingerprint));
  made.figures = figures_->figures();
  made.clipped = made_.level.clipped;
  if (made_.seam) made.seam = std::round(made_.seam->score * 10) / 10;
  made.addsTo = sum_.addsTo;
  made.layers = sum_.layers;
  return made;
}

/// Of the samples as they were written; where a later lap was heard, against its beginning.
void RowOutput::measureSeam(int fd) {
  if (encodingInfo(row().encoding).isLossy() && sheet_.endsOf(row()).loop.isLap())
    if ((made_.seam = decodedSeam(fd))) return;

  Lap goesOn{row().rate, std::move(made_.facts.goesOn)};
  made_.facts.goesOn.clear();
  const bool isAsWritten =
      row().rate == sheet_.rate && goesOn.channels.size() == static_cast<std::size_t>(row().channels);
  made_.seam = octaphon::measureSeam(loop_->lap(), isAsWritten ? &goesOn : nullptr);
}

/// What a lossy format leaves out moves peaks.
void RowOutput::judgeDecoded(int fd) {
  const GainSet& set = sheet_.gainSetOf(sheet_.soundOf(row()));
  if (!encodingInfo(row().encoding).isLossy() || (!set.isFound() && !set.isLimited)) return;
  const LevelsAsked asked = set.measures().with({true, set.isSearched()}).with(besides_);
  if (auto decoded = octaphon::levelsOf("/proc/self/fd/" + std::to_string(fd), asked))
    made_.levels = std::move(*decoded);
}

/// Its tail is listened to again where only its file is known to be right: by now it may be another.
bool RowOutput::isDecidedByHearing() const {
  const SpanEnds& ends = sheet_.endsOf(row());
  const bool isTailKnown = sheet_.briefOf(row()).rungOut[sheet_.soundOf(row()).span].isKnown;
  return ends.isMeasured() && (ends.isCutByHearing() || !isTailKnown);
}

Result<FinishedFile> RowOutput::finished(const Fingerprint& fingerprint) {
  if (error_) return tl::unexpected(*error_);
  if (!chain_) return fail(ErrorCode::Cancelled, row().file);
  made_.level = chain_->level();
  made_.levels = chain_->levelsBehind();
  made_.facts = chain_->facts();
  made_.extent = chain_->extent();
  OCTAPHON_ASSIGN(const WrittenSound written, encoder_->finish(data_.of(row(), made_.extent, fingerprint)));
  const Frame planned = isDecidedByHearing() ? made_.extent.frames() : row().frames();
  if (written.frames != planned)
    return fail(
        ErrorCode::BadValue, file_->place(),
        "written " + std::to_string(written.frames) + " frames instead of " + std::to_string(planned));
  const auto stamp = stampOf(file_->fd());
  if (!stamp) return fail(ErrorCode::NotWritable, file_->place());
  ReceiptLine line = lineOf(sheet_, row(), fingerprint);
  line.content = written.content;
  line.head = written.head;
  line.stamp = *stamp;
  line.samples = chain_->samples();
  line.gainDb = made_.gainDb;
  return FinishedFile{index_, std::move(*file_), std::move(line), row().state != RowState::ToMake};
}

void RowOutput::keep(const Result<>& outcome) {
  if (!outcome) stop(outcome.error());
}

void RowOutput::stop(Error error) {
  error_ = std::move(error);
  chain_.reset();
  sink_.leadTo(nullptr);
  figures_.reset();
  loop_.reset();
  encoder_.reset();
  file_.reset();
}

}  // namespace octaphon
