#include "base/calendar.h"

#include <chrono>
#include <cstdio>
#include <cstdlib>
#include <ctime>

#include <unicode/gregocal.h>
#include <unicode/smpdtfmt.h>

namespace octaphon {
namespace {

/// Letters of UTS #35 that are about days; others ask for a time or a zone, or are none.
constexpr std::string_view kDateLetters = "GyYuUrQqMLlwWdDFgEec";

bool isPattern(std::string_view pattern) {
  bool isQuoted = false;
  for (const char c : pattern) {
    if (c == '\'') isQuoted = !isQuoted;
    const bool isLetter = (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z');
    if (!isQuoted && isLetter && kDateLetters.find(c) == std::string_view::npos) return false;
  }
  return !pattern.empty() && !isQuoted && pattern.size() <= 100;
}

}  // namespace

std::optional<Date> parseDate(std::string_view text) {
  Date date;
  char behind = 0;
  const std::string copy(text.substr(0, 20));
  if (copy.size() != 10 ||
      std::sscanf(copy.c_str(), "%4d-%2d-%2d%c", &date.year, &date.month, &date.day, &behind) != 3)
    return std::nullopt;
  const std::chrono::year_month_day day{std::chrono::year(date.year),
                                        std::chrono::month(static_cast<unsigned>(date.month)),
                                        std::chrono::day(static_cast<unsigned>(date.day))};
  if (!day.ok() || date.year < 1 || dateText(date) != copy) return std::nullopt;
  return date;
}

std::string dateText(const Date& date) {
  char text[40];
  std::snprintf(text, sizeof text, "%04d-%02d-%02d", date.year, date.month, date.day);
  return text;
}

/// What stands for now where the same bytes are wanted on any day (reproducible-builds.org,
/// SOURCE_DATE_EPOCH).
static std::optional<std::time_t> timeSaid() {
  const char* said = std::getenv("SOURCE_DATE_EPOCH");
  if (said == nullptr || *said == '\0') return std::nullopt;
  char* end = nullptr;
  const long long seconds = std::strtoll(said, &end, 10);
  constexpr long long kMost = 253'402'300'799;  // the end of 9999
  return *end == '\0' && seconds >= 0 && seconds <= kMost ? std::optional<std::time_t>(seconds)
                                                          : std::nullopt;
}

Date today() {
  const std::optional<std::time_t> said = timeSaid();
  const std::time_t now = said.value_or(std::time(nullptr));
  std::tm local{};
  if (said)
    gmtime_r(&now, &local);
  else
    localtime_r(&now, &local);
  return {local.tm_year + 1900, local.tm_mon + 1, local.tm_mday};
}

std::optional<std::string> dateAs(const Date& date, std::string_view pattern) {
  if (!isPattern(pattern) || !date.isThere()) return std::nullopt;
  UErrorCode status = U_ZERO_ERROR;
  const icu::Locale english("en", "GB");  // its weeks are those of ISO 8601
  icu::SimpleDateFormat format(
      icu::UnicodeString::fromUTF8(icu::StringPiece(pattern.data(), static_cast<int32_t>(pattern.size()))),
      english, status);
  icu::GregorianCalendar calendar(*icu::TimeZone::getGMT(), english, status);
  if (U_FAILURE(status)) return std::nullopt;
  calendar.setTimeZone(*icu::TimeZone::getGMT());
  calendar.clear();
  calendar.set(date.year, date.month - 1, date.day, 12, 0);
  format.setTimeZone(*icu::TimeZone::getGMT());
  icu::UnicodeString made;
  format.format(calendar.getTime(status), made);
  if (U_FAILURE(status)) return std::nullopt;
  std::string text;
  made.toUTF8String(text);
  return text;
}

}  // namespace octaphon
