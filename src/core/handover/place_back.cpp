#include "handover/place_back.h"

#include <algorithm>
#include <map>
#include <optional>

#include "edit/ids.h"
#include "exchange/bring_in.h"
#include "handover/lanes.h"

namespace octaphon {
namespace {

class Placer {
 public:
  Placer(Session& session, const Delivery& delivery)
      : session_(session), delivery_(delivery), maker_(session) {
    for (const Track& track : session.tracks) originals_.push_back(track.id);
  }

  PlacedBack place(const std::set<std::string>& keys) {
    const std::string name = session_.file.filename().string();
    for (const DeliveredFile& file : delivery_.files) {
      const DeliveredBrief& words = delivery_.briefs[file.brief].words;
      const bool isOurs = words.session.empty() || words.session == name;
      if (isOurs && (keys.empty() || keys.contains(file.key)) && isFirstForm(file)) add(file);
    }
    for (const std::string& id : muted_)
      if (Track* track = findTrack(session_, id); track != nullptr && !track->mute) {
        track->mute = true;
        ++outcome_.muted;
      }
    return std::move(outcome_);
  }

 private:
  using Source = std::pair<std::string, std::string>;  // key, channel

  bool isFirstForm(const DeliveredFile& file) {
    const auto [form, channel] = file.formAndChannel();
    return forms_.try_emplace(file.spanKey() + "/" + file.sourceKey(), form).first->second == form;
  }

  void add(const DeliveredFile& file) {
    const int width = trackWidth(file.made.channels);
    if (!file.isThere) return leave(file, "it is not there");
    if (width == 0) return leave(file, "no track has " + std::to_string(file.made.channels) + " channels");
    const MadePlace& place = file.made.place;
    if (place.sessionRate == 0) return leave(file, "the receipt does not say where it was");
    Clip clip;
    clip.id = maker_.next("c");
    clip.medium = maker_.next("m");
    clip.name = stemOf(file.file);
    const Frame start = atRate(place.start, place.sessionRate, session_.rate);
    clip.start = std::max<Frame>(0, start);
    clip.offset = clip.start - start;  // what was before the session's start is left out
    clip.length = atRate(file.frames, file.made.rate, session_.rate) - clip.offset;
    if (clip.length <= 0) return leave(file, "it lies before the session's start");
    session_.media.push_back({clip.medium, mediaPath(delivery_.base.full() / file.file, session_.folder()),
                              file.frames, file.made.rate});
    mute(file.sourceKey());
    session_.tracks[trackFor(file, clip, width)].clips.push_back(std::move(clip));
    ++outcome_.files;
  }

  void leave(const DeliveredFile& file, const std::string& why) {
    outcome_.left.push_back({ErrorCode::MediumUnreadable, file.file, why, "The others are placed"});
  }

  void mute(const std::string& source) {
    const std::string id = idOf(source);
    if (std::find(originals_.begin(), originals_.end(), id) != originals_.end())
      return void(muted_.insert(id));
    for (const std::string& original : originals_)
      if (findTrack(session_, original)->group.empty()) muted_.insert(original);
  }

  static std::string idOf(const std::string& source) {
    const std::size_t colon = source.find(':');
    return colon == std::string::npos ? std::string() : source.substr(colon + 1);
  }

  std::size_t trackFor(const DeliveredFile& file, const Clip& clip, int width) {
    Lanes& lanes = lanes_[{file.sourceKey(), file.formAndChannel().second}];
    if (const auto free = lanes.take(clip.start, clip.end())) return indexOf(*free);
    Track track;
    track.id = maker_.next("t");
    track.name = file.made.source + " (result)" + lanes.suffix();
    track.channels = width;
    if (const Track* original = findTrack(session_, idOf(file.sourceKey()))) track.ink = original->ink;
    lanes.add(track.id, clip.end());
    ++outcome_.tracks;
    // Behind the top group around the source and the results that are there already; the mix behind all.
    const std::string top = topOf(file.sourceKey());
    std::string& before = last_.try_emplace(top, top).first->second;
    const std::size_t at = before.empty() ? session_.tracks.size() : indexOf(before) + 1;
    before = track.id;
    session_.tracks.insert(session_.tracks.begin() + static_cast<std::ptrdiff_t>(at), std::move(track));
    return at;
  }

  std::size_t indexOf(const std::string& id) const {
    return static_cast<std::size_t>(std::find_if(session_.tracks.begin(), session_.tracks.end(),
                                                 [&](const Track& track) { return track.id == id; }) -
                                    session_.tracks.begin());
  }

  /// The top group around the source; none of the mix.
  std::string topOf(const std::string& source) const {
    const Track* track = findTrack(session_, idOf(source));
    while (track != nullptr && !track->group.empty()) track = findTrack(session_, track->group);
    return track == nullptr ? std::string() : track->id;
  }

  Session& session_;
  const Delivery& delivery_;
  IdMaker maker_;
  std::vector<std::string> originals_;
  std::set<std::string> muted_;
  std::map<std::string, std::string> forms_;  // of a sound: the first
  std::map<Source, Lanes> lanes_;
  std::map<std::string, std::string> last_;  // of a top group: the track that stands last beside it
  PlacedBack outcome_;
};

}  // namespace

PlacedBack placeBack(Session& session, const Delivery& delivery, const std::set<std::string>& keys) {
  return Placer(session, delivery).place(keys);
}

}  // namespace octaphon
