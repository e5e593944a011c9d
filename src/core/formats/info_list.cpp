#include "formats/info_list.h"

#include "formats/riff_bytes.h"

namespace octaphon {

std::string infoListData(const FileData& data) {
  std::string texts;
  const auto add = [&](std::string_view id, const std::string& text) {
    if (!id.empty() && !text.empty()) texts += riffChunk(id, text + '\0');
  };
  for (const TagInfo& info : kTagInfos) add(info.info, data.text(info.tag));
  add("ICRD", data.date);
  add("ISFT", "Octaphon");
  return "INFO" + texts;
}

}  // namespace octaphon
