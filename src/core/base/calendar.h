// Dates of the calendar, without a time of day.
#pragma once

#include <optional>
#include <string>
#include <string_view>

namespace octaphon {

struct Date {
  int year = 0, month = 0, day = 0;  ///< Gregorian; 0: none
  bool operator==(const Date&) const = default;
  bool isThere() const { return month > 0; }
};

/// `2026-03-01`; nothing where it is no day of the years 1 to 9999.
std::optional<Date> parseDate(std::string_view text);
std::string dateText(const Date& date);

/// Where the system's clock and zone are now; where SOURCE_DATE_EPOCH is set, what that says (UTC).
Date today();

/// A date as a pattern of calendar letters says (Unicode UTS #35, Date Format Patterns), in English:
/// `yyyy-MM-dd`, `d MMM yy`, `yyyy'w'ww`. Nothing where it holds a letter that is none, or asks for a time of
/// day.
std::optional<std::string> dateAs(const Date& date, std::string_view pattern);

}  // namespace octaphon
