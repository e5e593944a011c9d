// Listens to what is written, for the figures that its file is known by: a sink between the last stage and
// the encoder.
#pragma once

#include <vector>

#include "finish/sample_sink.h"
#include "level/sound_figures.h"

namespace octaphon {

class WrittenFigures : public SampleSink {
 public:
  /// `bits` of whole numbers; 0: of floating point.
  WrittenFigures(SampleSink& next, int channels, int bits);

  Result<> write(const std::int32_t* const* channels, Frame frames) override;
  Result<> write(const float* const* channels, Frame frames) override;

  const SoundFigures& figures() const { return meter_.figures(); }

 private:
  SampleSink& next_;
  float scale_;
  FiguresMeter meter_;
  std::vector<std::vector<float>> scaled_;
  std::vector<const float*> channels_;
};

}  // namespace octaphon
