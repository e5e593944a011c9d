#include "base/remark_info.h"

#include <array>

namespace octaphon {

std::string_view severityName(Severity severity) {
  switch (severity) {
    case Severity::Note: return "note";
    case Severity::Warning: return "warning";
    case Severity::Fault: return "fault";
  }
  return {};
}

/// In the order of the codes.
static constexpr std::array<RemarkInfo, kRemarkCodes> kRemarks{{
    {RemarkCode::BadTemplate, "bad-template", "The template cannot be understood",
     "Without names no file of the brief can be made."},
    {RemarkCode::UnusableFolder, "unusable-folder", "The folder cannot be used",
     "No file can be written there."},
    {RemarkCode::BadFolder, "bad-folder", "The folder is not below the session's",
     "No file can be written there, whatever a session says."},
    {RemarkCode::EmptyName, "empty-name", "No name", "The template has nothing to say about these rows."},
    {RemarkCode::NameTooLong, "name-too-long", "The name is too long", "File systems take 255 bytes a part."},
    {RemarkCode::LongPath, "long-path", "A long path", "Some programs do not take paths of this length."},
    {RemarkCode::UnmeasuredName, "unmeasured-name", "A name asks for a length that is not known",
     "The length is only known once the file was made."},
    {RemarkCode::LettersLost, "letters-lost", "Letters became _",
     "The name has lost letters that are not Latin."},
    {RemarkCode::Collision, "collision", "Two files of one name",
     "One would write over the other, where letter case does not count."},
    {RemarkCode::AlikeOnDisk, "alike-on-disk", "A file of nearly this name is there",
     "Some systems take both for one."},
    {RemarkCode::NothingSounding, "nothing-sounding", "Nothing sounds", "The file will be silent."},
    {RemarkCode::MissingMedium, "missing-medium", "A sound file is missing",
     "What it would play cannot be heard."},
    {RemarkCode::UnreadableMedium, "unreadable-medium", "A sound file cannot be read",
     "What it would play cannot be heard."},
    {RemarkCode::DifferentMedium, "different-medium", "A sound file has changed",
     "It is not what the session was made with."},
    {RemarkCode::FlawedMedium, "flawed-medium", "A sound file has a flaw",
     "Its checksum is wrong, or not all of it is read."},
    {RemarkCode::ReturnBeyondReach, "return-beyond-reach", "A return is not in the file",
     "It joins behind the reach."},
    {RemarkCode::FeedbackSend, "feedback-send", "A send leads back to itself",
     "There is no sound that would be right."},
    {RemarkCode::MissingEffect, "missing-effect", "An effect is not there",
     "The file would sound otherwise than the session."},
    {RemarkCode::PluginChannels, "plugin-channels", "A plug-in has other channels",
     "It cannot be used on this track."},
    {RemarkCode::CannotSplit, "cannot-split", "An effect cannot be split among layers",
     "Layers will not add up to the mix exactly."},
    {RemarkCode::NeverRepeats, "never-repeats", "A plug-in never sounds the same",
     "Two runs give different files."},
    {RemarkCode::KeyedAlone, "keyed-alone", "Each layer is keyed alone",
     "Dynamics react to each as if it were alone."},
    {RemarkCode::ReachElsewhere, "reach-elsewhere", "The reach names another group",
     "It says nothing about this source."},
    {RemarkCode::ReturnsTwice, "returns-twice", "Returns are there twice",
     "They are in the layers and files of their own."},
    {RemarkCode::MediumChannels, "medium-channels", "A sound file has other channels",
     "It is heard as its track's channels allow."},
    {RemarkCode::BeyondMedium, "beyond-medium", "A clip is longer than its sound", "Its end is silent."},
    {RemarkCode::TooLong, "too-long", "Larger than its format holds", "The file cannot be written."},
    {RemarkCode::RateRefused, "rate-refused", "A rate that its format does not have",
     "The file cannot be written at this rate."},
    {RemarkCode::ChannelsRefused, "channels-refused", "More channels than its format has",
     "The file cannot hold them."},
    {RemarkCode::BitRateRefused, "bit-rate-refused", "A bit rate that its format does not have",
     "The encoder does not take it."},
    {RemarkCode::NotSeamless, "not-seamless", "A loop in a format that has gaps",
     "Played over and over, there would be silence at the seam."},
    {RemarkCode::BadDataTemplate, "bad-data-template", "A text inside the file cannot be understood",
     "What files say of themselves would lack it."},
    {RemarkCode::WholeNumbers, "whole-numbers", "32 bit whole numbers", "Some programs refuse such files."},
    {RemarkCode::LossyLayer, "lossy-layer", "A layer or stem in a lossy format",
     "Mixed again, what was left out is heard, and layers do not add up."},
    {RemarkCode::NotCarried, "not-carried", "The format has no place for something",
     "A receiver gets the sound without it."},
    {RemarkCode::OutsideVocabulary, "outside-vocabulary", "A fact says what the vocabulary does not have",
     "Lists that go by these words do not find it."},
    {RemarkCode::EmptySpan, "empty-span", "No length", "There is no time to print."},
    {RemarkCode::CrossesStart, "crosses-start", "A clip began earlier",
     "It is left out, or heard from the start on, as the brief says."},
    {RemarkCode::StartsAtEnd, "starts-at-end", "A clip begins at the very end",
     "It is usually the cross-fade into the next sound."},
    {RemarkCode::CutByTail, "cut-by-tail", "A clip is cut by the tail",
     "It may finish, and the tail ends before it."},
    {RemarkCode::SharedClips, "shared-clips", "Regions share clips",
     "The same sound is in the files of both."},
    {RemarkCode::MutedSource, "muted-source", "A chosen source is muted", "It has no files."},
    {RemarkCode::HelperSource, "helper-source", "A helper was chosen", "Helpers are in no file."},
    {RemarkCode::NotInSet, "not-in-set", "A clip is in no clip set",
     "It lies in a set's time and is not printed."},
    {RemarkCode::FindsNoSpan, "finds-no-span", "A rule finds nothing",
     "The brief asks for spans that are not there."},
    {RemarkCode::FindsNoSource, "finds-no-source", "A rule finds nothing",
     "The brief asks for sources that are not there."},
    {RemarkCode::UnknownRegion, "unknown-region", "A region has gone",
     "The brief names one that is not there any more."},
    {RemarkCode::UnknownClipSet, "unknown-clip-set", "A clip set has gone",
     "The brief names one that is not there any more."},
    {RemarkCode::UnknownSource, "unknown-source", "A source has gone",
     "The brief names one that is not there any more."},
    {RemarkCode::Kept, "kept", "An older file is kept", "The file is not as the session is now."},
    {RemarkCode::ChangedFile, "changed-file", "Someone altered the file",
     "It is not replaced unless you say so."},
    {RemarkCode::ForeignFile, "foreign-file", "Something else has this name", "It is not ours, and stays."},
    {RemarkCode::RenamedFile, "renamed-file", "A file gets another name",
     "What refers to the old name will not find it."},
    {RemarkCode::EarlierEdition, "earlier-edition", "An earlier edition has this name",
     "Its files are never touched."},
    {RemarkCode::Stopped, "stopped", "The brief stops", "A file is there, and the brief makes none then."},
    {RemarkCode::DamagedReceipt, "damaged-receipt", "The receipt is damaged",
     "Some files may not be known as ours."},
    {RemarkCode::ContradictingEnds, "contradicting-ends", "Lengths that cannot be had together",
     "The file has no length that would be right."},
    {RemarkCode::NoBars, "no-bars", "No tempo", "Bars are asked for, and there are none."},
    {RemarkCode::HigherRate, "higher-rate", "A rate over the session's", "Files get larger, and no better."},
    {RemarkCode::BeforeMidnight, "before-midnight", "Before midnight",
     "The time stamp is late the day before."},
    {RemarkCode::TailLimited, "tail-limited", "A tail was stopped by its limit",
     "It still rings where the file ends."},
    {RemarkCode::TailGrew, "tail-grew", "A tail rings longer than before",
     "Files that stayed are shorter than it."},
    {RemarkCode::CutAtExact, "cut-at-exact", "Sound goes on behind the end", "The exact length cuts it."},
    {RemarkCode::ClipStep, "clip-step", "A clip begins or ends with a step", "It may click."},
    {RemarkCode::UnequalLoops, "unequal-loops", "Variations differ in length",
     "They would not loop together."},
    {RemarkCode::FoldOfDynamics, "fold-of-dynamics", "Dynamics in a folded loop",
     "What is folded is not what a later lap would be."},
    {RemarkCode::LapsDiffer, "laps-differ", "Laps differ", "A later lap is not the one that was kept."},
    {RemarkCode::Offset, "offset", "The samples have a mean",
     "A file that begins or ends with it may click."},
    {RemarkCode::Clipped, "clipped", "Over full scale", "Peaks are cut off in whole-number files."},
}};

static_assert([] {
  for (std::size_t i = 0; i < kRemarks.size(); ++i)
    if (kRemarks[i].code != static_cast<RemarkCode>(i)) return false;
  return true;
}());

const RemarkInfo& remarkInfo(RemarkCode code) { return kRemarks[static_cast<std::size_t>(code)]; }

std::string_view remarkName(RemarkCode code) { return remarkInfo(code).name; }

}  // namespace octaphon
