#include "exchange/bring_in.h"

#include <algorithm>

#include "base/job_files.h"
#include "base/unicode.h"
#include "edit/ids.h"
#include "edit/tracks.h"
#include "exchange/midi_file.h"
#include "exchange/region_table.h"

namespace octaphon {
namespace {

namespace fs = std::filesystem;

class BringerIn {
 public:
  BringerIn(Session& session, const BringInRequest& request)
      : session_(session), request_(request), maker_(session), folder_(resolved(session.folder())) {}

  BroughtIn bringIn(const IncomingFiles& incoming) {
    wasEmpty_ = session_.tracks.empty();
    result_.refused = incoming.refused;
    result_.remarks = incoming.remarks;
    chooseStart(incoming.files);
    for (const IncomingFile& file : incoming.files) add(file);
    guessGroups();
    if (request_.grouping == Grouping::Folders) group(result_.folders);
    if (request_.grouping == Grouping::Prefixes) group(result_.prefixes);
    return std::move(result_);
  }

 private:
  void refuse(Error error) { result_.refused.push_back(std::move(error)); }

  void note(const fs::path& file, const std::string& text) {
    result_.remarks.push_back({Severity::Note, RemarkCode::UnreadableMedium, file.string(),
                               file.filename().string() + ": " + text});
  }

  Frame stampOf(const IncomingFile& file) const {
    return atRate(*file.facts.timeReference, file.info.rate, session_.rate);
  }

  void chooseStart(const std::vector<IncomingFile>& files) {
    Frame first = kMaxFrame;
    for (const IncomingFile& file : files)
      if (file.facts.timeReference) first = std::min(first, stampOf(file));
    if (!wasEmpty_ || session_.startPicture != 0 || first == kMaxFrame) return;
    const Frame hours = first / session_.rate / 3600;
    if (hours < 1 || hours > 23) return;
    const std::string text = (hours < 10 ? "0" : "") + std::to_string(hours) + ":00:00:00";
    if (const auto picture = parseTimecode(text, session_.pictureRate)) session_.startPicture = *picture;
  }

  /// In the session; below 0 where it lies before its start.
  Frame stampedPlace(const IncomingFile& file) const {
    return stampOf(file) - audioFrameOf(session_.startPicture, session_.pictureRate, session_.rate);
  }

  Frame placeOf(const IncomingFile& file) {
    if (request_.placement == Placement::Start) return request_.at;
    if (!file.facts.timeReference) {
      note(file.file, "it carries no position; it lies at the start");
      return 0;
    }
    const Frame place =
        stampOf(file) - audioFrameOf(session_.startPicture, session_.pictureRate, session_.rate);
    if (place < 0) note(file.file, "its position lies before the session begins; it lies at the start");
    return std::max<Frame>(place, 0);
  }

  void add(const IncomingFile& file) {
    const Frame start = placeOf(file);
    const Frame length = atRate(file.info.frames, file.info.rate, session_.rate);
    if (!checkedSum(start, length))
      return refuse({ErrorCode::TooLarge, file.file.string(), "it ends later than a session can",
                     "Place it at the start"});
    Medium medium;
    medium.id = maker_.next("f");
    auto path = request_.copy ? copied(file.file) : Result<std::string>(mediaPath(file.file, folder_));
    if (!path) return refuse(path.error());
    medium.file = std::move(*path);
    medium.frames = file.info.frames;
    medium.rate = file.info.rate;
    result_.media.push_back(medium.id);
    addTracks(file, medium.id, start, length);
    addMarks(file, start);
    session_.media.push_back(std::move(medium));
  }

  Result<std::string> copied(const fs::path& file) {
    OCTAPHON_ASSIGN(const fs::path copy, copyIntoFolder(file, folder_ / "media"));
    return mediaPath(copy, folder_);
  }

  void addTracks(const IncomingFile& file, const std::string& medium, Frame start, Frame length) {
    const std::string name = composed(file.file.stem().string());
    const int channels = file.info.channels;
    const bool tooWide = trackWidth(channels) == 0;
    const ManyChannels many = channels <= 2 ? ManyChannels::OneTrack
                              : tooWide && request_.manyChannels == ManyChannels::OneTrack
                                  ? ManyChannels::Each
                                  : request_.manyChannels;
    if (tooWide && many != request_.manyChannels)
      note(file.file, "it has " + std::to_string(channels) +
                          " channels, more than a track can; each has a track of its own");
    std::optional<Frame> stamp;
    if (file.facts.timeReference) stamp = std::max<Frame>(0, stampedPlace(file));
    const int step = many == ManyChannels::OneTrack ? channels : many == ManyChannels::Each ? 1 : 2;
    for (int first = 0; first < channels; first += step) {
      const int width = std::min(step, channels - first);
      Clip clip;
      clip.id = maker_.next("c");
      clip.medium = medium;
      clip.channel = step == channels ? 0 : first + 1;
      clip.start = start;
      clip.length = length;
      Track track;
      track.id = maker_.next("t");
      track.name = step == channels ? name : name + " " + channelNumbers(first + 1, width);
      track.group = request_.intoGroup;
      track.channels = trackWidth(width);
      track.clips.push_back(std::move(clip));
      result_.tracks.push_back(track.id);
      paths_.push_back(file.file.generic_string());
      names_.push_back(name);
      if (stamp) result_.stamped.emplace_back(track.clips[0].id, *stamp);
      session_.tracks.push_back(std::move(track));
    }
  }

  static std::string channelNumbers(int first, int width) {
    return width == 1 ? std::to_string(first)
                      : std::to_string(first) + "-" + std::to_string(first + width - 1);
  }

  void addMarks(const IncomingFile& file, Frame start) {
    const std::string track = composed(file.file.stem().string());
    const auto here = [&](Frame frame) { return start + atRate(frame, file.info.rate, session_.rate); };
    MarkerSet set{"", track, {}, {}};
    std::size_t unnamed = 0;
    for (const FileMark& mark : file.facts.marks) {
      if (mark.at > file.info.frames || mark.length > file.info.frames - mark.at) continue;
      const std::string label = mark.label.empty() ? "Cue " + std::to_string(++unnamed) : mark.label;
      if (mark.length > 0) {
        addRegion(track + "/" + label, here(mark.at), here(mark.at + mark.length), mark.note);
        continue;
      }
      Marker marker;
      marker.id = maker_.next("m");
      marker.name = label;
      marker.at = here(mark.at);
      marker.notes = mark.note;
      set.markers.push_back(std::move(marker));
    }
    for (std::size_t i = 0; i < file.facts.loops.size(); ++i) {
      const FileLoop& loop = file.facts.loops[i];
      if (loop.end <= file.info.frames)
        addRegion(track + "/Loop " + std::to_string(i + 1), here(loop.start), here(loop.end), {});
    }
    if (set.markers.empty()) return;
    set.id = maker_.next("set");
    result_.markers += set.markers.size();
    session_.markerSets.push_back(std::move(set));
  }

  void addRegion(const std::string& name, Frame start, Frame end, const std::string& notes) {
    Region region;
    region.id = maker_.next("r");
    region.name = name;
    region.start = start;
    region.length = end - start;
    region.notes = notes;
    session_.regions.push_back(std::move(region));
    ++result_.regions;
  }

  void guessGroups() {
    result_.folders = groupsByFolder(paths_);
    result_.prefixes = groupsByPrefix(names_);
    result_.takes = takesIn(names_, paths_);
  }

  void group(const std::vector<GroupGuess>& guesses) {
    for (const GroupGuess& guess : guesses) {
      std::vector<std::string> ids;
      for (const std::size_t member : guess.members) ids.push_back(result_.tracks[member]);
      (void)nestTracks(session_, ids, guess.name);
    }
  }

  Session& session_;
  const BringInRequest& request_;
  IdMaker maker_;
  fs::path folder_;
  bool wasEmpty_ = true;
  std::vector<std::string> paths_, names_;  // of each new track's file
  BroughtIn result_;
};

Result<> bringInMidi(Session& session, const OtherFiles::One& one) {
  OCTAPHON_ASSIGN(MidiMap map, readMidi(one.bytes, session.rate, one.file.string()));
  if (!map.tempo.empty()) session.tempo = std::move(map.tempo);
  if (map.markers.empty()) return {};
  IdMaker maker(session);
  MarkerSet set{maker.next("set"), composed(one.file.stem().string()), {}, {}};
  for (MidiMark& mark : map.markers) {
    Marker marker;
    marker.id = maker.next("m");
    marker.name = std::move(mark.name);
    marker.at = mark.at;
    set.markers.push_back(std::move(marker));
  }
  session.markerSets.push_back(std::move(set));
  return {};
}

}  // namespace

int trackWidth(int channels) {
  for (const int width : {1, 2, 4, 6, 8})
    if (channels <= width) return width;
  return 0;
}

BroughtIn bringIn(Session& session, const IncomingFiles& incoming, const BringInRequest& request) {
  return BringerIn(session, request).bringIn(incoming);
}

OtherFiles readOthers(const std::vector<fs::path>& inputs, const JobControl* job) {
  OtherFiles others;
  for (const fs::path& file : inputs) {
    if (isStopped(job)) break;
    if (!isMidiName(file) && !isTableName(file)) continue;
    auto bytes = readFile(file, isMidiName(file) ? kMaxMidiBytes : kMaxTableBytes);
    if (bytes)
      others.files.push_back({file, std::move(*bytes)});
    else
      others.refused.push_back(bytes.error());
  }
  return others;
}

std::vector<Error> bringInOthers(Session& session, const OtherFiles& others) {
  std::vector<Error> refused = others.refused;
  for (const OtherFiles::One& one : others.files) {
    if (isMidiName(one.file)) {
      if (const auto midi = bringInMidi(session, one); !midi) refused.push_back(midi.error());
      continue;
    }
    const auto table = readRegionTable(session, one.bytes, one.file.string());
    if (table)
      refused.insert(refused.end(), table->refused.begin(), table->refused.end());
    else
      refused.push_back(table.error());
  }
  return refused;
}

Result<fs::path> copyIntoFolder(const fs::path& file, const fs::path& folder, const JobControl* job) {
  std::error_code error;
  fs::create_directories(folder, error);
  for (int n = 1; n < 10'000; ++n) {
    const fs::path target =
        folder / (n == 1 ? file.filename().string()
                         : file.stem().string() + " " + std::to_string(n) + file.extension().string());
    if (resolved(target) == resolved(file)) return target;
    if (fs::exists(target, error)) continue;  // so that nothing is copied in vain
    const auto copied = copyFile(file, target, job);
    if (copied) return target;
    if (copied.error().code != ErrorCode::Occupied) return tl::unexpected(copied.error());
  }
  return fail(ErrorCode::Occupied, folder.string(), "there are too many files of one name");
}

std::string mediaPath(const fs::path& file, const fs::path& folder) {
  const fs::path relative = placed(file).lexically_relative(resolved(folder));
  return relative.generic_string();
}

}  // namespace octaphon
