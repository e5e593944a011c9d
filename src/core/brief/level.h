// How loud files are made: an aim, for each by itself or one gain for a set, and a ceiling. A brief says it,
// and a region or clip set may say it otherwise for itself.
#pragma once

#include <array>
#include <optional>
#include <string>

#include "base/choices.h"

namespace octaphon {

enum class LevelKind { None, Gain, Peak, Loudness, TruePeak };
constexpr auto choicesOf(LevelKind) {
  return std::array<Choice<LevelKind>, 5>{
      {{LevelKind::None, "none", "as loud as it is", "As it is", "No gain"},
       {LevelKind::Gain, "gain", "", "A gain", "The same for all files"},
       {LevelKind::Peak, "peak", "", "Peak", "The largest sample at a level"},
       {LevelKind::Loudness, "loudness", "", "Loudness", "Programme loudness by ITU-R BS.1770-4, in LUFS"},
       {LevelKind::TruePeak, "true-peak", "", "True peak",
        "The largest level between samples too, in dBTP"}}};
}

/// What has one gain.
enum class LevelPer { File, Name, Span, Brief };
constexpr auto choicesOf(LevelPer) {
  return std::array<Choice<LevelPer>, 4>{
      {{LevelPer::File, "file", "each sound by itself", "Each sound",
        "The files of one sound have one gain; siblings lose their balance"},
       {LevelPer::Name, "name", "one gain for all variations of a name", "Variations",
        "Spans whose names differ in their number alone, with all their sources, keep their balance"},
       {LevelPer::Span, "span", "one gain for all sources of a span", "A span",
        "The mix of the span is brought to the aim, and its layers still add up to it"},
       {LevelPer::Brief, "brief", "one gain for all files", "The whole brief",
        "Everything keeps its balance"}}};
}

/// How a ceiling is kept.
enum class CeilingBy { Gain, Limiter };
constexpr auto choicesOf(CeilingBy) {
  return std::array<Choice<CeilingBy>, 2>{
      {{CeilingBy::Gain, "gain", "by gain", "By gain", "All of it gets softer"},
       {CeilingBy::Limiter, "limiter", "by a limiter", "By a limiter",
        "What is over it gets softer for a moment; layers are kept under it by gain"}}};
}

inline constexpr double kLeastLevel = -70, kMostLevel = 48;         ///< dB, dBFS, LUFS, dBTP
inline constexpr double kLeastCeilingDb = -40, kMostCeilingDb = 0;  ///< dBTP
inline constexpr double kInsuranceDb = -0.5;                        ///< dBTP (common practice, no source)

/// `target` where it is not said: no gain, −1 dBFS, −23 LUFS (EBU R 128), −1 dBTP.
constexpr double usualTarget(LevelKind kind) {
  constexpr std::array<double, 5> kUsual{0, 0, -1, -23, -1};
  return kUsual[static_cast<std::size_t>(kind)];
}

/// What a target counts.
constexpr const char* unitOf(LevelKind kind) {
  constexpr std::array<const char*, 5> kUnits{"dB", "dB", "dBFS", "LUFS", "dBTP"};
  return kUnits[static_cast<std::size_t>(kind)];
}

template <class Kind, class Per>
struct LevelAimOf {
  Kind kind{};
  std::optional<double> target = {};  ///< kLeastLevel … kMostLevel; nothing: as usual
  Per per{};
  std::string unknownKeys = {};  ///< as a brief's
  bool operator==(const LevelAimOf&) const = default;
};
using LevelAim = LevelAimOf<LevelKind, LevelPer>;
using OwnLevelAim = LevelAimOf<std::optional<LevelKind>, std::optional<LevelPer>>;

struct Levelling {
  LevelAim level;
  std::optional<double> ceilingDb;  ///< kLeastCeilingDb … kMostCeilingDb, dBTP; nothing: none
  CeilingBy ceilingBy = CeilingBy::Gain;
  bool operator==(const Levelling&) const = default;

  bool changesNothing() const { return level.kind == LevelKind::None && !ceilingDb; }
  double target() const { return level.target.value_or(usualTarget(level.kind)); }
};

/// What a region or clip set has otherwise than its brief; nothing: as the brief.
struct OwnLevelling {
  OwnLevelAim level = {};
  std::optional<double> ceilingDb = {};
  std::optional<CeilingBy> ceilingBy = {};
  bool operator==(const OwnLevelling&) const = default;
};

/// The brief's with what a span has of its own. A kind of its own takes the place of the brief's target, too.
Levelling levellingWith(Levelling levelling, const OwnLevelling& own);

}  // namespace octaphon
