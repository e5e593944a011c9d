#include "manual/filled.h"

#include <functional>
#include <utility>

#include "manual/overview.h"
#include "manual/programs.h"
#include "manual/remark_index.h"

namespace octaphon::manual {

std::string filled(const std::string& document, const std::string& mark, const std::string& text) {
  const std::string opening = "<!-- " + mark + ": made from the program -->\n";
  std::size_t begin = document.find(opening);
  if (begin == std::string::npos) return {};
  begin += opening.size();
  const std::size_t end = document.find("<!-- end -->", begin);
  return end == std::string::npos ? std::string()
                                  : document.substr(0, begin) + "\n" + text + "\n" + document.substr(end);
}

std::string filledByProgram(std::string document) {
  const std::pair<const char*, std::function<std::string()>> places[] = {
      {"usage", [] { return overview(commandLine()); }},
      {"remarks", remarkTable},
      {"findings", findingTable},
  };
  for (const auto& [mark, text] : places)
    if (std::string with = filled(document, mark, text()); !with.empty()) document = std::move(with);
  return document;
}

}  // namespace octaphon::manual
