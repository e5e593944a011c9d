// The columns of the sheet: what they are called, and what they say of a row.
#pragma once

#include <limits>
#include <optional>
#include <QCoreApplication>
#include <QString>

#include "plan/sheet.h"

namespace octaphon::app {

struct SheetColumns {
  enum Column {
    File,
    BriefName,
    Region,
    Source,
    Heard,
    Start,
    LeadIn,
    Tail,
    Length,
    Channels,
    Format,
    Rate,
    Gain,
    Peak,
    TruePeak,
    Loudness,
    LoudnessRange,
    State,
    RemarkText,
    kColumns
  };

  static QString title(int column);
  static QString textOf(const Sheet& sheet, const Row& row, int column);
  /// What it is sorted by, where that is a number; kUnknown where that is not known yet.
  static std::optional<Frame> numberOf(const Sheet& sheet, const Row& row, int column);
  static constexpr Frame kUnknown = std::numeric_limits<Frame>::min();
  /// How many of what numberOf() gives are one of what is shown; frames where it is a time.
  static double unitOf(const Sheet& sheet, int column);
  /// Of Gain … LoudnessRange.
  static bool isLevel(int column) { return column >= Gain && column <= LoudnessRange; }
  /// Whether it shows by how much a row is out of line with its variations.
  static bool showsApart(const Sheet& sheet, const Row& row, int column);
  /// Whether it stands right.
  static bool isRight(int column);
};

/// The gravest remark about a row, of those that count before those that were accepted; null: none.
const Remark* gravestOf(const Sheet& sheet, const Row& row);
/// What it is, and how many more there are.
QString remarkSummary(const Sheet& sheet, const Row& row);

}  // namespace octaphon::app
