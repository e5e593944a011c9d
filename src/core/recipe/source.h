// What a sound is taken from.
#pragma once

#include <string>
#include <vector>

#include "session/strip.h"

namespace octaphon {

struct PlannedSource {
  enum class Kind {
    Track,
    Group,
    Return,
    Sum,         ///< of `tracks`
    MixWithout,  ///< the mix without `tracks`
    Mix,
    Together,  ///< all of `parts`, their channels behind each other
  };
  static PlannedSource mix() {
    PlannedSource mix;
    mix.id = "main";
    mix.name = "mix";
    return mix;
  }

  Kind kind = Kind::Mix;
  Strip track = {};                       ///< main for sums and the mix
  std::string id = {};                    ///< of the track or sum; `main` for the mix
  std::string name = {};                  ///< `mix` for the mix
  std::string group = {};                 ///< name of the group it is in; empty below main
  std::vector<Strip> tracks = {};         ///< of sums
  std::vector<PlannedSource> parts = {};  ///< of Together
  std::string heard = {};                 ///< where it is taken off, in words: `through Machines and main`

  bool isEverywhere = true;  ///< over all spans; else only over those that ask for it

  /// In keys of rows: `track:t1`, `mix`.
  std::string key() const;
  /// The mix, whole or without some.
  bool isWhole() const { return kind == Kind::Mix || kind == Kind::MixWithout; }
};

}  // namespace octaphon
