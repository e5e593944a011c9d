// What a function of the core returns when it can go wrong: a value, or one Error that names the thing, what
// happened to it and the way out. The core never throws across its headers and never prints.
#pragma once

#include <string>
#include <string_view>
#include <utility>

#include <tl/expected.hpp>

namespace octaphon {

/// The closed list of what can go wrong. errorText() has a sentence for each of them.
enum class ErrorCode {
  NotFound,          ///< a file or folder that was asked for is not there
  NotRegularFile,    ///< a pipe, device, folder … where a file is needed
  NotReadable,       ///< the system refuses to read it
  TooLarge,          ///< more than the program accepts, of bytes, depth or frames
  Syntax,            ///< the text is not of the format it claims to be
  BadValue,          ///< a value of the wrong type or out of its range
  TooNew,            ///< written by a newer program
  UnknownName,       ///< a brief, region or track that the session does not have
  OutsideFolder,     ///< a path that would leave the folder it has to stay in
  Occupied,          ///< something that may not be replaced is there already
  TooManyFiles,      ///< more files are open than the system lets a program have
  Busy,              ///< another program is at work in the same folder
  DiskFull,          ///< no space left
  NotWritable,       ///< the system refuses to write
  MediumMissing,     ///< a media file is not there
  MediumChanged,     ///< a media file is not what it was when it was looked at
  MediumUnreadable,  ///< a media file is damaged, or of a kind that cannot be read
  Unsupported,       ///< understood, but not something this version does
  LevelUnknown,      ///< a sound's gain goes by others, and not all of them could be heard
  NothingLeft,       ///< all of a sound is silence that is to be trimmed off
  NotFinite,         ///< a stage gave NaN or infinity
  PluginFailed,      ///< a plug-in crashed, hung or changed what it may not change
  Cancelled,         ///< stopped by the user
};
inline constexpr int kErrorCodes = static_cast<int>(ErrorCode::Cancelled) + 1;

/// In JSON: `not-found`. Never empty for a code of the list.
std::string_view errorName(ErrorCode code);
/// A short sentence for the code, without the place. Never empty for a code of the list.
std::string_view errorText(ErrorCode code);

struct Error {
  ErrorCode code;
  std::string place;  ///< the file, and where in it: `a.octaphon: tracks[2].clips[0].start`
  std::string text;   ///< what happened; empty means errorText(code)
  std::string cure;   ///< what to do; may be empty

  /// `place: text. cure`, in one line.
  std::string describe() const;
};

template <class T = void>
using Result = tl::expected<T, Error>;

inline tl::unexpected<Error> fail(ErrorCode code, std::string place, std::string text = {},
                                  std::string cure = {}) {
  return tl::unexpected<Error>(Error{code, std::move(place), std::move(text), std::move(cure)});
}

/// An Error from errno, for a system call on `place`.
Error systemError(int number, std::string place, ErrorCode otherwise);

}  // namespace octaphon

/// Evaluates a Result; returns its error from the enclosing function, or goes on.
#define OCTAPHON_TRY(expression)                                                   \
  do {                                                                             \
    auto octaphonResult = (expression);                                            \
    if (!octaphonResult) return tl::unexpected(std::move(octaphonResult).error()); \
  } while (false)

#define OCTAPHON_JOIN2(a, b) a##b
#define OCTAPHON_JOIN(a, b) OCTAPHON_JOIN2(a, b)
/// Like OCTAPHON_TRY, and puts the value into `variable`, which it may declare.
#define OCTAPHON_ASSIGN(variable, expression) \
  OCTAPHON_ASSIGN_AT(OCTAPHON_JOIN(octaphonResult, __LINE__), variable, expression)
// NOLINTBEGIN(bugprone-macro-parentheses): a declaration cannot stand in them
#define OCTAPHON_ASSIGN_AT(result, variable, expression)         \
  auto result = (expression);                                    \
  if (!result) return tl::unexpected(std::move(result).error()); \
  variable = std::move(*result)
// NOLINTEND(bugprone-macro-parentheses)
