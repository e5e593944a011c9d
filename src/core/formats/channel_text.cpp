#include "formats/channel_text.h"

namespace octaphon {

std::string channelText(int channels) {
  switch (channels) {
    case 1: return "mono";
    case 2: return "stereo";
    case 4: return "quad";
    case 6: return "5.1";
    case 8: return "7.1";
    default: return std::to_string(channels) + " channels";
  }
}

}  // namespace octaphon
