// What the fields of a brief say in its sentence, and where they matter.
#pragma once

#include "base/decibels.h"
#include "base/description.h"
#include "base/unicode.h"
#include "brief/brief.h"

namespace octaphon::clauses {

constexpr bool onlyWhatBegins(const Brief& brief) { return brief.heard.counts == Counts::BeginsHere; }
constexpr bool everythingHeard(const Brief& brief) { return brief.heard.counts == Counts::EverythingHeard; }

inline std::string counts(const Brief& brief) { return std::string(choiceOf(brief.heard.counts).words); }

inline std::string crossing(const Brief& brief) {
  return onlyWhatBegins(brief) && brief.heard.crossing == Crossing::FromStart ? " or runs in" : "";
}

inline std::string endFade(const Brief& brief) {
  if (!onlyWhatBegins(brief) || brief.heard.endFadeMs == kDefaultEndFadeMs) return {};
  if (brief.heard.endFadeMs == 0) return ", ends cut without a fade";
  return ", ends faded in " + plainNumber(brief.heard.endFadeMs) + " ms";
}

inline std::string withReturns(const Brief& brief) {
  if (brief.heard.withReturns == Returns::In) return {};
  return ", " + std::string(choiceOf(brief.heard.withReturns).words);
}

inline std::string keyed(const Brief& brief) {
  return brief.heard.keyed ? "keyed by the mix" : "each keyed alone";
}

inline std::string runUp(const Brief& brief) {
  if (brief.heard.runUp.isNone()) return "without run-up";
  if (brief.heard.runUp.fromStart) return "run up to from the session's start";
  return "run up to for " + plainNumber(brief.heard.runUp.seconds) + " s";
}

inline std::string withoutMissing(const Brief& brief) {
  return brief.heard.withoutMissing ? ", plug-ins that are missing passed over" : "";
}

constexpr bool hasTailOfLength(const Brief& brief) {
  return brief.ends.tail == Tail::Fixed || brief.ends.tail == Tail::AsHeard;
}
constexpr bool ringsOut(const Brief& brief) { return brief.ends.tail == Tail::RingsOut; }

/// `2 bars`, `0.5 s`
inline std::string lengthWords(double seconds, double bars) {
  if (bars <= 0) return plainNumber(seconds) + " s";
  return plainNumber(bars) + (bars == 1 ? " bar" : " bars") +
         (seconds > 0 ? " and " + plainNumber(seconds) + " s" : "");
}

inline std::string tail(const Brief& brief) {
  const Ends& ends = brief.ends;
  switch (ends.tail) {
    case Tail::None: break;
    case Tail::Fixed: return "a tail of " + lengthWords(ends.tailSeconds, ends.tailBars);
    case Tail::AsHeard: return lengthWords(ends.tailSeconds, ends.tailBars) + " more as heard";
    case Tail::RingsOut:
      return "tails until they ring out (" + decibelText(ends.thresholdDb) +
             (ends.relative ? " dB, " : " dBFS, ") +
             (ends.holdMs == Ends{}.holdMs ? "" : "quiet for " + plainNumber(ends.holdMs) + " ms, ") +
             plainNumber(ends.limitSeconds) + " s at most)";
  }
  return "no tail";
}

constexpr bool loops(const Brief& brief) { return brief.loop.way != LoopWay::None; }

/// Whether a brief loops by a way, as a condition; None: by any.
constexpr bool (*loopsBy(LoopWay way))(const Brief& brief) {
  switch (way) {
    case LoopWay::InnerLap: return [](const Brief& brief) { return brief.loop.way == LoopWay::InnerLap; };
    case LoopWay::Blend: return [](const Brief& brief) { return brief.loop.way == LoopWay::Blend; };
    case LoopWay::Plain: return [](const Brief& brief) { return brief.loop.way == LoopWay::Plain; };
    default: return loops;
  }
}

inline std::string loop(const Brief& brief) {
  const Loop& loop = brief.loop;
  std::string text(choiceOf(loop.way).words);
  if (!loops(brief)) return text;
  if (loop.frames > 0)
    text += " of " + std::to_string(loop.frames) + " frames";
  else if (loop.hasLength())
    text += " of " + lengthWords(loop.seconds, loop.bars);
  if (loop.way == LoopWay::InnerLap && loop.laps > 0) text += " of " + std::to_string(loop.laps);
  if (loop.way == LoopWay::InnerLap && loop.keepIntro) text += " with what comes before it";
  if (loop.way == LoopWay::Blend) {
    text += " over " + plainNumber(loop.blendMs) + " ms";
    if (loop.blendLaw != BlendLaw::ByLikeness) text += ", " + std::string(choiceOf(loop.blendLaw).words);
  }
  if (loop.way == LoopWay::Plain)
    text += loop.searchMs > 0 ? " within " + plainNumber(loop.searchMs) + " ms" : " where they are";
  if (loop.equal == LoopEqual::Refused) text += ", " + std::string(choiceOf(loop.equal).words);
  return text;
}

inline std::string silence(const Brief& brief) {
  return brief.ends.silenceSeconds > 0 ? " and " + plainNumber(brief.ends.silenceSeconds) + " s of silence"
                                       : "";
}

inline std::string leadIn(const Brief& brief) {
  const Ends& ends = brief.ends;
  if (ends.leadInSeconds <= 0 && ends.leadInBars <= 0) return "no lead-in";
  return "a lead-in of " + lengthWords(ends.leadInSeconds, ends.leadInBars);
}

constexpr bool fadesIn(const Brief& brief) { return brief.ends.fadeInMs > 0; }
constexpr bool fadesOut(const Brief& brief) { return brief.ends.fadeOutMs > 0; }

inline std::string edges(const Brief& brief) {
  const Ends& ends = brief.ends;
  const auto words = [](double ms, FadeShape shape, const char* side) {
    return plainNumber(ms) + " ms " + side +
           (shape == FadeShape::Linear ? "" : " (" + std::string(nameOf(shape)) + ")");
  };
  if (ends.fadeInMs <= 0 && ends.fadeOutMs <= 0) return "edges as they are";
  std::string text = "edges faded ";
  if (ends.fadeInMs > 0) text += words(ends.fadeInMs, ends.fadeInShape, "in");
  if (ends.fadeOutMs > 0)
    text += (ends.fadeInMs > 0 ? " and " : "") + words(ends.fadeOutMs, ends.fadeOutShape, "out");
  return text;
}

inline std::string exact(const Brief& brief) {
  return brief.ends.exactSeconds > 0 ? "exactly " + plainNumber(brief.ends.exactSeconds) + " s long"
                                     : "as long as it is";
}
inline std::string lengths(const Brief& brief) {
  return brief.ends.lengths == Lengths::LinedUp ? ", all lined up" : "";
}
inline std::string pictureFrames(const Brief& brief) {
  return brief.ends.pictureFrames ? ", moved out to whole picture frames" : "";
}

inline std::string trim(const Brief& brief) {
  return brief.ends.trimDb ? "silence under " + decibelText(*brief.ends.trimDb) + " dBFS trimmed"
                           : "silence kept";
}

/// `−23.0 LUFS`
inline std::string aim(const Levelling& asked) {
  const char* const sign = asked.level.kind == LevelKind::Gain && asked.target() > 0 ? "+" : "";
  return sign + decibelText(asked.target()) + " " + unitOf(asked.level.kind);
}
constexpr NumberSense targetSense(const Brief& brief) {
  return {unitOf(brief.levelling.level.kind), usualTarget(brief.levelling.level.kind)};
}
constexpr bool hasAim(const Brief& brief) { return brief.levelling.level.kind != LevelKind::None; }
constexpr bool hasCeiling(const Brief& brief) { return brief.levelling.ceilingDb.has_value(); }
/// Whether gains are found, and may be one for several.
constexpr bool findsGains(const Brief& brief) {
  return brief.levelling.level.kind > LevelKind::Gain ||
         (hasCeiling(brief) && brief.levelling.ceilingBy == CeilingBy::Gain);
}

inline std::string levelKind(const Brief& brief) {
  const Levelling& asked = brief.levelling;
  if (!hasAim(brief)) return "as loud as it is";
  return (asked.level.kind == LevelKind::Gain ? "with a gain of " : "brought to ") + aim(asked);
}
inline std::string levelPer(const Brief& brief) {
  const std::string per =
      findsGains(brief) ? ", " + std::string(choiceOf(brief.levelling.level.per).words) : "";
  if (!hasCeiling(brief)) return per;
  return per + ", under " + decibelText(*brief.levelling.ceilingDb) + " dBTP " +
         std::string(choiceOf(brief.levelling.ceilingBy).words);
}

inline std::string rate(const Brief& brief) {
  return brief.files.rate > 0 ? plainNumber(brief.files.rate / 1000.0) + " kHz" : "the session's rate";
}

/// `Ogg Vorbis, quality 6`, `MP3, 192 kbit/s on average`; what is usual is not said.
inline std::string coding(const Output& output) {
  const Coding usual, &asked = output.coding;
  switch (output.encoding) {
    case Encoding::Flac16:
    case Encoding::Flac24: return asked.level == usual.level ? "" : ", level " + std::to_string(asked.level);
    case Encoding::Vorbis: return ", quality " + plainNumber(asked.quality);
    case Encoding::Opus:
    case Encoding::Mp3: {
      const bool isVariable = asked.variable && output.encoding == Encoding::Mp3;
      if (asked.bitRate == 0) return isVariable ? ", bit rate as needed" : "";
      return ", " + std::to_string(asked.bitRate) + " kbit/s" + (isVariable ? " on average" : "");
    }
    default: return "";
  }
}

/// `WAV 16 bit at 44.1 kHz, mono, split, with _small into Small`
inline std::string output(const Output& output) {
  std::string text = std::string(choiceOf(output.encoding).words) + coding(output);
  if (output.rate > 0) text += " at " + plainNumber(output.rate / 1000.0) + " kHz";
  if (output.channels != OutputChannels::AsTapped)
    text += " in " + std::string(choiceOf(output.channels).words);
  if (output.together) text += ", all sources in one file";
  if (output.split) text += ", a file for each channel";
  if (!output.suffix.empty()) text += " with '" + output.suffix + "'";
  if (!output.folder.empty()) text += " into " + output.folder;
  return text;
}

inline std::string outputs(const Brief& brief) {
  std::vector<std::string> texts;
  for (const Output& one : brief.outputs()) texts.push_back(output(one));
  return listed(texts);
}

inline std::string data(const Brief& brief) {
  const InsideData& data = brief.data;
  if (data.isPlain) return "nothing inside but the sound";
  if (data == InsideData{}) return "the usual data inside";
  std::string text = "data of its own inside";
  if (!data.facts.empty()) text += ", " + counted(data.facts.size(), "fact");
  if (!data.marks) text += ", no cue points";
  if (data.loopComments) text += ", loops as comments too";
  return text;
}

inline std::string rows(const Brief& brief) {
  if (brief.rowExceptions.empty()) return "all rows alike";
  return counted(brief.rowExceptions.size(), "row") + " of their own";
}

inline std::string format(const Brief& brief) { return brief.names.format; }
inline std::string letterCase(const Brief& brief) {
  return std::string(choiceOf(brief.names.letterCase).words);
}
inline std::string separator(const Brief& brief) {
  const std::string& separator = brief.names.separator;
  if (separator == "_") return {};
  if (separator == "/") return ", levels as folders";
  return separator.empty() ? ", levels joined by nothing" : ", levels joined by '" + separator + "'";
}
inline std::string folder(const Brief& brief) { return brief.delivery.folder; }
inline std::string existing(const Brief& brief) {
  return std::string(choiceOf(brief.delivery.existing).words);
}

/// `as 'Harbour sounds' for the museum, with a note, lists and checksums`
inline std::string handOver(const Brief& brief) {
  const HandOver& asked = brief.handOver;
  std::vector<std::string> with;
  if (asked.notePage || asked.notePdf) with.emplace_back("a note");
  if (asked.listJson || asked.listCsv)
    with.emplace_back(asked.listJson && asked.listCsv ? "lists" : "a list");
  if (asked.checksums) with.emplace_back("checksums");
  if (asked.manifest) with.emplace_back("a manifest");
  if (asked.cueList) with.emplace_back("a cue list");
  if (asked.markerTable || asked.markerMidi) with.emplace_back("markers");
  std::string text = asked.title.empty() ? "" : "as '" + asked.title + "'";
  if (!asked.client.empty()) text += (text.empty() ? "to " : " to ") + asked.client;
  if (!asked.credit.empty()) text += (text.empty() ? "credit to " : ", credit to ") + asked.credit;
  if (!asked.notes.empty()) with.emplace_back("words of its own");
  if (with.empty()) return text.empty() ? "as files alone" : text;
  return text + (text.empty() ? "with " : ", with ") + listed(with);
}

}  // namespace octaphon::clauses
