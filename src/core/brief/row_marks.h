// Edits of what a brief says of single rows. Keys are whole, as Sheet::keyOf() gives them; those of other
// briefs do not count.
#pragma once

#include <functional>
#include <optional>
#include <string>
#include <vector>

#include "brief/brief.h"

namespace octaphon {

/// Takes rows out of a brief, or in again.
void setHeldBack(Brief& brief, const std::vector<std::string>& keys, bool on);

/// Changes what a row has of its own; what is left without anything goes.
void changeException(Brief& brief, const std::string& key, const std::function<void(RowException&)>& change);
/// What a row has of its own; nothing of it where there is none.
RowException exceptionOfRow(const Brief& brief, const std::string& key);
/// Rows are as the brief says again.
void dropExceptions(Brief& brief, const std::vector<std::string>& keys);

/// Gives a brief other files of each sound. What it says of rows stays with their files, whose format is part
/// of their keys: `from[i]` is the index that output i had before; none: it is new.
void changeOutputs(Brief& brief, std::vector<Output> outputs,
                   const std::vector<std::optional<std::size_t>>& from);

/// The same where the brief has its new files already: each is the one that stood at its place `before`.
void keepRows(Brief& brief, const std::vector<Output>& before);

/// Remarks of a code about rows do not count any more; an earlier reason for the same rows goes. The key of
/// the brief as a whole is its id and a slash.
void acceptRemarks(Brief& brief, const std::string& code, const std::vector<std::string>& keys,
                   const std::string& reason);
/// They count again.
void takeBackAccepted(Brief& brief, const std::string& code, const std::vector<std::string>& keys);

}  // namespace octaphon
