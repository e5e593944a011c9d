// How far along its signal line a source is heard, and what a brief changes on that way, for the render only.
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace octaphon {

/// Stages of a signal line in their order. The mix is always heard through main.
enum class ReachStage {
  Clips,         ///< clip gain, fades and inserts; of a group what it sums, of a return what is sent to it
  Inserts,       ///< the source's own inserts
  Track,         ///< its own fader and pan
  GroupInserts,  ///< the inserts of a named group around it
  Group,         ///< that group's fader and pan
  Groups,        ///< all groups around it
  MainInserts,
  Main,
};

struct Reach {
  ReachStage stage = ReachStage::Main;
  std::string group;  ///< id, of GroupInserts and Group
  bool operator==(const Reach&) const = default;
};
/// `clips`, `inserts`, `track`, `group-inserts:ID`, `group:ID`, `groups`, `main-inserts`, `main`.
std::string reachName(const Reach& reach);
std::optional<Reach> parseReach(std::string_view name);

/// What becomes of the sound of returns.
enum class Returns {
  In,     ///< each source carries its own share
  Out,    ///< in no file but the mix
  Files,  ///< as files of their own, in no other but the mix
};
std::string_view returnsName(Returns returns);  ///< `in`, `out`, `files`

enum class Faders { AsMixed, Unity, Value };
std::string_view fadersName(Faders faders);  ///< `as-mixed`, `unity`, `value`

enum class InsertChoice { All, Tagged, None };
std::string_view insertChoiceName(InsertChoice choice);  ///< `all`, `tagged`, `none`

/// What a brief changes on the strips it touches. A fader that is set ignores its automation.
struct Overrides {
  Faders faders = Faders::AsMixed;
  double faderDb = 0;  ///< of Faders::Value, kSilenceDb … kMaxGainDb
  bool pansCentred = false;
  bool volumeAutomation = true, panAutomation = true, muteAutomation = true;  ///< whether they are heard
  InsertChoice inserts = InsertChoice::All;
  std::vector<std::string> tags;  ///< of InsertChoice::Tagged: inserts with one of them are heard
  bool operator==(const Overrides&) const = default;
};

/// Overrides of one track, group or return instead of the brief's.
struct TrackException {
  std::string track;  ///< id, or `main`
  Overrides overrides;
  bool operator==(const TrackException&) const = default;
};

/// Some tracks and groups, under one name, as one file.
struct SumSource {
  std::string id;
  std::string name;
  std::vector<std::string> tracks;  ///< ids
  bool without = false;             ///< the mix without these, instead of their sum
  bool operator==(const SumSource&) const = default;
};

}  // namespace octaphon
