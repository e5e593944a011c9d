#include "write/mp3_encoder.h"

#include <algorithm>

namespace octaphon {
namespace {

constexpr Frame kTurn = 4096;                             // frames handed over at once
constexpr std::size_t kMostBytes = kTurn * 5 / 4 + 7200;  // of so many, as lame.h says
constexpr std::size_t kMostInfo = 2880;                   // bytes of the frame that says delay and padding

}  // namespace

Result<std::unique_ptr<Encoder>> Mp3Encoder::open(const PendingFile& file, const FileForm& form,
                                                  const FileData& planned) {
  std::unique_ptr<Mp3Encoder> encoder(new Mp3Encoder(file, form, makeShell(form)));
  OCTAPHON_TRY(encoder->begin(planned));
  OCTAPHON_TRY(encoder->setUp());
  return encoder;
}

Result<> Mp3Encoder::setUp() {
  encoder_.reset(lame_init());
  if (!encoder_) return tl::unexpected(lacks("there is no memory"));
  lame_global_flags* const encoder = encoder_.get();
  packed_.resize(kMostBytes);
  lame_set_in_samplerate(encoder, form_.rate);
  lame_set_out_samplerate(encoder, form_.rate);
  lame_set_num_channels(encoder, form_.channels);
  lame_set_mode(encoder, form_.channels == 1 ? MONO : JOINT_STEREO);
  lame_set_write_id3tag_automatic(encoder, 0);
  lame_set_bWriteVbrTag(encoder, 1);
  if (form_.coding.variable) {
    lame_set_VBR(encoder, vbr_abr);
    lame_set_VBR_mean_bitrate_kbps(encoder, bitRateOf(form_));
  } else {
    lame_set_brate(encoder, bitRateOf(form_));
  }
  if (lame_init_params(encoder) < 0) return tl::unexpected(lacks("it does not take this rate and bit rate"));
  return {};
}

Result<> Mp3Encoder::take(int bytes) {
  if (bytes < 0) return tl::unexpected(lacks("mistake " + std::to_string(bytes)));
  return bytes_.append({reinterpret_cast<const char*>(packed_.data()), static_cast<std::size_t>(bytes)});
}

Result<> Mp3Encoder::write(const float* const* channels, Frame frames) {
  for (Frame done = 0; done < frames; done += kTurn) {
    const auto count = static_cast<int>(std::min(kTurn, frames - done));
    const float* const left = channels[0] + done;
    const float* const right = channels[form_.channels == 1 ? 0 : 1] + done;
    OCTAPHON_TRY(take(lame_encode_buffer_ieee_float(encoder_.get(), left, right, count, packed_.data(),
                                                    static_cast<int>(packed_.size()))));
  }
  written_ += frames;
  return {};
}

/// The first frame holds no sound but delay, padding and length: known by now.
Result<> Mp3Encoder::end() {
  OCTAPHON_TRY(take(lame_encode_flush(encoder_.get(), packed_.data(), static_cast<int>(packed_.size()))));
  std::vector<unsigned char> info(kMostInfo);
  const std::size_t size = lame_get_lametag_frame(encoder_.get(), info.data(), info.size());
  if (size == 0 || size > info.size()) return {};
  return bytes_.replace(0, {reinterpret_cast<const char*>(info.data()), size});
}

}  // namespace octaphon
