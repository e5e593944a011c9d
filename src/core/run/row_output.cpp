#include "run/row_output.h"

namespace octaphon {

Result<> RowOutput::open() {
  OCTAPHON_ASSIGN(PendingFile file, folder_.create(row().file));
  file_ = std::make_unique<PendingFile>(std::move(file));
  OCTAPHON_ASSIGN(encoder_, openEncoder(*file_, row().encoding, row().channels, row().rate));
  return {};
}

void RowOutput::begin(Frame latency, Frame before) {
  keep(open());
  if (error_) return;
  before_ = before;
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
  plan.context = span.context;
  plan.before = before;
  plan.trimDb = ends.asked.trimDb;
  plan.fadeIn = {ends.fadeIn, ends.asked.fadeInShape};
  plan.fadeOut = {ends.fadeOut, ends.asked.fadeOutShape};
  plan.form = {row().channels, encoding.bits, encoding.isInteger, key_, row().file};
  chain_ = std::make_unique<FinishChain>(std::move(plan), *encoder_);
}

void RowOutput::take(const TapBlock& block, Frame frames) {
  if (!wantsMore()) return;
  if (block.error != nullptr) return stop(*block.error);
  keep(chain_->take({block.isSilent() ? nullptr : block.channel, frames}));
}

RowResult RowOutput::finish(const Fingerprint& fingerprint) {
  if (!error_ && chain_) keep(chain_->end());
  Result<FinishedFile> file = finished(fingerprint);
  if (!file) stop(file.error());
  made_.file = std::move(file);
  return std::move(made_);
}

/// Its tail is listened to again where only its file is known to be right: by now it may be another.
bool RowOutput::isDecidedByHearing() const {
  const SpanEnds& ends = sheet_.endsOf(row());
  const bool isTailKnown = sheet_.briefOf(row()).rungOut[sheet_.soundOf(row()).span].isKnown;
  return ends.isMeasured() && (ends.asked.trimDb || !isTailKnown);
}

Result<FinishedFile> RowOutput::finished(const Fingerprint& fingerprint) {
  if (error_) return tl::unexpected(*error_);
  if (!chain_) return fail(ErrorCode::Cancelled, row().file);
  made_.level = chain_->level();
  made_.facts = chain_->facts();
  made_.extent = chain_->extent();
  OCTAPHON_ASSIGN(
      const WrittenSound written,
      encoder_->finish(timeReference(sheet_.startPicture, sheet_.picture, row().rate, made_.extent.start)));
  const Frame planned = isDecidedByHearing() ? made_.extent.frames() : row().frames();
  if (written.frames != planned)
    return fail(
        ErrorCode::BadValue, file_->place(),
        "written " + std::to_string(written.frames) + " frames instead of " + std::to_string(planned));
  const auto stamp = stampOf(file_->fd());
  if (!stamp) return fail(ErrorCode::NotWritable, file_->place());
  ReceiptLine line{key_, row().file, written.content, fingerprint, written.head, *stamp};
  return FinishedFile{index_, std::move(*file_), std::move(line), row().state != RowState::ToMake};
}

void RowOutput::keep(const Result<>& outcome) {
  if (!outcome) stop(outcome.error());
}

void RowOutput::stop(Error error) {
  error_ = std::move(error);
  chain_.reset();
  encoder_.reset();
  file_.reset();
}

}  // namespace octaphon
