#include "check/group_findings.h"

#include <algorithm>
#include <cmath>
#include <functional>
#include <map>

#include "base/unicode.h"

namespace octaphon {
namespace {

/// `brief/region:id/track:id/wav/all`, in its parts.
struct RowKey {
  std::string brief, span, source, form;

  explicit RowKey(const std::string& key) {
    const std::size_t span_ = key.find('/'), source_ = key.find('/', span_ + 1),
                      form_ = key.find('/', source_ + 1);
    brief = key.substr(0, span_);
    if (span_ == std::string::npos || source_ == std::string::npos) return;
    span = key.substr(span_ + 1, source_ - span_ - 1);
    source = key.substr(source_ + 1, form_ == std::string::npos ? form_ : form_ - source_ - 1);
    if (form_ != std::string::npos) form = key.substr(form_ + 1);
  }
};

using Group = std::vector<const CheckedFile*>;

FileFinding about(const CheckedFile& file, FindingCode code, const std::string& what, std::string value = {},
                  std::string expected = {}) {
  return findingAbout(file.name, file.line->key, code, what, std::move(value), std::move(expected));
}

bool isFit(const CheckedFile& file) { return file.made && file.isDecoded && file.soundsAsMade(); }

std::map<std::string, Group> groupedBy(const std::vector<CheckedFile>& files,
                                       const std::function<std::string(const CheckedFile&)>& keyOf) {
  std::map<std::string, Group> groups;
  for (const CheckedFile& file : files)
    if (isFit(file))
      if (std::string key = keyOf(file); !key.empty()) groups[std::move(key)].push_back(&file);
  return groups;
}

double rmsDb(const SoundFigures& figures) {
  double energy = 0;
  for (const ChannelFigures& channel : figures.channels) energy += channel.energy;
  const double samples = static_cast<double>(figures.frames) * static_cast<double>(figures.channels.size());
  return energy > 0 && samples > 0 ? 10 * std::log10(energy / samples) : -200;
}

double middleOf(std::vector<double> values) {
  std::sort(values.begin(), values.end());
  const std::size_t half = values.size() / 2;
  return values.size() % 2 == 1 ? values[half] : (values[half - 1] + values[half]) / 2;
}

/// How far each lies from the middle, where that is further than the others' spread would have it: over three
/// times 1.4826 of their median distance (the Hampel identifier: Davies and Gather 1993), and over `least`.
std::vector<double> outliers(const std::vector<double>& values, double least) {
  const double middle = middleOf(values);
  std::vector<double> away;
  for (const double value : values) away.push_back(std::fabs(value - middle));
  const double limit = std::max(least, 3 * 1.4826 * middleOf(away));
  std::vector<double> apart;
  for (const double value : values) apart.push_back(std::fabs(value - middle) > limit ? value - middle : 0);
  return apart;
}

constexpr std::size_t kLeastVariations = 4;  // fewer say nothing of what is usual
// Ours: 6 dB and twice the length found variations of random lengths that nothing was wrong with.
constexpr double kLeastApartDb = 9;
const double kLeastApartLength = std::log(4.0);

void findOutOfLine(const Group& variations, std::vector<FileFinding>& findings) {
  if (variations.size() < kLeastVariations) return;
  std::vector<double> levels, lengths;
  for (const CheckedFile* file : variations) {
    levels.push_back(rmsDb(file->made->figures));
    lengths.push_back(std::log(static_cast<double>(std::max<Frame>(1, file->made->figures.frames))));
  }
  const std::vector<double> louder = outliers(levels, kLeastApartDb);
  const std::vector<double> longer = outliers(lengths, kLeastApartLength);
  for (std::size_t i = 0; i < variations.size(); ++i) {
    if (louder[i] != 0)
      findings.push_back(about(*variations[i], FindingCode::OutOfLine,
                               "is " + figureText(std::fabs(louder[i]), 1, "dB") +
                                   (louder[i] > 0 ? " louder" : " quieter") + " than its variations",
                               figureText(std::fabs(louder[i]), 1, "dB"),
                               "within " + figureText(kLeastApartDb, 1, "dB")));
    if (longer[i] != 0)
      findings.push_back(
          about(*variations[i], FindingCode::OutOfLine,
                std::string("is much ") + (longer[i] > 0 ? "longer" : "shorter") + " than its variations",
                timeText(variations[i]->made->figures.frames, variations[i]->made->rate)));
  }
}

void findLengths(const Group& siblings, std::vector<FileFinding>& findings) {
  std::map<Frame, Group> byLength;
  for (const CheckedFile* file : siblings) byLength[file->made->figures.frames].push_back(file);
  if (byLength.size() < 2) return;
  const auto usual = std::max_element(byLength.begin(), byLength.end(), [](const auto& a, const auto& b) {
    return a.second.size() < b.second.size();
  });
  for (const auto& [frames, files] : byLength)
    for (const CheckedFile* file : files)
      if (frames != usual->first)
        findings.push_back(about(*file, FindingCode::SiblingLength,
                                 "has another length than the other files of its span",
                                 counted(static_cast<std::size_t>(frames), "frame"),
                                 counted(static_cast<std::size_t>(usual->first), "frame")));
}

/// A single layer is its mix.
bool mayBeAlike(const CheckedFile& a, const CheckedFile& b) {
  const RowKey one(a.line->key), other(b.line->key);
  const bool isOneSound = one.brief == other.brief && one.span == other.span && one.source == other.source;
  return isOneSound || one.brief != other.brief || a.made->addsTo == b.line->key ||
         b.made->addsTo == a.line->key;
}

void findAlike(const Group& alike, std::vector<FileFinding>& findings) {
  for (std::size_t i = 1; i < alike.size(); ++i) {
    const auto other = std::find_if(alike.begin(), alike.begin() + static_cast<std::ptrdiff_t>(i),
                                    [&](const CheckedFile* one) { return !mayBeAlike(*one, *alike[i]); });
    if (other == alike.begin() + static_cast<std::ptrdiff_t>(i)) continue;
    findings.push_back(about(*alike[i], FindingCode::Duplicate,
                             "has the same sound as " + printable((*other)->name, 400), (*other)->name));
  }
}

/// As the receipt has it before dither; else as it is decoded.
std::string soundOf(const CheckedFile& file) {
  if (file.made->figures.isSilent()) return {};
  const std::string form = "/" + std::to_string(file.made->rate) + "/" + std::to_string(file.made->channels);
  if (!file.line->samples.empty()) return "s" + file.line->samples.hex() + form;
  return file.there() == nullptr ? std::string() : "d" + file.there()->samples.hex() + form;
}

}  // namespace

std::vector<FileFinding> siblingFindings(const std::vector<CheckedFile>& files) {
  std::vector<FileFinding> findings;
  for (const auto& [key, group] : groupedBy(files, [](const CheckedFile& file) {
         const RowKey row(file.line->key);
         return file.made->family.empty()
                    ? std::string()
                    : row.brief + "\n" + row.source + "\n" + row.form + "\n" + file.made->family;
       }))
    findOutOfLine(group, findings);
  for (const auto& [mix, group] : groupedBy(files, [](const CheckedFile& file) {
         return file.made->layers > 0 ? file.line->key : file.made->addsTo;
       }))
    findLengths(group, findings);
  for (const auto& [sound, group] : groupedBy(files, soundOf)) findAlike(group, findings);
  return findings;
}

}  // namespace octaphon
