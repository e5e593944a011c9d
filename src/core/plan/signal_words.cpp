#include "plan/signal_words.h"

#include <algorithm>

#include "base/decibels.h"
#include "base/unicode.h"

namespace octaphon {
namespace {

std::string nameOf(const Session& session, Strip strip) {
  return strip.isMain() ? "main" : printable(session.tracks[strip.track()].name, 60);
}

/// The groups around a source, from the inside, up to `last` (or all).
std::vector<std::string> groupsAround(const Session& session, const TrackTree& tree, Strip strip,
                                      Strip last) {
  std::vector<std::string> names;
  for (Strip up = strip; !up.isMain(); up = tree.parent(up)) {
    if (up != strip) names.push_back(nameOf(session, up));
    if (up == last) break;
  }
  return names;
}

std::string stageWords(const Session& session, const TrackTree& tree, const Brief& brief,
                       const PlannedSource& source) {
  const Strip strip = source.track;
  const bool one = !strip.isMain();
  const std::optional<Strip> found = tree.find(brief.heard.reach.group);
  const bool elsewhere = !found || (one && !tree.isInside(strip, *found));
  const Strip group = found.value_or(Strip::main());
  const auto around = [&](Strip last) {
    return one ? groupsAround(session, tree, strip, last) : std::vector<std::string>();
  };
  switch (brief.heard.reach.stage) {
    case ReachStage::Clips: return one ? "before its inserts" : "each before its inserts";
    case ReachStage::Inserts: return one ? "before its fader" : "each before its fader";
    case ReachStage::Group:
      if (!elsewhere) {
        std::vector<std::string> names = around(group);
        if (names.empty()) return one ? "through its fader" : "through " + nameOf(session, group);
        return "through " + listed(names);
      }
      [[fallthrough]];
    case ReachStage::Track: return one ? "through its fader" : "each through its fader";
    case ReachStage::GroupInserts:
      return elsewhere ? "through its fader"
                       : "through " + nameOf(session, group) + "'s inserts, before its fader";
    case ReachStage::Groups: {
      const std::vector<std::string> names = around(Strip::main());
      if (!one) return "through their groups";
      return names.empty() ? "through its fader" : "through " + listed(names);
    }
    case ReachStage::MainInserts: return "through main's inserts, before its fader";
    case ReachStage::Main: {
      std::vector<std::string> names = around(Strip::main());
      names.push_back("main");
      return "through " + listed(names);
    }
  }
  return {};
}

/// Those of the source's own strip; of a group those of the tracks in it.
const Overrides& ownOverrides(const Session& session, const Brief& brief, Strip strip) {
  const Overrides* own = strip.isMain() ? nullptr : brief.exceptionOf(session.tracks[strip.track()].id);
  return own == nullptr ? brief.heard.overrides : *own;
}

}  // namespace

std::string overrideWords(const Overrides& overrides) {
  std::string text;
  if (overrides.faders == Faders::Unity) text += ", faders at unity";
  if (overrides.faders == Faders::Value) text += ", faders at " + decibelText(overrides.faderDb) + " dB";
  if (overrides.pans == Pans::Centred) text += ", pans centred";
  if (!overrides.volumeAutomation) text += ", volume not moving";
  if (!overrides.panAutomation) text += ", pan not moving";
  if (!overrides.muteAutomation) text += ", mutes not moving";
  if (overrides.inserts == InsertChoice::None) text += ", no inserts";
  if (overrides.inserts == InsertChoice::Tagged) {
    std::vector<std::string> tags;
    for (const std::string& tag : overrides.tags) tags.push_back(printable(tag, 30));
    text += ", inserts tagged " + (tags.empty() ? "nothing" : listed(tags));
  }
  return text;
}

std::string heardWords(const Session& session, const TrackTree& tree, const Brief& brief,
                       const PlannedSource& source) {
  if (source.kind == PlannedSource::Kind::Together) {
    std::vector<std::string> names;
    for (const PlannedSource& part : source.parts) names.push_back(printable(part.name, 40));
    return "beside each other: " + listed(names);
  }
  const bool throughAll =
      source.kind == PlannedSource::Kind::Mix || source.kind == PlannedSource::Kind::MixWithout;
  std::string text = throughAll ? "through main" : stageWords(session, tree, brief, source);
  const bool hasReturns = std::any_of(session.tracks.begin(), session.tracks.end(),
                                      [](const Track& track) { return track.isReturn(); });
  if (!throughAll && hasReturns && source.kind != PlannedSource::Kind::Return &&
      brief.heard.withReturns != Returns::In)
    text += ", without returns";
  return text + overrideWords(ownOverrides(session, brief, source.track));
}

Remark remarkOf(const SignalIssue& issue, const Session& session, const Brief& brief) {
  const std::string place =
      issue.strip == Strip::main() ? std::string("main") : session.tracks[issue.strip.track()].id;
  const std::string strip = nameOf(session, issue.strip);
  const std::string what = printable(issue.what, 200);
  const auto warn = [&](std::string text) {
    return Remark{Severity::Warning, issue.code, place, std::move(text)};
  };
  switch (issue.code) {
    case RemarkCode::ReturnBeyondReach:
      return warn(strip +
                  " joins behind the reach, so this file is without it. Reach as far as main, or print "
                  "returns as files of their own");
    case RemarkCode::FeedbackSend:
      return {Severity::Fault, issue.code, place,
              "A send of " + strip + " leads back to where it leaves. Take the send out, or send elsewhere"};
    case RemarkCode::MissingEffect:
      if (brief.heard.withoutMissing) return warn("An insert of " + strip + " is passed over: " + what);
      return {Severity::Fault, issue.code, place,
              "An insert of " + strip + " cannot be used: " + what +
                  ". Install it, take it out, or let the brief go without"};
    case RemarkCode::PluginChannels: {
      const Severity severity = brief.heard.withoutMissing ? Severity::Warning : Severity::Fault;
      return {
          severity, issue.code, place,
          what + " on " + strip + " has other channels than the track. Use one that fits, or take it out"};
    }
    case RemarkCode::CannotSplit:
      return warn(what + " on " + strip +
                  " cannot be split among layers, so they will not add up to the mix. "
                  "Reach less far, or print the group");
    case RemarkCode::NeverRepeats:
      return warn(what + " on " + strip +
                  " never sounds the same twice, so this file will differ each time it is made");
    case RemarkCode::KeyedAlone:
      return {Severity::Note, issue.code, place,
              what + " on " + strip +
                  " reacts to this layer alone, so layers will not add up to the mix. Key them by "
                  "the mix to have that"};
    case RemarkCode::ReachElsewhere:
      return {Severity::Note, issue.code, place,
              strip + " is not in the group that the reach names; it is heard through its own fader"};
    default: return warn(what);
  }
}

}  // namespace octaphon
