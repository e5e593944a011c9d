#include "check/file_figures.h"

#include <cmath>

#include "base/decibels.h"
#include "base/unicode.h"
#include "check/as_made.h"

namespace octaphon {
namespace {

constexpr double kLoudnessTolerance = 0.5;  // LU; ours: what encoders change is less
constexpr double kLevelTolerance = 0.05;    // dB, of figures that are shown to a tenth

std::string dbText(double decibels, const char* unit) { return decibelText(decibels) + " " + unit; }
std::string fullScaleText(double factor) { return dbText(decibelsOf(factor), "dBFS"); }
std::string numberText(std::size_t number) { return std::to_string(number); }

/// One file's figures, in the order that people look at them.
class Figures {
 public:
  explicit Figures(const CheckedFile& file)
      : made_(file.made ? &*file.made : nullptr), there_(*file.there()) {
    form();
    if (file.isDecoded) sound();
    data();
    bytes(file);
  }
  std::vector<FileFigure> take() { return std::move(figures_); }

 private:
  void add(const char* name, const char* title, std::string value, std::string asked = {},
           std::optional<bool> isRight = {}, std::string tolerance = {}) {
    figures_.push_back(
        {name, title, std::move(value), std::move(asked), std::move(tolerance), std::move(isRight)});
  }
  /// Against what it was when it was made; nothing is asked where that is not known.
  template <class Value>
  void same(const char* name, const char* title, const Value& value, const Value& made,
            std::string (*textOf)(const Value&)) {
    if (made_ == nullptr) return add(name, title, textOf(value));
    add(name, title, textOf(value), textOf(made), value == made);
  }

  void form() {
    const FileFacts& facts = there_.facts;
    const MadeFile made = made_ != nullptr ? *made_ : MadeFile{};
    same<std::string>("format", "Format", facts.encoding, made.encoding,
                      [](const std::string& encoding) { return encodingText(encoding); });
    same<int>("rate", "Rate", facts.rate, made.rate,
              [](const int& rate) { return std::to_string(rate) + " Hz"; });
    same<int>("channels", "Channels", facts.channels, made.channels,
              [](const int& channels) { return std::to_string(channels); });
  }

  void length() {
    const Frame frames = there_.figures.frames;
    std::string value = framesText(frames) + ", " + timeText(frames, there_.facts.rate);
    if (made_ == nullptr) return add("length", "Length", std::move(value));
    const Frame tolerance = lengthTolerance(*made_, there_);
    add("length", "Length", std::move(value), framesText(made_->figures.frames),
        std::abs(frames - made_->figures.frames) <= tolerance,
        tolerance == 0 ? std::string() : framesText(tolerance));
  }

  /// Levels that lossy formats move are held against nothing.
  void level(const char* name, const char* title, double factor, std::optional<double> made) {
    if (!made || made_ == nullptr || isLossy(*made_)) return add(name, title, fullScaleText(factor));
    const double apart = std::fabs(decibelsOf(factor) - decibelsOf(*made));
    add(name, title, fullScaleText(factor), fullScaleText(*made), apart <= kLevelTolerance,
        figureText(kLevelTolerance, 2, "dB"));
  }

  void sound() {
    const SoundFigures& now = there_.figures;
    length();
    level("peak", "Peak", now.peak(), made_ != nullptr ? std::optional(made_->figures.peak()) : std::nullopt);
    loudness();
    if (made_ == nullptr || isLossy(*made_))
      add("full-scale", "In a row at full scale", framesText(now.longestFlat));
    else
      add("full-scale", "In a row at full scale", framesText(now.longestFlat),
          framesText(made_->figures.longestFlat), now.longestFlat <= made_->figures.longestFlat);
    add("offset", "Offset", fullScaleText(now.steadyOffset), "under " + fullScaleText(kOffset),
        now.steadyOffset < kOffset);
    onset();
    add("end", "Before it ends", fullScaleText(there_.endPeak));
    if (now.channels.size() > 1) {
      const bool isEqual = now.hasEqualChannels();
      const auto words = [](bool areSame) { return std::string(areSame ? "the same" : "of their own"); };
      if (made_ == nullptr)
        add("equal-channels", "All channels", words(isEqual));
      else
        add("equal-channels", "All channels", words(isEqual), words(made_->figures.hasEqualChannels()),
            isEqual == made_->figures.hasEqualChannels() || isLossy(*made_));
    }
    if (there_.seam && made_ != nullptr && made_->seam)
      add("seam", "Seam", figureText(*there_.seam, 1, "of 100"), figureText(*made_->seam, 1, "of 100"),
          *there_.seam > *made_->seam - kWorseSeam, figureText(kWorseSeam, 0, ""));
  }

  void loudness() {
    const Levels& levels = there_.levels;
    if (levels.truePeakDb) {
      if (made_ != nullptr && made_->ceilingDb)
        add("true-peak", "True peak", dbText(*levels.truePeakDb, "dBTP"),
            "under " + dbText(*made_->ceilingDb, "dBTP"),
            *levels.truePeakDb <= *made_->ceilingDb + kOverCeilingDb, figureText(kOverCeilingDb, 1, "dB"));
      else
        add("true-peak", "True peak", dbText(*levels.truePeakDb, "dBTP"));
    }
    if (!levels.measured.loudness) return;
    const std::string value = levels.lufs ? dbText(*levels.lufs, "LUFS") : "too short, or too soft";
    if (made_ == nullptr || !made_->lufs) return add("loudness", "Loudness", value);
    const bool isRight = levels.lufs && std::fabs(*levels.lufs - *made_->lufs) <= kLoudnessTolerance;
    add("loudness", "Loudness", value, dbText(*made_->lufs, "LUFS"), isRight,
        figureText(kLoudnessTolerance, 1, "LU"));
  }

  void onset() {
    const auto words = [&](Frame onset) {
      return onset < 0 ? std::string("nothing begins") : timeText(onset, there_.facts.rate);
    };
    const Frame now = there_.figures.onset;
    if (made_ == nullptr || isLossy(*made_)) return add("onset", "First onset", words(now));
    add("onset", "First onset", words(now), words(made_->figures.onset), now == made_->figures.onset);
  }

  void data() {
    if (made_ == nullptr) return;
    const std::size_t texts = made_->tags.size() - lostTexts(*made_, there_.facts).size();
    if (!made_->tags.empty())
      add("texts", "Texts", numberText(texts), numberText(made_->tags.size()), texts == made_->tags.size());
    const std::size_t marks = keptMarks(*made_, there_.facts);
    if (!made_->marks.empty())
      add("marks", "Marks", numberText(marks), numberText(made_->marks.size()), marks == made_->marks.size());
    if (!made_->loops.empty())
      add("loop", "Loop", loopsText(there_.facts.loops), loopsText(made_->loops),
          hasItsLoops(*made_, there_.facts));
  }

  void bytes(const CheckedFile& file) {
    if (file.line->content.empty()) return;
    add("bytes", "Bytes", file.isSameBytes() ? "as they were written" : "others", "as they were written",
        file.isSameBytes());
  }

  const MadeFile* made_;  // null: not known
  const ReadBack& there_;
  std::vector<FileFigure> figures_;
};

}  // namespace

std::vector<FileFigure> figuresOf(const CheckedFile& file) {
  return file.there() != nullptr && file.line != nullptr ? Figures(file).take() : std::vector<FileFigure>();
}

}  // namespace octaphon
