#include "exchange/bring_in.h"

#include <algorithm>
#include <array>
#include <map>
#include <set>

#include "base/files.h"
#include "base/unicode.h"
#include "edit/ids.h"
#include "edit/tracks.h"
#include "exchange/midi_file.h"
#include "formats/file_facts.h"
#include "media/flaw.h"
#include "media/sound_file.h"

namespace octaphon {
namespace {

namespace fs = std::filesystem;

constexpr std::array kAudioEndings{".wav",  ".wave", ".bwf", ".rf64", ".w64",  ".flac", ".aif", ".aiff",
                                   ".aifc", ".caf",  ".ogg", ".oga",  ".opus", ".mp3",  ".au",  ".snd"};

std::string endingOf(const fs::path& file) { return lowerCase(file.extension().string()); }

/// Part by part, so that a folder's files stay together.
bool pathLess(const fs::path& a, const fs::path& b) {
  auto left = a.begin();
  auto right = b.begin();
  for (; left != a.end() && right != b.end(); ++left, ++right)
    if (const int order = naturalCompare(left->string(), right->string()); order != 0) return order < 0;
  return left == a.end() && right != b.end();
}

/// As it is where the working directory is gone.
fs::path absoluteOf(const fs::path& path) {
  std::error_code error;
  fs::path full = fs::absolute(path, error);
  return error ? path : full;
}

fs::path resolved(const fs::path& path) {
  std::error_code error;
  fs::path full = fs::weakly_canonical(absoluteOf(path), error);
  return error ? absoluteOf(path) : full;
}

/// The folder it is in without links; a file that is a link itself stays what it is called.
fs::path placed(const fs::path& file) { return resolved(absoluteOf(file).parent_path()) / file.filename(); }

std::vector<fs::path> audioInputs(const std::vector<fs::path>& inputs) {
  std::vector<fs::path> files;
  std::error_code error;
  for (const fs::path& input : inputs) {
    if (fs::is_directory(input, error)) {
      for (fs::path& file : audioFilesIn(input)) files.push_back(std::move(file));
    } else if (!isMidiName(input) && !isTableName(input)) {
      files.push_back(placed(input));
    }
  }
  std::stable_sort(files.begin(), files.end(), pathLess);
  files.erase(std::unique(files.begin(), files.end()), files.end());
  return files;
}

int trackWidth(int channels) {
  for (const int width : {1, 2, 4, 6, 8})
    if (channels <= width) return width;
  return 0;
}

/// One sound file on its way in.
struct Incoming {
  fs::path file;
  SoundInfo info;
  FileFacts facts;
};

class BringerIn {
 public:
  BringerIn(Session& session, const BringInRequest& request, const std::atomic<bool>* cancel)
      : session_(session),
        request_(request),
        cancel_(cancel),
        maker_(session),
        folder_(resolved(session.folder())) {}

  BroughtIn bringIn() {
    wasEmpty_ = session_.tracks.empty();
    std::vector<Incoming> files = open();
    chooseStart(files);
    for (const Incoming& file : files) add(file);
    guessGroups();
    if (request_.grouping == Grouping::Folders) group(result_.folders);
    if (request_.grouping == Grouping::Prefixes) group(result_.prefixes);
    return std::move(result_);
  }

 private:
  void refuse(Error error) { result_.refused.push_back(std::move(error)); }

  std::vector<Incoming> open() {
    std::vector<Incoming> files;
    for (const fs::path& file : audioInputs(request_.inputs)) {
      if (cancel_ != nullptr && *cancel_) break;
      if (auto incoming = openOne(file))
        files.push_back(std::move(*incoming));
      else
        refuse(incoming.error());
    }
    return files;
  }

  Result<Incoming> openOne(const fs::path& file) {
    if (!isValidUtf8(file.string()))
      return fail(ErrorCode::BadValue, printable(file.string()), "its name is not UTF-8", "Rename the file");
    OCTAPHON_ASSIGN(const FileHandle handle, openRegular(file));
    OCTAPHON_ASSIGN(const MediumFlaw flaw, findFlaw(handle.get(), file.string()));
    if (isLoss(flaw))
      return fail(ErrorCode::MediumUnreadable, file.string(), flawText(flaw),
                  "Take a file that is whole, or make a WAV file of what is left of it");
    OCTAPHON_ASSIGN(const SoundFile sound, SoundFile::open(file));
    Incoming incoming{file, sound.info(), {}};
    if (flaw != MediumFlaw::None) note(file, flawText(flaw), Severity::Warning);
    if (incoming.info.frames <= 0)
      return fail(ErrorCode::MediumUnreadable, file.string(), "there is no sound in it", "Leave it out");
    // Marks are worth having; a file without whole ones still plays.
    if (auto facts = readFileFacts(file))
      incoming.facts = std::move(*facts);
    else
      note(file, facts.error().text + "; its markers, loops and time stamp are left out");
    if (incoming.facts.missingBytes > 0)
      note(file,
           "it is cut off: " + std::to_string(incoming.facts.missingBytes) +
               " bytes that its header promises are not there. Only what is there is used",
           Severity::Warning);
    return incoming;
  }

  void note(const fs::path& file, std::string text, Severity severity = Severity::Note) {
    result_.remarks.push_back({severity, RemarkCode::UnreadableMedium, file.string(),
                               file.filename().string() + ": " + std::move(text)});
  }

  Frame stampOf(const Incoming& file) const {
    return atRate(*file.facts.timeReference, file.info.rate, session_.rate);
  }

  void chooseStart(const std::vector<Incoming>& files) {
    Frame first = kMaxFrame;
    for (const Incoming& file : files)
      if (file.facts.timeReference) first = std::min(first, stampOf(file));
    if (!wasEmpty_ || session_.startPicture != 0 || first == kMaxFrame) return;
    const Frame hours = first / session_.rate / 3600;
    if (hours < 1 || hours > 23) return;
    const std::string text = (hours < 10 ? "0" : "") + std::to_string(hours) + ":00:00:00";
    if (const auto picture = parseTimecode(text, session_.pictureRate)) session_.startPicture = *picture;
  }

  /// In the session; below 0 where it lies before its start.
  Frame stampedPlace(const Incoming& file) const {
    return stampOf(file) - audioFrameOf(session_.startPicture, session_.pictureRate, session_.rate);
  }

  Frame placeOf(const Incoming& file) {
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

  void add(const Incoming& file) {
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

  void addTracks(const Incoming& file, const std::string& medium, Frame start, Frame length) {
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

  void addMarks(const Incoming& file, Frame start) {
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
  const std::atomic<bool>* cancel_;
  IdMaker maker_;
  fs::path folder_;
  bool wasEmpty_ = true;
  std::vector<std::string> paths_, names_;  // of each new track's file
  BroughtIn result_;
};

}  // namespace

std::vector<fs::path> audioFilesIn(const fs::path& folder) {
  std::vector<fs::path> files;
  std::error_code error;
  for (fs::recursive_directory_iterator
           it(resolved(folder), fs::directory_options::skip_permission_denied, error),
       end;
       !error && it != end; it.increment(error)) {
    const bool isHidden = it->path().filename().string().starts_with('.');
    std::error_code kind;
    if (isHidden && it->is_directory(kind)) it.disable_recursion_pending();
    if (!isHidden && isAudioName(it->path()) && it->is_regular_file(kind)) files.push_back(it->path());
  }
  std::stable_sort(files.begin(), files.end(), pathLess);
  return files;
}

bool isAudioName(const fs::path& file) {
  return std::find(kAudioEndings.begin(), kAudioEndings.end(), endingOf(file)) != kAudioEndings.end();
}
bool isMidiName(const fs::path& file) { return endingOf(file) == ".mid" || endingOf(file) == ".midi"; }
bool isTableName(const fs::path& file) {
  return endingOf(file) == ".csv" || endingOf(file) == ".tsv" || endingOf(file) == ".txt";
}

std::optional<int> commonRate(const std::vector<fs::path>& inputs) {
  std::map<int, int> counts;
  for (const fs::path& file : audioInputs(inputs))
    if (const auto sound = SoundFile::open(file))
      if (sound->info().rate >= kMinRate && sound->info().rate <= kMaxRate) ++counts[sound->info().rate];
  std::optional<int> best;
  for (const auto& [rate, count] : counts)
    if (!best || count >= counts.at(*best)) best = rate;
  return best;
}

BroughtIn bringIn(Session& session, const BringInRequest& request, const std::atomic<bool>* cancel) {
  return BringerIn(session, request, cancel).bringIn();
}

Result<> bringInMidi(Session& session, const fs::path& file) {
  OCTAPHON_ASSIGN(MidiMap map, readMidi(file, session.rate));
  if (!map.tempo.empty()) session.tempo = std::move(map.tempo);
  if (map.markers.empty()) return {};
  IdMaker maker(session);
  MarkerSet set{maker.next("set"), composed(file.stem().string()), {}, {}};
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

Result<fs::path> copyIntoFolder(const fs::path& file, const fs::path& folder) {
  std::error_code error;
  fs::create_directories(folder, error);
  for (int n = 1; n < 10'000; ++n) {
    const fs::path target =
        folder / (n == 1 ? file.filename().string()
                         : file.stem().string() + " " + std::to_string(n) + file.extension().string());
    if (resolved(target) == resolved(file)) return target;
    if (fs::copy_file(file, target, fs::copy_options::none, error)) return target;
    if (error != std::errc::file_exists)
      return fail(ErrorCode::NotWritable, target.string(), error.message(),
                  "Look at the folder's rights and space");
  }
  return fail(ErrorCode::Occupied, folder.string(), "there are too many files of one name");
}

std::string mediaPath(const fs::path& file, const fs::path& folder) {
  const fs::path relative = placed(file).lexically_relative(resolved(folder));
  return relative.generic_string();
}

}  // namespace octaphon
