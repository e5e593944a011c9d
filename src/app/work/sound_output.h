// Where a player's sound goes: a device, or a clock that keeps time where there is none.
#pragma once

#include <functional>
#include <memory>

#include "play/player.h"

namespace octaphon::app {

class SoundOutput {
 public:
  virtual ~SoundOutput() = default;
  /// Called every few milliseconds while playing.
  virtual void tick() {}
  /// Frames that it has taken from the player and that are not heard yet; 0 once the last one was.
  virtual Frame waiting() const = 0;
};

using OpenOutput = std::function<std::unique_ptr<SoundOutput>(Player& player, int rate)>;

/// The device that was chosen, or the system's, through Qt Multimedia; the silent clock where there is none,
/// or none that takes it.
std::unique_ptr<SoundOutput> openOutput(Player& player, int rate);

}  // namespace octaphon::app
