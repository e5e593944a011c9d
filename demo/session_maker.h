// What sessions of the demo are put together from: tracks, and clips of the recordings that have their ids.
#pragma once

#include <map>
#include <string>
#include <vector>

#include "session/session.h"
#include "tidewheel_sounds.h"

namespace octaphon::demo {

/// 01, 02 …
std::string two(int number);

class SessionMaker {
 public:
  explicit SessionMaker(std::string title);

  Session& session() { return session_; }
  const std::vector<Recording>& recordings() const { return recordings_; }

  /// A medium that has the file's name for an id, with dashes for spaces.
  void record(const Recording& recording);

  /// What is returned holds until the next track, clip, region or brief.
  Track& group(const std::string& id, const std::string& name, double gainDb = 0);
  Track& track(const std::string& id, const std::string& name, const std::string& inGroup, int channels,
               double gainDb);
  Track& find(const std::string& id);
  void insert(std::vector<Insert>& chain, const std::string& id, const std::string& effect,
              std::map<std::string, double> values, const char* tag, const std::string& name = {});
  /// A take of the recording that has the track's id; seconds.
  Clip& clip(const std::string& track, int take, double start, double length, double fadeOut = 0.05);
  Region& region(const std::string& name, double start, double length);
  /// Replaces what is there.
  Brief& brief(const std::string& id, const std::string& name);

 protected:
  Session session_;

 private:
  std::vector<Recording> recordings_;  // of the media of the session, in their order
};

}  // namespace octaphon::demo
