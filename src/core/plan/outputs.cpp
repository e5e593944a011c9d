#include "plan/outputs.h"

#include <algorithm>

#include "base/unicode.h"
#include "naming/file_name.h"

namespace octaphon {
namespace {

/// What may stand behind a name: no folders, and nothing that file systems do not take.
std::string allowedSuffix(std::string suffix) {
  if (suffix.empty()) return suffix;
  std::replace(suffix.begin(), suffix.end(), '/', '_');
  return allowedName("_" + suffix).substr(1);  // a leading dot or space is well behind a name
}

}  // namespace

void planOutputs(PlannedBrief& planned) {
  planned.outputs = planned.brief.outputs();
  for (Output& output : planned.outputs) {
    output.folder = withoutControls(output.folder, "_");
    output.suffix = allowedSuffix(output.suffix);
  }
  planned.outputKeys = outputKeys(planned.outputs);
  const auto isTogether = [](const Output& output) { return output.together; };
  planned.printsTogether = std::any_of(planned.outputs.begin(), planned.outputs.end(), isTogether);
  planned.printsEach = !std::all_of(planned.outputs.begin(), planned.outputs.end(), isTogether);
}

std::vector<int> ratesOf(const PlannedBrief& planned, int sessionRate) {
  std::vector<int> rates;
  const auto add = [&](int rate) {
    if (std::find(rates.begin(), rates.end(), rate) == rates.end()) rates.push_back(rate);
  };
  for (const Output& output : planned.outputs) add(planned.brief.rateOf(output, sessionRate));
  for (const RowException& exception : planned.brief.rowExceptions)
    if (exception.rate > 0) add(exception.rate);
  return rates;
}

}  // namespace octaphon
