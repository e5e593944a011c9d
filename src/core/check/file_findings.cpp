#include "check/file_findings.h"

#include <algorithm>
#include <cmath>

#include "base/decibels.h"
#include "base/unicode.h"
#include "check/as_made.h"

namespace octaphon {
namespace {

constexpr double kSameFormDb = 0.1;  // what other widths of whole numbers change at most

/// Findings about one file.
class Judge {
 public:
  explicit Judge(const CheckedFile& file) : file_(file) {}

  std::vector<FileFinding> all() {
    if (file_.isTrusted) {
      asItWasMade();
    } else if (!file_.read) {
      add(FindingCode::Missing, "is not there");
    } else if (!*file_.read) {
      unreadable(file_.read->error());
    } else {
      if (file_.made)
        asMade(*file_.made);
      else if (!file_.isSameBytes())
        add(FindingCode::Altered, "is not what was written, and the receipt does not say what that was");
      if (file_.isDecoded) alone();
    }
    return std::move(findings_);
  }

 private:
  const ReadBack& there() const { return *file_.there(); }

  void add(FindingCode code, const std::string& what, std::string value = {}, std::string expected = {}) {
    findings_.push_back(
        findingAbout(file_.name, file_.line->key, code, what, std::move(value), std::move(expected)));
  }
  bool has(FindingCode code) const {
    return std::any_of(findings_.begin(), findings_.end(),
                       [&](const FileFinding& finding) { return finding.code == code; });
  }

  void unreadable(const Error& error) {
    if (error.code == ErrorCode::NotFound) return add(FindingCode::Missing, "is not there");
    const std::string why = error.text.empty() ? std::string(errorText(error.code)) : error.text;
    // A header that promises more than there is.
    add(FindingCode::Unreadable, "cannot be read: " + why);
  }

  void asMade(const MadeFile& made) {
    form(made);
    if (file_.isDecoded && !isOtherForm_) sound(made);
    if (!file_.isSameBytes()) {
      tags(made);
      marks(made);
      if (file_.isDecoded) seam(made);
      if (findings_.empty() && !file_.line->content.empty()) otherBytes();
    }
  }

  void otherBytes() {
    if (file_.isDecoded)
      add(FindingCode::BytesChanged, "was written anew, though it sounds and says the same");
    else
      add(FindingCode::Altered, "has other bytes than those that were written, and was not decoded");
  }

  void form(const MadeFile& made) {
    const FileFacts& facts = there().facts;
    if (facts.rate != made.rate)
      otherForm(FindingCode::WrongRate, "has another rate than it was made with",
                std::to_string(facts.rate) + " Hz", std::to_string(made.rate) + " Hz");
    if (facts.channels != made.channels)
      otherForm(FindingCode::WrongChannels, "has other channels than it was made with",
                counted(static_cast<std::size_t>(facts.channels), "channel"),
                counted(static_cast<std::size_t>(made.channels), "channel"));
    if (facts.encoding != made.encoding) {
      add(FindingCode::WrongFormat, "has another format than it was made with", encodingText(facts.encoding),
          encodingText(made.encoding));
      isOtherWidth_ = true;
    }
  }
  void otherForm(FindingCode code, const std::string& what, std::string value, std::string expected) {
    add(code, what, std::move(value), std::move(expected));
    isOtherForm_ = true;
  }

  void sound(const MadeFile& made) {
    const SoundFigures& now = there().figures;
    const Frame longer = now.frames - made.figures.frames;
    if (std::abs(longer) > lengthTolerance(made, there())) return length(made, longer);
    if (now.isSilent() && !made.figures.isSilent())
      return add(FindingCode::Silent, "is silent, and was not when it was made", "−∞ dBFS",
                 decibelText(decibelsOf(made.figures.peak())) + " dBFS");
    if (isLossy(made) && file_.isSameBytes()) return;
    const FiguresChange change =
        changeFrom(made.figures, now, isOtherWidth_ ? kSameFormDb : energyTolerance(made));
    if (change.isSame) return;
    if (change.isReordered) return add(FindingCode::ChannelsSwapped, "has its channels in another order");
    if (explains(made, now)) return;
    if (now.hasEqualChannels() && !made.figures.hasEqualChannels())
      return add(FindingCode::EqualChannels, "has the same in all channels, and had not when it was made",
                 "all equal", counted(static_cast<std::size_t>(made.channels), "channel") + " of their own");
    altered(made, change);
  }

  void length(const MadeFile& made, Frame longer) {
    const bool isShort = longer < 0;
    add(isShort ? FindingCode::CutShort : FindingCode::Padded,
        "is " + framesText(std::abs(longer)) + (isShort ? " shorter" : " longer") + " than it was made",
        framesText(made.figures.frames + longer), framesText(made.figures.frames));
  }

  /// What is the matter with a sound that is another one, where it has a name of its own.
  bool explains(const MadeFile& made, const SoundFigures& now) {
    if (now.longestFlat >= kClippedRun && now.longestFlat > made.figures.longestFlat) {
      add(FindingCode::Clipped, "is clipped: " + framesText(now.longestFlat) + " in a row are at full scale",
          framesText(now.longestFlat), framesText(made.figures.longestFlat));
      return true;
    }
    if (now.offset() < made.figures.offset() + kOffset) return false;
    offset(now);
    return true;
  }
  void offset(const SoundFigures& now) {
    add(FindingCode::Dc, "has an offset of " + decibelText(decibelsOf(now.offset())) + " dBFS",
        decibelText(decibelsOf(now.offset())) + " dBFS",
        "under " + decibelText(decibelsOf(kOffset)) + " dBFS");
  }

  void altered(const MadeFile& made, const FiguresChange& change) {
    std::string what = "sounds otherwise than it was made";
    std::string value;
    if (std::fabs(change.levelDb) >= 0.01) {
      value = figureText(std::fabs(change.levelDb), 2, change.levelDb > 0 ? "dB louder" : "dB quieter");
      what += ": " + value;
    } else if (std::fabs(change.shiftFrames) >= 0.5) {
      value = figureText(std::fabs(change.shiftFrames), 2,
                         change.shiftFrames > 0 ? "frames later" : "frames earlier");
      what += ": " + value;
    }
    add(FindingCode::Altered, what, value,
        decibelText(decibelsOf(made.figures.peak())) + " dBFS peak, as it was made");
  }

  void tags(const MadeFile& made) {
    const std::vector<std::string> lost = lostTexts(made, there().facts);
    if (!lost.empty() && !isOtherWidth_)
      add(FindingCode::TagsLost, "has lost texts, or has others: " + printable(listed(lost), 400),
          std::to_string(made.tags.size() - lost.size()), std::to_string(made.tags.size()));
  }

  void marks(const MadeFile& made) {
    if (isOtherForm_ || isOtherWidth_ || has(FindingCode::CutShort)) return;
    const FileFacts& facts = there().facts;
    const std::size_t kept = keptMarks(made, facts);
    if (!hasItsLoops(made, facts))
      add(FindingCode::MarksLost, "has other loop points than it was made with", loopsText(facts.loops),
          loopsText(made.loops));
    else if (kept < made.marks.size())
      add(FindingCode::MarksLost, "has lost marks, or has them elsewhere", counted(kept, "mark"),
          counted(made.marks.size(), "mark"));
  }

  void seam(const MadeFile& made) {
    const auto& now = there().seam;
    if (!made.seam || !now || *now > *made.seam - kWorseSeam || isOtherForm_) return;
    add(FindingCode::Seam, "joins worse than when it was made", figureText(*now, 2, "of 100"),
        figureText(*made.seam, 2, "of 100"));
  }

  /// What was known already when it was made.
  void asItWasMade() {
    if (!file_.made) return;
    silence(file_.made->figures);
    overFullScale();
  }
  void silence(const SoundFigures& now) {
    if (now.isSilent() && now.frames > 0 && !has(FindingCode::Silent)) add(FindingCode::Silent, "is silent");
  }
  void overFullScale() {
    if (file_.made && file_.made->clipped > 0 && !has(FindingCode::Clipped))
      add(FindingCode::Clipped,
          "has " + counted(static_cast<std::size_t>(file_.made->clipped), "sample") +
              " that were over full scale when it was made",
          counted(static_cast<std::size_t>(file_.made->clipped), "sample"), "none");
  }

  /// Whatever it was made as.
  void alone() {
    const SoundFigures& now = there().figures;
    silence(now);
    overFullScale();
    if (now.steadyOffset >= kOffset && !has(FindingCode::Dc) && !has(FindingCode::Clipped)) offset(now);
    const auto& peak = there().levels.truePeakDb;
    if (file_.made && file_.made->ceilingDb && peak && *peak > *file_.made->ceilingDb + kOverCeilingDb &&
        !has(FindingCode::Altered))
      add(FindingCode::OverCeiling, "is over its ceiling", decibelText(*peak) + " dBTP",
          decibelText(*file_.made->ceilingDb) + " dBTP");
  }

  const CheckedFile& file_;
  bool isOtherForm_ = false;   // its samples cannot be compared
  bool isOtherWidth_ = false;  // they can be about
  std::vector<FileFinding> findings_;
};

}  // namespace

bool CheckedFile::soundsAsMade() const {
  if (isTrusted) return true;
  if (there() == nullptr || !made) return isSameBytes();
  if (isSameBytes() && !isDecoded) return true;
  return there()->facts.rate == made->rate && there()->figures.frames == made->figures.frames &&
         there()->figures.channels.size() == made->figures.channels.size() &&
         changeFrom(made->figures, there()->figures, energyTolerance(*made)).isSame;
}

std::vector<FileFinding> findingsOf(const CheckedFile& file) { return Judge(file).all(); }

bool isHeldBy(const CheckedFile& delivered, const ReadBack& there) {
  const ReceiptLine& line = *delivered.line;
  if (!line.content.empty() && line.stamp.size == there.bytes && line.content == there.content) return true;
  if (!delivered.made || isLossy(*delivered.made)) return false;
  const MadeFile& made = *delivered.made;
  return made.encoding == there.facts.encoding && made.rate == there.facts.rate &&
         made.figures.frames == there.figures.frames && !made.figures.isSilent() &&
         made.figures.channels.size() == there.figures.channels.size() &&
         changeFrom(made.figures, there.figures, 0).isSame;
}

}  // namespace octaphon
