// Regions and markers as a table of text (RFC 4180). docs/region-table.md describes it for people.
//
// Written: id, kind, name, start, end, length, colour, set, notes, separated by commas; times as
// `h:mm:ss.nnnnnn`, fine enough to come back to the frame at every rate a session may have. Read: commas,
// semicolons or tabs; decimal points or commas; columns in any order under many names, or without a head;
// times as hours:minutes:seconds, whole numbers of frames, seconds with a decimal part, or timecode of the
// session's clock.
#pragma once

#include <filesystem>
#include <string>
#include <string_view>
#include <vector>

#include "base/result.h"
#include "session/session.h"

namespace octaphon {

inline constexpr std::uint64_t kMaxTableBytes = 64 << 20;

enum class TableTimes { Clock, Frames, Timecode };

std::string writeRegionTable(const Session& session, TableTimes times = TableTimes::Clock);

struct TableOutcome {
  std::size_t regionsAdded = 0, regionsChanged = 0, markersAdded = 0, markersChanged = 0, unchanged = 0;
  std::vector<Error> refused;  ///< rows that could not be taken, by line; the others are
};

/// Rows with the id of a region or marker change it, as far as there are columns; others are added. A row
/// that is there already, name and times, is not added again. Locked things stay and are refused. Syntax
/// where no column can be used.
Result<TableOutcome> readRegionTable(Session& session, std::string_view bytes, const std::string& place);

/// A place (or, with `isLength`, a length) in any form the table takes; BadValue with the reason.
Result<Frame> parseTableTime(std::string_view text, const Session& session, bool isLength);

/// `h:mm:ss.nnnnnn`
std::string tableTime(Frame frames, int rate);

}  // namespace octaphon
