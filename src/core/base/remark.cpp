#include "base/remark.h"

namespace octaphon {

std::string_view severityName(Severity severity) {
  switch (severity) {
    case Severity::Note: return "note";
    case Severity::Warning: return "warning";
    case Severity::Fault: return "fault";
  }
  return {};
}

std::string_view remarkName(RemarkCode code) {
  switch (code) {
    case RemarkCode::BadTemplate: return "bad-template";
    case RemarkCode::UnusableFolder: return "unusable-folder";
    case RemarkCode::BadFolder: return "bad-folder";
    case RemarkCode::EmptyName: return "empty-name";
    case RemarkCode::NameTooLong: return "name-too-long";
    case RemarkCode::LongPath: return "long-path";
    case RemarkCode::UnmeasuredName: return "unmeasured-name";
    case RemarkCode::LettersLost: return "letters-lost";
    case RemarkCode::FindsNoSpan: return "finds-no-span";
    case RemarkCode::FindsNoSource: return "finds-no-source";
    case RemarkCode::Collision: return "collision";
    case RemarkCode::AlikeOnDisk: return "alike-on-disk";
    case RemarkCode::NothingSounding: return "nothing-sounding";
    case RemarkCode::MissingMedium: return "missing-medium";
    case RemarkCode::UnreadableMedium: return "unreadable-medium";
    case RemarkCode::DifferentMedium: return "different-medium";
    case RemarkCode::FlawedMedium: return "flawed-medium";
    case RemarkCode::ReturnBeyondReach: return "return-beyond-reach";
    case RemarkCode::FeedbackSend: return "feedback-send";
    case RemarkCode::MissingEffect: return "missing-effect";
    case RemarkCode::PluginChannels: return "plugin-channels";
    case RemarkCode::CannotSplit: return "cannot-split";
    case RemarkCode::NeverRepeats: return "never-repeats";
    case RemarkCode::KeyedAlone: return "keyed-alone";
    case RemarkCode::ReachElsewhere: return "reach-elsewhere";
    case RemarkCode::ReturnsTwice: return "returns-twice";
    case RemarkCode::MediumChannels: return "medium-channels";
    case RemarkCode::BeyondMedium: return "beyond-medium";
    case RemarkCode::TooLong: return "too-long";
    case RemarkCode::EmptySpan: return "empty-span";
    case RemarkCode::CrossesStart: return "crosses-start";
    case RemarkCode::StartsAtEnd: return "starts-at-end";
    case RemarkCode::CutByTail: return "cut-by-tail";
    case RemarkCode::SharedClips: return "shared-clips";
    case RemarkCode::MutedSource: return "muted-source";
    case RemarkCode::HelperSource: return "helper-source";
    case RemarkCode::NotInSet: return "not-in-set";
    case RemarkCode::UnknownRegion: return "unknown-region";
    case RemarkCode::UnknownClipSet: return "unknown-clip-set";
    case RemarkCode::UnknownSource: return "unknown-source";
    case RemarkCode::Kept: return "kept";
    case RemarkCode::ChangedFile: return "changed-file";
    case RemarkCode::ForeignFile: return "foreign-file";
    case RemarkCode::RenamedFile: return "renamed-file";
    case RemarkCode::EarlierEdition: return "earlier-edition";
    case RemarkCode::Stopped: return "stopped";
    case RemarkCode::DamagedReceipt: return "damaged-receipt";
    case RemarkCode::ContradictingEnds: return "contradicting-ends";
    case RemarkCode::NoBars: return "no-bars";
    case RemarkCode::HigherRate: return "higher-rate";
    case RemarkCode::BeforeMidnight: return "before-midnight";
    case RemarkCode::TailLimited: return "tail-limited";
    case RemarkCode::TailGrew: return "tail-grew";
    case RemarkCode::CutAtExact: return "cut-at-exact";
    case RemarkCode::ClipStep: return "clip-step";
    case RemarkCode::UnequalLoops: return "unequal-loops";
    case RemarkCode::FoldOfDynamics: return "fold-of-dynamics";
    case RemarkCode::LapsDiffer: return "laps-differ";
    case RemarkCode::Offset: return "offset";
    case RemarkCode::Clipped: return "clipped";
  }
  return {};
}

}  // namespace octaphon
