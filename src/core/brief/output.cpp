#include "brief/output.h"

#include <algorithm>

namespace octaphon {

static std::string outputKey(const std::vector<Output>& outputs, std::size_t index) {
  const auto self = outputs.begin() + static_cast<std::ptrdiff_t>(index);
  const Container container = encodingInfo(self->encoding).container;
  const bool isFirst = std::none_of(outputs.begin(), self, [&](const Output& before) {
    return encodingInfo(before.encoding).container == container;
  });
  if (isFirst) return std::string(containerName(container));
  const auto equal = std::count_if(outputs.begin() + 1, self,
                                   [&](const Output& before) { return before.encoding == self->encoding; });
  return std::string(nameOf(self->encoding)) + (equal == 0 ? "" : "-" + std::to_string(equal + 1));
}

std::vector<std::string> outputKeys(const std::vector<Output>& outputs) {
  std::vector<std::string> keys;
  for (std::size_t i = 0; i < outputs.size(); ++i) keys.push_back(outputKey(outputs, i));
  return keys;
}

}  // namespace octaphon
