// How far along its signal line a source is heard, and what a brief changes on that way, for the render only.
#pragma once

#include <array>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "base/choices.h"
#include "brief/selection.h"

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
constexpr auto choicesOf(ReachStage) {
  return std::array<Choice<ReachStage>, 8>{{{ReachStage::Clips, "clips"},
                                            {ReachStage::Inserts, "inserts"},
                                            {ReachStage::Track, "track"},
                                            {ReachStage::GroupInserts, "group-inserts"},
                                            {ReachStage::Group, "group"},
                                            {ReachStage::Groups, "groups"},
                                            {ReachStage::MainInserts, "main-inserts"},
                                            {ReachStage::Main, "main"}}};
}

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
constexpr auto choicesOf(Returns) {
  return std::array<Choice<Returns>, 3>{
      {{Returns::In, "in", "with its share of the returns", "With its share of the returns"},
       {Returns::Out, "out", "without returns", "Without returns"},
       {Returns::Files, "files", "returns as files of their own", "Returns as files of their own"}}};
}

enum class Faders { AsMixed, Unity, Value };
constexpr auto choicesOf(Faders) {
  return std::array<Choice<Faders>, 3>{{{Faders::AsMixed, "as-mixed", "faders as mixed", "Faders as mixed"},
                                        {Faders::Unity, "unity", "faders at unity", "Faders at unity"},
                                        {Faders::Value, "value", "faders at a level", "Faders at a level"}}};
}

enum class Pans { AsMixed, Centred };
constexpr auto choicesOf(Pans) {
  return std::array<Choice<Pans>, 2>{{{Pans::AsMixed, "as-mixed", "pans as mixed", "Pans as mixed"},
                                      {Pans::Centred, "centred", "pans centred", "Pans centred"}}};
}

enum class InsertChoice { All, Tagged, None };
constexpr auto choicesOf(InsertChoice) {
  return std::array<Choice<InsertChoice>, 3>{
      {{InsertChoice::All, "all", "all inserts", "All inserts"},
       {InsertChoice::Tagged, "tagged", "inserts with these tags", "Inserts with these tags"},
       {InsertChoice::None, "none", "no inserts", "No inserts"}}};
}

/// What a brief changes on the strips it touches. A fader that is set ignores its automation.
struct Overrides {
  Faders faders = Faders::AsMixed;
  double faderDb = 0;  ///< of Faders::Value, kSilenceDb … kMaxGainDb
  Pans pans = Pans::AsMixed;
  bool volumeAutomation = true, panAutomation = true, muteAutomation = true;  ///< whether they are heard
  InsertChoice inserts = InsertChoice::All;
  std::vector<std::string> tags;  ///< of InsertChoice::Tagged: inserts with one of them are heard
  bool operator==(const Overrides&) const = default;
};

/// Overrides of one track, group or return instead of the brief's.
struct TrackException {
  std::string track;  ///< id, or `main`
  Overrides overrides;
  std::string unknownKeys = {};
  bool operator==(const TrackException&) const = default;
};

/// Some tracks and groups, under one name, as one file.
struct SumSource {
  std::string id;
  std::string name;
  Selection tracks;      ///< groups by hand only
  bool without = false;  ///< the mix without these, instead of their sum
  std::string unknownKeys = {};
  bool operator==(const SumSource&) const = default;
};

}  // namespace octaphon
