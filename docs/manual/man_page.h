// Pages for man(1), in the macros of man(7).
#pragma once

#include <string>
#include <string_view>

#include "manual/command_model.h"

namespace octaphon::manual {

struct Edition {
  std::string version;  ///< `0.1.0`
  std::string date;     ///< `2026-11-29`, of the version
};

/// `about` is Markdown: paragraphs, `code`, **bold**, links (their words stay).
std::string manPage(const Command& command, std::string_view about, const Edition& edition);

/// The section of a document under this heading, without it; empty where there is none.
std::string sectionOf(std::string_view document, const std::string& heading);

}  // namespace octaphon::manual
