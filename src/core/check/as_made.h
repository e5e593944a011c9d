// What a file may be off from how it was made, and what of it is gone.
#pragma once

#include <string>
#include <vector>

#include "check/read_back.h"
#include "ledger/made_file.h"

namespace octaphon {

/// A mean of the samples of a channel, full scale 1: −40 dBFS. Ours, no source.
inline constexpr double kOffset = 0.01;
/// What true peaks may be over a ceiling in dB, for meters differ (ITU-R BS.1770-5, annex 2: 0.5 dB at four
/// times the rate).
inline constexpr double kOverCeilingDb = 0.5;
inline constexpr double kWorseSeam = 20;  ///< of 100

bool isLossy(const MadeFile& made);
/// In energy, in dB; 0 of lossless formats.
double energyTolerance(const MadeFile& made);
/// In frames: what decoders may give more or fewer.
Frame lengthTolerance(const MadeFile& made, const ReadBack& there);

/// `24 bit WAV`
std::string encodingText(const std::string& encoding);
std::string framesText(Frame frames);
std::string loopsText(const std::vector<FileLoop>& loops);

/// Names of texts that are gone, or others.
std::vector<std::string> lostTexts(const MadeFile& made, const FileFacts& there);
/// Marks that are still where they were.
std::size_t keptMarks(const MadeFile& made, const FileFacts& there);
bool hasItsLoops(const MadeFile& made, const FileFacts& there);

}  // namespace octaphon
