// Channel layouts in words.
#pragma once

#include <string>

namespace octaphon {

/// `mono`, `stereo`, `5.1`; of others how many.
std::string channelText(int channels);

}  // namespace octaphon
