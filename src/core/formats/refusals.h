// What a format cannot be: rates, channels, lengths and bit rates that no file of it has, each with the way
// out.
#pragma once

#include <optional>
#include <string>

#include "formats/encoding.h"

namespace octaphon {

enum class RefusalKind { Rate, Channels, Length, BitRate, Seamless };

struct Refusal {
  RefusalKind kind;
  std::string text;  ///< cause and cure, a sentence or two
  bool operator==(const Refusal&) const = default;
};

/// The first thing that is wrong; nothing where the file can be written. `frames` of the file at most;
/// `isLap`: it is played over and over without a gap.
std::optional<Refusal> refusalOf(const FileForm& form, Frame frames, bool isLap);

}  // namespace octaphon
