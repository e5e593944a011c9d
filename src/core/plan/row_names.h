// File names of the rows of one brief: numbers, template, letter case, endings.
#pragma once

#include <memory>
#include <vector>

#include "base/result.h"
#include "plan/sheet.h"
#include "routing/track_tree.h"
#include "session/session.h"

namespace octaphon {

/// Names all rows of a brief; adds faults to rows that get no allowed name.
void nameRows(Sheet& sheet, std::size_t brief, const Session& session, const TrackTree& tree);

/// The names that other settings of names would give the rows of a brief, everything else as planned, the
/// numbers among equal names too where there are some. Belongs
/// to one thread; what it is made of lives as long.
class NamesPreview {
 public:
  /// Syntax where the template cannot be understood. Keeps references to sheet, session and tree.
  static Result<NamesPreview> of(const Sheet& sheet, std::size_t brief, const Session& session,
                                 const TrackTree& tree, const Brief::Names& names);
  NamesPreview(NamesPreview&&) noexcept;
  NamesPreview& operator=(NamesPreview&&) noexcept;
  ~NamesPreview();

  /// The file of a row of the brief (its index in the sheet), with folder and ending of its output; empty
  /// where it gets no name.
  std::string fileOf(std::size_t row) const;

 private:
  struct State;
  explicit NamesPreview(std::unique_ptr<State> state);
  std::unique_ptr<State> state_;
};

/// The path and name of a row's file as one may type them: without folder, channel, suffix and ending of its
/// output. Empty where it has none.
std::string nameOf(const Sheet& sheet, const Row& row);

/// What every field gives for a row, in the order of kNameFields; of levels the first, of facts nothing.
std::vector<std::string> fieldValues(const Sheet& sheet, std::size_t row, const Session& session,
                                     const TrackTree& tree);

}  // namespace octaphon
