#include "session_maker.h"

#include <algorithm>
#include <filesystem>

#include "seconds.h"

namespace octaphon::demo {

std::string two(int number) { return (number < 10 ? "0" : "") + std::to_string(number); }

SessionMaker::SessionMaker(std::string title) {
  session_.rate = kRate;
  session_.title = std::move(title);
  session_.author = "The harbour workshop";
}

void SessionMaker::record(const Recording& recording) {
  std::string id = std::filesystem::path(recording.file).stem();
  std::replace(id.begin(), id.end(), ' ', '-');
  session_.media.push_back({id, recording.file});
  recordings_.push_back(recording);
}

Track& SessionMaker::group(const std::string& id, const std::string& name, double gainDb) {
  Track group;
  group.id = id;
  group.name = name;
  group.kind = TrackKind::Group;
  group.gainDb = gainDb;
  session_.tracks.push_back(std::move(group));
  return session_.tracks.back();
}

Track& SessionMaker::track(const std::string& id, const std::string& name, const std::string& inGroup,
                           int channels, double gainDb) {
  Track track;
  track.id = id;
  track.name = name;
  track.group = inGroup;
  track.channels = channels;
  track.gainDb = gainDb;
  session_.tracks.push_back(std::move(track));
  return session_.tracks.back();
}

Track& SessionMaker::find(const std::string& id) {
  return *std::find_if(session_.tracks.begin(), session_.tracks.end(),
                       [&](const Track& track) { return track.id == id; });
}

void SessionMaker::insert(std::vector<Insert>& chain, const std::string& id, const std::string& effect,
                          std::map<std::string, double> values, const char* tag, const std::string& name) {
  Insert insert;
  insert.id = id;
  insert.effect = effect;
  insert.name = name;
  insert.values = std::move(values);
  insert.tags = {tag};
  chain.push_back(std::move(insert));
}

Clip& SessionMaker::clip(const std::string& track, int take, double start, double length, double fadeOut) {
  const auto medium = std::find_if(session_.media.begin(), session_.media.end(),
                                   [&](const Medium& one) { return one.id == track; });
  const Recording& recording = recordings_.at(static_cast<std::size_t>(medium - session_.media.begin()));
  Track& target = find(track);
  Clip clip;
  clip.id = track + "-" + two(static_cast<int>(target.clips.size()) + 1);
  clip.medium = track;
  clip.start = at(start);
  clip.offset = at(take * recording.slotSeconds);
  clip.length = at(length);
  clip.fadeIn = {at(0.003), FadeShape::Linear, {}};
  clip.fadeOut = {at(fadeOut), FadeShape::Smooth, {}};
  target.clips.push_back(std::move(clip));
  return target.clips.back();
}

Region& SessionMaker::region(const std::string& name, double start, double length) {
  Region region;
  region.id = "r" + two(static_cast<int>(session_.regions.size()) + 1);
  region.name = name;
  region.start = at(start);
  region.length = at(length);
  session_.regions.push_back(region);
  return session_.regions.back();
}

Brief& SessionMaker::brief(const std::string& id, const std::string& name) {
  Brief brief;
  brief.id = id;
  brief.name = name;
  brief.delivery.existing = Existing::Replace;
  session_.briefs.push_back(std::move(brief));
  return session_.briefs.back();
}

}  // namespace octaphon::demo
