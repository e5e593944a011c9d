// What is wrong with files beside each other.
#pragma once

#include <string>
#include <vector>

#include "check/file_findings.h"

namespace octaphon {

/// Files of one span and form that were made for different lengths; variations that are far from the others;
/// files of several rows with the same sound. Only files that sound as they were made are looked at.
std::vector<FileFinding> siblingFindings(const std::vector<CheckedFile>& files);

}  // namespace octaphon
