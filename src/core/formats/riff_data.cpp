#include "formats/riff_data.h"

#include "formats/id3.h"
#include "formats/info_list.h"
#include "formats/ixml.h"
#include "formats/riff_bytes.h"
#include "formats/wav_mark_chunks.h"

namespace octaphon {

std::vector<std::string> riffDataChunks(const FileData& data, const FileForm& form) {
  std::vector<std::string> chunks = wavMarkChunks(data.marks, data.loop, form.rate);
  if (data.isPlain) return chunks;
  if (encodingInfo(form.encoding).container == Container::Wav) {
    chunks.push_back(riffChunk("LIST", infoListData(data)));
    if (needsId3(data)) chunks.push_back(riffChunk("id3 ", id3Tag(data, form)));
  }
  chunks.push_back(riffChunk("iXML", ixmlData(data, form)));
  return chunks;
}

}  // namespace octaphon
