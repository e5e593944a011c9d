// What a delivered file was made of, in four parts, so that it can be told what has changed since.
#pragma once

#include "base/hash.h"

namespace octaphon {

struct Fingerprint {
  Digest sound;   ///< what the row hears: clips, effects, ends, rate
  Digest form;    ///< how it is written: encoding, channels, the row whose noise dithers it
  Digest tags;    ///< its name and the data in the file
  Digest engine;  ///< the revision of every processor used
  bool operator==(const Fingerprint&) const = default;
};

}  // namespace octaphon
