#include "plan/outputs.h"

#include <algorithm>

#include "base/unicode.h"
#include "naming/file_name.h"

namespace octaphon {
namespace {

/// The format of an output as a key has it; equal ones are told apart by their number.
std::string formatKey(const std::vector<Output>& outputs, std::size_t index) {
  const auto self = outputs.begin() + static_cast<std::ptrdiff_t>(index);
  const std::string container(encodingInfo(self->encoding).container);
  const bool isFirst = std::none_of(outputs.begin(), self, [&](const Output& before) {
    return encodingInfo(before.encoding).container == container;
  });
  if (isFirst) return container;
  const auto equal = std::count_if(outputs.begin() + 1, self,
                                   [&](const Output& before) { return before.encoding == self->encoding; });
  return std::string(nameOf(self->encoding)) + (equal == 0 ? "" : "-" + std::to_string(equal + 1));
}

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
  for (std::size_t i = 0; i < planned.outputs.size(); ++i)
    planned.outputKeys.push_back(formatKey(planned.outputs, i));
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
