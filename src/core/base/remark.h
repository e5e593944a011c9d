// Something the program noticed, for the window to show where it belongs and for the command line to print.
#pragma once

#include <string>
#include <string_view>

namespace octaphon {

enum class Severity {
  Note,     ///< worth knowing
  Warning,  ///< probably not wanted
  Fault,    ///< the row cannot be made
};
std::string_view severityName(Severity severity);  ///< `note`, `warning`, `fault`

/// The closed list of remarks. remarkName() gives the code written in JSON.
enum class RemarkCode {
  BadTemplate,        ///< fault: the template cannot be understood
  UnusableFolder,     ///< fault: a link, a file or the system keeps files from being written there
  BadFolder,          ///< fault: the brief's folder is absolute or leaves the session's folder
  EmptyName,          ///< fault: the template gives no file name
  NameTooLong,        ///< fault: a part of the name is over 255 bytes
  LongPath,           ///< warning: some programs do not take paths of this length
  UnmeasuredName,     ///< fault: the name asks for a length that is not known yet
  LettersLost,        ///< note: letters that are not Latin became _, as a filter of the template says
  Collision,          ///< fault: two rows have the same name, letter case ignored
  AlikeOnDisk,        ///< warning: a file is there whose name differs in letter case alone, or as little
  NothingSounding,    ///< warning: no clip sounds in this row
  MissingMedium,      ///< fault: a media file is not there
  UnreadableMedium,   ///< fault: a media file is damaged
  DifferentMedium,    ///< fault: a media file has another length or rate than the session knows
  FlawedMedium,       ///< warning: a media file's checksum is wrong, or not all of it is read
  ReturnBeyondReach,  ///< warning: a return joins behind the reach and is not in the file
  FeedbackSend,       ///< fault: a send leads back to where it leaves
  MissingEffect,      ///< fault (warning where the brief goes without): an effect or plug-in is not there
  PluginChannels,     ///< the same: a plug-in has other channels than its track
  CannotSplit,        ///< warning: an effect cannot be split among layers
  NeverRepeats,       ///< warning: a plug-in does not sound the same twice
  KeyedAlone,         ///< note: shared dynamics react to each layer alone
  ReachElsewhere,     ///< note: the reach names a group that the source is not in
  ReturnsTwice,       ///< note: returns are in the layers and files of their own
  MediumChannels,     ///< warning: a medium has other channels than its track
  BeyondMedium,       ///< warning: a clip is longer than what its medium has
  TooLong,            ///< fault: more than its format holds
  RateRefused,        ///< fault: its format does not have the rate
  ChannelsRefused,    ///< fault: its format does not have so many channels
  BitRateRefused,     ///< fault: its format does not have the bit rate
  NotSeamless,        ///< fault: a loop in a format that cannot be played without a gap
  BadDataTemplate,    ///< fault: a text of what files say cannot be understood
  WholeNumbers,       ///< warning: some programs refuse 32 bit whole numbers
  LossyLayer,         ///< warning: what will be mixed is written in a lossy format
  NotCarried,         ///< note: its format has no place for something that it would say
  OutsideVocabulary,  ///< warning: a fact has a value that the vocabulary does not
  EmptySpan,          ///< fault: a region without length
  CrossesStart,       ///< note: a clip began before the span
  StartsAtEnd,        ///< warning: a clip begins in the last 50 ms and goes on
  CutByTail,          ///< warning: a clip may finish, and the tail is shorter than it
  SharedClips,        ///< warning: regions of one brief overlap and share clips
  MutedSource,        ///< note: a chosen source or clip set is muted
  HelperSource,       ///< note: a chosen source is a helper, which is in no file
  NotInSet,           ///< note: a clip within a clip set's time is in no clip set
  FindsNoSpan,        ///< note: a rule of the brief's spans fits nothing
  FindsNoSource,      ///< note: a rule of its sources fits nothing
  UnknownRegion,      ///< warning: the brief names a region the session does not have
  UnknownClipSet,     ///< warning: the brief names a clip set the session does not have
  UnknownSource,      ///< warning: the brief names a track or group the session does not have
  Kept,               ///< note: a file is there and the brief keeps what is there
  ChangedFile,        ///< warning: the file was altered by someone else
  ForeignFile,        ///< warning: a file that is not ours has this name
  RenamedFile,        ///< warning: a file gets another name, and links to the old one break
  EarlierEdition,     ///< fault: a file of an earlier edition has this name
  Stopped,            ///< warning: a file is there, and the brief makes nothing then
  DamagedReceipt,     ///< warning: lines of the receipt cannot be read
  ContradictingEnds,  ///< fault: lengths that cannot be had together
  NoBars,             ///< fault: bars are asked for, and the session has no tempo map
  HigherRate,         ///< note: a rate over the session's gains nothing
  BeforeMidnight,     ///< note: the file's time stamp lies before midnight
  TailLimited,        ///< warning: a tail was stopped by its limit
  TailGrew,           ///< warning: a tail rings longer than that of files which stayed
  CutAtExact,         ///< note, warning without a fade: the sound goes on where the exact length cuts it
  ClipStep,           ///< note: a clip begins or ends away from zero, without a fade
  UnequalLoops,       ///< fault: variations of one loop are not equally long, and the brief refuses that
  FoldOfDynamics,     ///< warning: what is folded is not what a later lap would be
  LapsDiffer,         ///< warning: a later lap of a loop is not the one that was kept
  Offset,             ///< note: the samples of a file have a mean
  LevelNotJudged,     ///< note: there is nothing to judge a level by, and it stays as it is
  LevelNotReached,    ///< warning: a ceiling keeps files under the level that they are to have
  GainMoved,          ///< warning: the gain of a set is another one than that of files which stayed
  OverCeiling,        ///< warning: what a file decodes to is over its ceiling
  Clipped,            ///< warning: the sound was over full scale
};
inline constexpr int kRemarkCodes = static_cast<int>(RemarkCode::Clipped) + 1;
std::string_view remarkName(RemarkCode code);  ///< for instance `missing-medium`

struct Remark {
  Severity severity;
  RemarkCode code;
  std::string place;  ///< the region, track, file or brief it is about; may be empty
  std::string text;   ///< cause and cure, a sentence or two
  bool operator==(const Remark&) const = default;
};

}  // namespace octaphon
