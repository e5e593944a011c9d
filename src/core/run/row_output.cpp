#include "run/row_output.h"

namespace octaphon {

Result<> RowOutput::open() {
  OCTAPHON_ASSIGN(PendingFile file, folder_.create(row().file));
  file_ = std::make_unique<PendingFile>(std::move(file));
  OCTAPHON_ASSIGN(encoder_, openEncoder(*file_, row().encoding, row().channels, sheet_.rate));
  return {};
}

void RowOutput::begin(Frame latency) {
  keep(open());
  if (error_) return;
  const EncodingInfo& encoding = encodingInfo(row().encoding);
  FinishPlan plan{sheet_.soundOf(row()).channels, latency, row().frames, {}};
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
  return {index_, std::move(file), level_};
}

Result<FinishedFile> RowOutput::finished(const Fingerprint& fingerprint) {
  if (error_) return tl::unexpected(*error_);
  if (!chain_) return fail(ErrorCode::Cancelled, row().file);
  level_ = chain_->level();
  OCTAPHON_ASSIGN(const WrittenSound written, encoder_->finish());
  if (written.frames != row().frames)
    return fail(
        ErrorCode::BadValue, file_->place(),
        "written " + std::to_string(written.frames) + " frames instead of " + std::to_string(row().frames));
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
