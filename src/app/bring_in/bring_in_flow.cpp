#include "app/bring_in/bring_in_flow.h"

#include <map>
#include <QDir>
#include <QFileDialog>
#include <QFileInfo>
#include <unordered_map>

#include "app/work/file_writing.h"
#include "app/work/text.h"
#include "base/unicode.h"
#include "edit/tracks.h"
#include "exchange/find_media.h"
#include "exchange/region_table.h"

namespace octaphon::app {
namespace {

constexpr qsizetype kMostTold = 5;
constexpr double kTakeGapSeconds = 1;  // between takes on one track: islands of their own

std::vector<std::filesystem::path> pathsOf(const QStringList& files) {
  std::vector<std::filesystem::path> paths;
  for (const QString& file : files) paths.emplace_back(file.toStdString());
  return paths;
}

QString groupNames(const std::vector<GroupGuess>& guesses) {
  QStringList names;
  for (std::size_t i = 0; i < std::min<std::size_t>(guesses.size(), 6); ++i)
    names << text(printable(guesses[i].name, 40));
  return names.join(", ") + (guesses.size() > 6 ? " …" : "");
}

}  // namespace

BringInFlow::BringInFlow(Work& work, OfferBar& offers, QWidget* window)
    : QObject(window),
      work_(work),
      document_(work.document()),
      selected_(work.selected()),
      offers_(offers),
      window_(window) {
  connect(&work_, &Work::filesOffered, this, &BringInFlow::add);
}

QStringList BringInFlow::askForFiles() {
  return QFileDialog::getOpenFileNames(window_, tr("Audio files, MIDI files or tables"), {},
                                       tr("What can be brought in (*.wav *.bwf *.rf64 *.w64 *.flac *.aif "
                                          "*.aiff *.aifc *.caf *.ogg *.oga *.opus *.mp3 "
                                          "*.au *.mid *.midi *.csv *.tsv);;All files (*)"));
}

QStringList BringInFlow::askForFolder() {
  const QString folder = QFileDialog::getExistingDirectory(window_, tr("A folder of audio files"));
  return folder.isEmpty() ? QStringList() : QStringList{folder};
}

/// What is put where is settled when they were looked into.
void BringInFlow::read(const QStringList& files, std::function<void(const ReadFiles& read)> then) {
  work_.jobs().start<ReadFiles>(
      LongJobs::Kind::Session, tr("Bringing in files"),
      [paths = pathsOf(files)](JobControl& job) {
        ReadFiles read{lookInto(paths, &job), readOthers(paths, &job), false};
        read.isStopped = job.isStopped;
        return read;
      },
      [this, then = std::move(then)](const ReadFiles& read) {
        if (read.isStopped) return work_.news().say(tr("Stopped: nothing was brought in"));
        then(read);
      });
}

void BringInFlow::makeSession(const QStringList& files,
                              std::function<void(std::function<void()> adopt)> ask) {
  const QFileInfo first(files.value(0));
  const QDir folder = first.isDir() ? QDir(first.absoluteFilePath()) : first.absoluteDir();
  const QString name = folder.dirName().isEmpty() ? tr("Session") : folder.dirName();
  Session session;
  session.file = (folder.absolutePath() + "/" + name + ".octaphon").toStdString();
  read(files, [this, session = std::move(session), ask = std::move(ask)](const ReadFiles& read) {
    if (!read.sounds.files.empty()) return ask([this, session, read] { adopt(session, read); });
    if (!read.sounds.refused.empty()) return tellRefused(read.sounds.refused);
    work_.news().tell(tr("There is no audio file among them"));
  });
}

void BringInFlow::adopt(Session session, const ReadFiles& read) {
  session.rate = commonRate(read.sounds).value_or(48000);
  BroughtIn brought = bringIn(session, read.sounds, {});
  const std::vector<Error> refused = bringInOthers(session, read.others);
  brought.refused.insert(brought.refused.end(), refused.begin(), refused.end());
  document_.adopt(std::move(session), true);
  tellProblems(brought);
  work_.news().say(tr("%1 brought in").arg(text(counted(brought.tracks.size(), "track"))));
  offerMore(brought);
}

void BringInFlow::add(const QStringList& files, Frame at) {
  read(files, [this, at](const ReadFiles& read) {
    BringInRequest request;
    request.at = at;
    BroughtIn brought;
    document_.edit(tr("Bring in files"), [&](Session& session) {
      brought = bringIn(session, read.sounds, request);
      const std::vector<Error> refused = bringInOthers(session, read.others);
      brought.refused.insert(brought.refused.end(), refused.begin(), refused.end());
    });
    tellProblems(brought);
    if (brought.tracks.empty()) return;
    selected_.set(Thing::Track, {brought.tracks.begin(), brought.tracks.end()});
    work_.news().say(tr("%1 brought in").arg(text(counted(brought.tracks.size(), "track"))));
    offerMore(brought);
  });
}

void BringInFlow::tell(QStringList lines) {
  if (lines.isEmpty()) return;
  const qsizetype more = lines.size() - kMostTold;
  if (more > 0) lines = lines.first(kMostTold) << tr("… and %1 more").arg(more);
  work_.news().tell(lines.join('\n'));
}

void BringInFlow::tellRefused(const std::vector<Error>& refused) {
  QStringList lines;
  for (const Error& error : refused) lines << text(error.describe());
  tell(std::move(lines));
}

void BringInFlow::tellProblems(const BroughtIn& brought) {
  QStringList lines;
  for (const Error& error : brought.refused) lines << text(error.describe());
  for (const Remark& remark : brought.remarks)
    if (remark.severity != Severity::Note) lines << text(remark.text);
  tell(std::move(lines));
}

/// What could be done with what came in; nothing of it is done unasked.
void BringInFlow::offerMore(const BroughtIn& brought) {
  std::vector<OfferBar::Choice> choices;
  QStringList words;
  if (!brought.stamped.empty()) {
    words << tr("%1 where it lies in time.")
                 .arg(brought.stamped.size() == 1 ? tr("1 file says")
                                                  : tr("%1 files say").arg(brought.stamped.size()));
    choices.push_back({tr("Place by time stamp"), [this, brought] { place(brought); }});
  }
  Ids wide;
  for (const Track& track : document_.session()->tracks)
    if (track.channels > 2 &&
        std::find(brought.tracks.begin(), brought.tracks.end(), track.id) != brought.tracks.end())
      wide.insert(track.id);
  if (!wide.empty()) {
    words << tr("%1 more than two channels.")
                 .arg(wide.size() == 1 ? tr("1 file has") : tr("%1 files have").arg(wide.size()));
    const auto split = [this, wide](int width) {
      document_.edit(tr("Split channels"), [&](Session& session) { splitChannels(session, wide, width); });
    };
    choices.push_back({tr("A track for each channel"), [split] { split(1); }, "channels"});
    choices.push_back({tr("For each pair"), [split] { split(2); }, "channels"});
  }
  if (!brought.folders.empty()) {
    words << tr("Folders could become groups: %1.").arg(groupNames(brought.folders));
    choices.push_back(
        {tr("Group by folder"), [this, brought] { group(brought.tracks, brought.folders); }, "group"});
  }
  if (!brought.prefixes.empty()) {
    words << tr("Names begin alike: %1.").arg(groupNames(brought.prefixes));
    choices.push_back(
        {tr("Group by name"), [this, brought] { group(brought.tracks, brought.prefixes); }, "group"});
  }
  // Regions and markers that came along lie where their files do.
  if (!brought.takes.empty() && brought.regions == 0 && brought.markers == 0) {
    words << tr("Takes of one name: %1.").arg(groupNames(brought.takes));
    choices.push_back({tr("Takes on one track"), [this, brought] { joinTakesOf(brought); }, "group"});
  }
  if (!choices.empty()) offers_.offer(words.join(' '), choices);
}

void BringInFlow::place(const BroughtIn& brought) {
  const std::unordered_map<std::string, Frame> places(brought.stamped.begin(), brought.stamped.end());
  document_.edit(tr("Place %1 by time stamp").arg(text(counted(places.size(), "clip"))),
                 [&](Session& session) {
                   for (Track& track : session.tracks)
                     changeWhere(
                         track.clips, [&](const Clip& clip) { return places.contains(clip.id); },
                         [&](Clip& clip) { clip.start = places.at(clip.id); });
                 });
}

void BringInFlow::joinTakesOf(const BroughtIn& brought) {
  const QString words = tr("Put takes of %1 on one track").arg(text(counted(brought.takes.size(), "name")));
  document_.edit(words, [&](Session& session) {
    for (const GroupGuess& takes : brought.takes) {
      std::vector<std::string> tracks;
      for (const std::size_t member : takes.members) tracks.push_back(brought.tracks[member]);
      joinTakes(session, tracks, takes.name, framesOf(kTakeGapSeconds, session.rate));
    }
  });
}

void BringInFlow::group(const std::vector<std::string>& tracks, const std::vector<GroupGuess>& guesses) {
  document_.edit(tr("Make %1").arg(text(counted(guesses.size(), "group"))), [&](Session& session) {
    for (const GroupGuess& guess : guesses) {
      std::vector<std::string> members;
      for (const std::size_t member : guess.members) members.push_back(tracks[member]);
      (void)nestTracks(session, members, guess.name);
    }
  });
}

/// There, be it the file that the session knows or another one.
static bool isReadable(const MediumFact* fact) {
  return fact != nullptr &&
         (fact->state == MediumFact::State::Ready || fact->state == MediumFact::State::Different);
}

void BringInFlow::findMissing() {
  const auto known = work_.sheets().facts();
  if (!known || !work_.jobs().mayStart(LongJobs::Kind::Session)) return;
  const QString folder = QFileDialog::getExistingDirectory(window_, tr("Where to look for missing media"));
  if (folder.isEmpty()) return;
  std::vector<std::string> missing;
  for (const Medium& medium : document_.session()->media)
    if (!isReadable(known->find(medium.id))) missing.push_back(medium.id);
  struct Found {
    std::map<std::string, FoundMedium> media;
    bool isStopped;
  };
  work_.jobs().start<Found>(
      LongJobs::Kind::Session, tr("Looking for missing media"),
      [session = document_.session(), missing,
       place = std::filesystem::path(folder.toStdString())](JobControl& job) {
        auto found = findMedia(*session, missing, place, &job);
        return Found{std::move(found), isStopped(&job)};
      },
      [this, before = document_.session(), all = missing.size()](const Found& found) {
        std::map<std::string, std::filesystem::path> files;
        for (const auto& [medium, one] : found.media) files.emplace(medium, one.file);
        point(tr("Find missing media"), *before, files);
        const QString words = found.isStopped ? tr("Stopped: %1 of %2 found") : tr("%1 of %2 found");
        work_.news().say(words.arg(files.size()).arg(text(counted(all, "missing file"))));
      });
}

/// Media become files, where they are still what they were when those were looked for.
void BringInFlow::point(const QString& words, const Session& before,
                        const std::map<std::string, std::filesystem::path>& files) {
  std::unordered_map<std::string, std::string> were;
  for (const Medium& medium : before.media) were.emplace(medium.id, medium.file);
  document_.edit(words, [&](Session& session) {
    for (Medium& medium : session.media) {
      const auto file = files.find(medium.id);
      const auto was = were.find(medium.id);
      if (file != files.end() && was != were.end() && medium.file == was->second)
        medium.file = mediaPath(file->second, session.folder());
    }
  });
}

void BringInFlow::replaceMedium() {
  const std::vector<ClipPlace> places = placesOf(*document_.session(), selected_.clips());
  if (places.empty()) return;
  const std::string id = clipAt(*document_.session(), places.front()).medium;
  const QString file = QFileDialog::getOpenFileName(window_, tr("The file to play instead"));
  if (file.isEmpty()) return;
  document_.edit(tr("Replace a medium"), [&](Session& session) {
    for (Medium& medium : session.media) {
      if (medium.id != id) continue;
      medium.file = mediaPath(file.toStdString(), session.folder());
      medium.frames = 0;
      medium.rate = 0;
      medium.content.clear();
    }
  });
}

void BringInFlow::writeTable() {
  const auto session = document_.session();
  const QString file =
      QFileDialog::getSaveFileName(window_, tr("Write regions and markers to"),
                                   text(session->displayName()) + ".csv", tr("Tables (*.csv)"));
  if (file.isEmpty()) return;
  writeFile(
      work_.jobs(), work_.news(), file, [session] { return writeRegionTable(*session); },
      tr("%1 and %2 written to %3")
          .arg(text(counted(session->regions.size(), "region")),
               text(counted(session->markerCount(), "marker")), QFileInfo(file).fileName()));
}

namespace {

struct CopiedMedia {
  std::map<std::string, std::filesystem::path> files;  // by id
  std::vector<Error> refused;
  bool isStopped = false;
};

/// Those that were copied before it was stopped are given.
CopiedMedia copyMedia(const std::map<std::string, std::filesystem::path>& files,
                      const std::filesystem::path& target, JobControl& job) {
  CopiedMedia copied;
  expectParts(&job, files.size());
  for (const auto& [medium, file] : files) {
    auto copy = copyIntoFolder(file, target, &job);
    if (job.isStopped && !copy) break;
    if (copy)
      copied.files.emplace(medium, std::move(*copy));
    else
      copied.refused.push_back(copy.error());
    finishPart(&job);
  }
  copied.isStopped = job.isStopped;
  return copied;
}

}  // namespace

void BringInFlow::copyMediaBeside() {
  const auto known = work_.sheets().facts();
  if (!known) return;
  std::map<std::string, std::filesystem::path> outside;
  for (const Medium& medium : document_.session()->media) {
    const MediumFact* fact = known->find(medium.id);
    if (medium.file.starts_with("..") && isReadable(fact)) outside.emplace(medium.id, fact->file);
  }
  work_.jobs().start<CopiedMedia>(
      LongJobs::Kind::Session, tr("Copying media"),
      [outside, target = document_.session()->folder() / "media"](JobControl& job) {
        return copyMedia(outside, target, job);
      },
      [this, before = document_.session(), all = outside.size()](const CopiedMedia& copied) {
        point(tr("Copy media beside the session"), *before, copied.files);
        tellRefused(copied.refused);
        const QString words = tr("%1 copied").arg(text(counted(copied.files.size(), "file")));
        work_.news().say(copied.isStopped ? tr("Stopped: %1 of %2 copied").arg(copied.files.size()).arg(all)
                                          : words);
      });
}

void addBringInCommands(Commands& commands, BringInFlow& flow) {
  const auto tr = [](const char* words) { return QObject::tr(words); };
  commands.add(std::vector<Command>{
      {"media.bring-in",
       tr("&Bring in files …"),
       {Qt::CTRL | Qt::SHIFT | Qt::Key_B},
       needs::freeSession,
       [&] {
         if (const QStringList files = flow.askForFiles(); !files.isEmpty()) flow.add(files, 0);
       }},
      {"media.find", tr("Find &missing media …"), {}, needs::freeSession, [&] { flow.findMissing(); }},
      {"media.replace", tr("&Replace the clip's medium …"), {}, needs::clips, [&] { flow.replaceMedium(); }},
      {"media.copy",
       tr("Copy media beside the session"),
       {},
       needs::freeSession,
       [&] { flow.copyMediaBeside(); }},
      {"regions.write", tr("Write regions as a ta&ble …"), {}, needs::session, [&] { flow.writeTable(); }}});
}

}  // namespace octaphon::app
