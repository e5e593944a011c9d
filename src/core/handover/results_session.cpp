#include "handover/results_session.h"

#include <algorithm>
#include <map>
#include <set>
#include <tuple>

#include "base/unicode.h"
#include "edit/ids.h"
#include "exchange/bring_in.h"
#include "handover/lanes.h"
#include "handover/outline_of.h"

namespace octaphon {
namespace {

int commonestRate(const Delivery& delivery) {
  std::map<int, std::size_t> rates;
  for (const DeliveredFile& file : delivery.files)
    if (file.isThere && file.made.rate > 0) ++rates[file.made.rate];
  const auto most = std::max_element(rates.begin(), rates.end(),
                                     [](const auto& a, const auto& b) { return a.second < b.second; });
  return most == rates.end() ? 0 : most->first;
}

/// Times of a session at another rate, and later by so many frames of that.
void moveTo(Session& session, int rate, Frame later) {
  const auto moved = [&](Frame frame) { return atRate(frame, session.rate, rate) + later; };
  for (TempoPoint& point : session.tempo)
    if (point.at > 0) point.at = moved(point.at);
  for (Region& region : session.regions.writable()) {
    const Frame end = moved(region.end());
    region.start = moved(region.start);
    region.length = end - region.start;
  }
  for (MarkerSet& set : session.markerSets)
    for (Marker& marker : set.markers) marker.at = moved(marker.at);
  session.rate = rate;
}

/// The track, group or return that a source is; null for sums and the mix.
const Track* trackOf(const Session& outline, const std::string& sourceKey) {
  const std::size_t colon = sourceKey.find(':');
  return colon == std::string::npos ? nullptr : findTrack(outline, sourceKey.substr(colon + 1));
}

class Builder {
 public:
  Builder(const Delivery& delivery, const std::filesystem::path& file, int rate)
      : delivery_(delivery), folder_(file.has_parent_path() ? file.parent_path() : ".") {
    chooseOutline();
    Session& session = results_.session;
    session.file = file;
    session.title = outline_.displayName() + " (results)";
    session.author = outline_.author;
    session.pictureRate = outline_.pictureRate;
    session.startPicture = outline_.startPicture;
    session.tempo = outline_.tempo;
    session.regions = outline_.regions;
    session.markerSets = outline_.markerSets;
    session.rate = outline_.rate;
    later_ = laterBy(rate);
    moveTo(session, rate, later_);
    maker_.emplace(session);
  }

  Result<ResultsSession> build() {
    for (const DeliveredFile& file : delivery_.files) add(file);
    if (results_.files == 0)
      return fail(ErrorCode::NotFound, delivery_.base.full().string(), "none of the delivered files is there",
                  "Bring them back, or make them again");
    addBriefs();
    return std::move(results_);
  }

 private:
  /// What is printed together again: a brief's files of one encoding and rate.
  struct Print {
    std::size_t brief;
    std::string encoding;
    int rate;
    auto operator<=>(const Print&) const = default;
  };
  struct PrintedClip {
    std::string id, track, name;
  };
  using LaneKey = std::tuple<std::size_t, std::string, std::string, std::string>;  // brief, source, form

  void chooseOutline() {
    for (const std::string& name : delivery_.sessions())
      if (auto outline = outlineIn(*delivery_.receipt, name)) {
        outline_ = std::move(*outline);
        if (outline_.title.empty()) outline_.title = stemOf(name);
        return;
      }
    outline_.rate = commonestRate(delivery_);
  }

  /// Whole seconds, so that nothing begins before the session.
  Frame laterBy(int rate) const {
    Frame first = 0;
    for (const DeliveredFile& file : delivery_.files)
      if (file.isThere && file.made.place.sessionRate > 0)
        first = std::min(first, atRate(file.made.place.start, file.made.place.sessionRate, rate));
    return (-first + rate - 1) / rate * rate;
  }

  void add(const DeliveredFile& file) {
    Session& session = results_.session;
    const EncodingInfo* encoding = encodingNamed(file.made.encoding);
    if (!file.isThere) return leave(file, "it is not there");
    if (encoding == nullptr || trackWidth(file.made.channels) == 0)
      return leave(file, "no track has " + std::to_string(file.made.channels) + " channels");
    const MadePlace& place = file.made.place;
    Clip clip;
    clip.id = maker_->next("c");
    clip.medium = maker_->next("m");
    clip.name = stemOf(file.file);
    clip.start =
        later_ + (place.sessionRate > 0 ? atRate(place.start, place.sessionRate, session.rate) : Frame{0});
    clip.length = atRate(file.frames, file.made.rate, session.rate);
    session.media.push_back(
        {clip.medium, mediaPath(delivery_.base.full() / file.file, folder_), file.frames, file.made.rate});
    Track& track = trackFor(file, clip);
    printed_[{file.brief, file.made.encoding, file.made.rate}].push_back({clip.id, track.id, clip.name});
    track.clips.push_back(std::move(clip));
    ++results_.files;
  }

  void leave(const DeliveredFile& file, const std::string& why) {
    results_.left.push_back({ErrorCode::MediumUnreadable, file.file, why, "The others are placed"});
  }

  /// Sounds that overlap lie on tracks below each other.
  Track& trackFor(const DeliveredFile& file, const Clip& clip) {
    const auto [form, channel] = file.formAndChannel();
    Lanes& lanes = lanes_[{file.brief, file.sourceKey(), form, channel}];
    if (const auto free = lanes.take(clip.start, clip.end())) return *findTrack(results_.session, *free);
    const Track* original = trackOf(outline_, file.sourceKey());
    Track track;
    track.id = maker_->next("t");
    track.name = file.made.source + (channel == "all" ? "" : " " + channel);
    if (lanes.empty() && formsOf(file) > 1) track.name += " (" + form + ")";
    track.name += lanes.suffix();
    track.channels = trackWidth(file.made.channels);
    if (original != nullptr) track.ink = original->ink;
    track.group = groupFor(file.brief, original);
    lanes.add(track.id, clip.end());
    results_.session.tracks.push_back(std::move(track));
    return results_.session.tracks.back();
  }

  std::size_t formsOf(const DeliveredFile& file) const {
    std::set<std::string> forms;
    for (const DeliveredFile& other : delivery_.files)
      if (other.brief == file.brief && other.spanKey() == file.spanKey() &&
          other.sourceKey() == file.sourceKey())
        forms.insert(other.formAndChannel().first);
    return forms.size();
  }

  /// Where several briefs are there, each has a group around its own.
  std::string groupFor(std::size_t brief, const Track* original) {
    if (original == nullptr) return briefGroup(brief);
    const bool isGroup = original->isGroup();
    return copyOf(brief, isGroup ? original->id : original->group);
  }

  std::string briefGroup(std::size_t brief) {
    if (delivery_.briefs.size() < 2) return {};
    const auto found = briefGroups_.find(brief);
    if (found != briefGroups_.end()) return found->second;
    const DeliveredBrief& words = delivery_.briefs[brief].words;
    return briefGroups_[brief] = addGroup(words.name.empty() ? words.brief : words.name, {}, 0);
  }

  /// The group of that id, with those around it.
  std::string copyOf(std::size_t brief, const std::string& id) {
    const Track* original = id.empty() ? nullptr : findTrack(outline_, id);
    if (original == nullptr) return briefGroup(brief);
    const auto found = groups_.find({brief, id});
    if (found != groups_.end()) return found->second;
    const std::string around = copyOf(brief, original->group);
    return groups_[{brief, id}] = addGroup(original->name, around, original->ink);
  }

  std::string addGroup(const std::string& name, const std::string& around, int ink) {
    Track group;
    group.id = maker_->next("g");
    group.name = name;
    group.kind = TrackKind::Group;
    group.group = around;
    group.ink = ink;
    results_.session.tracks.push_back(std::move(group));
    return results_.session.tracks.back().id;
  }

  /// Each clip as it is, before any fader: what comes of it is what was delivered.
  void addBriefs() {
    std::map<std::size_t, std::size_t> counts;
    for (const auto& [print, clips] : printed_) ++counts[print.brief];
    for (const auto& [print, clips] : printed_) {
      const DeliveredBrief& words = delivery_.briefs[print.brief].words;
      Brief brief = newBrief();
      brief.id = maker_->next("b");
      brief.name = words.name.empty() ? words.brief : words.name;
      if (counts[print.brief] > 1) {
        brief.name += " " + print.encoding;
        if (hasOtherRate(print)) brief.name += " " + std::to_string(print.rate);
      }
      brief.what.mix = false;
      brief.what.tracks = Selection::everything();
      brief.where.regions = {};
      std::vector<std::string> ids;
      for (const PrintedClip& clip : clips) ids.push_back(clip.id);
      brief.where.clips = Selection(false, ids);
      brief.heard.reach.stage = ReachStage::Clips;
      brief.heard.withReturns = Returns::Out;
      brief.heard.endFadeMs = 0;
      brief.files.encoding = encodingNamed(print.encoding)->encoding;
      if (print.rate != results_.session.rate) brief.files.rate = print.rate;
      brief.names.format = "{region}";
      giveNames(brief, clips);
      results_.session.briefs.push_back(std::move(brief));
    }
  }

  /// With their folders, as they were delivered.
  static void giveNames(Brief& brief, const std::vector<PrintedClip>& clips) {
    const std::string form = outputKeys(brief.outputs()).front();
    for (const PrintedClip& clip : clips) {
      RowException own;
      own.row = "clip:" + clip.id + "/track:" + clip.track + "/" + form + "/all";
      own.name = clip.name;
      brief.rowExceptions.push_back(std::move(own));
    }
  }

  bool hasOtherRate(const Print& print) const {
    return std::any_of(printed_.begin(), printed_.end(), [&](const auto& other) {
      return other.first.brief == print.brief && other.first.encoding == print.encoding &&
             other.first.rate != print.rate;
    });
  }

  const Delivery& delivery_;
  std::filesystem::path folder_;
  Session outline_;
  Frame later_ = 0;
  std::optional<IdMaker> maker_;
  std::map<LaneKey, Lanes> lanes_;
  std::map<std::size_t, std::string> briefGroups_;                     // ids, by brief
  std::map<std::pair<std::size_t, std::string>, std::string> groups_;  // ids, by brief and id of the original
  std::map<Print, std::vector<PrintedClip>> printed_;                  // ids of clips
  ResultsSession results_;
};

}  // namespace

Result<ResultsSession> sessionOfResults(const Delivery& delivery, const std::filesystem::path& file) {
  const int rate = commonestRate(delivery);
  if (rate < kMinRate || rate > kMaxRate)
    return fail(ErrorCode::NotFound, delivery.base.full().string(),
                "no file is there of a rate that a session has", "Bring the files back, or make them again");
  return Builder(delivery, file, rate).build();
}

}  // namespace octaphon
