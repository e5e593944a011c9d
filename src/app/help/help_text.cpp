#include "app/help/help_text.h"

#include <algorithm>
#include <QFile>
#include <QRegularExpression>
#include <QStringList>

namespace octaphon::app {
namespace {

constexpr int kHeadingWeight = 100;

/// What people read: without links' targets, pictures, comments, bars of tables and marks of letters.
QString plain(QString markdown) {
  static const QRegularExpression picture(R"(!\[[^\]]*\]\([^)]*\))"), link(R"(\[([^\]]*)\]\([^)]*\))"),
      comment("<!--.*?-->", QRegularExpression::DotMatchesEverythingOption),
      marks(R"([*`|]+|^\s*-{3,}.*$)", QRegularExpression::MultilineOption);
  return markdown.remove(picture).replace(link, "\\1").remove(comment).replace(marks, " ").simplified();
}

void addSections(const HelpPageInfo& page, std::vector<HelpSection>& sections) {
  QFile file(QString(":/help/") + page.file);
  if (!file.open(QIODevice::ReadOnly)) return;
  QString heading, text;
  const auto take = [&] {
    if (!plain(text).isEmpty()) sections.push_back({page.file, page.title, heading, plain(text)});
    text.clear();
  };
  for (const QString& line : QString::fromUtf8(file.readAll()).split('\n')) {
    if (line.startsWith("##")) {
      take();
      heading = line.mid(line.indexOf(' ') + 1).trimmed();
    } else if (!line.startsWith("# ")) {
      text += line + '\n';
    }
  }
  take();
}

}  // namespace

const std::vector<HelpPageInfo>& helpPages() {
  static const std::vector<HelpPageInfo> kPages{{"guide.md", "The guide"},
                                                {"chapters.md", "Usual deliveries"},
                                                {"remarks.md", "Remarks and findings"},
                                                {"names.md", "Names"},
                                                {"ends.md", "Ends"},
                                                {"loops.md", "Loops"},
                                                {"level.md", "Level"},
                                                {"signal.md", "Signal and layers"},
                                                {"formats.md", "Formats and data"},
                                                {"check.md", "Checking"},
                                                {"handing-over.md", "Handing over"},
                                                {"cache.md", "What is kept"},
                                                {"build-machines.md", "Build machines"},
                                                {"command-line.md", "The command line"}};
  return kPages;
}

const std::vector<HelpSection>& helpSections() {
  static const std::vector<HelpSection> kSections = [] {
    std::vector<HelpSection> sections;
    for (const HelpPageInfo& page : helpPages()) addSections(page, sections);
    return sections;
  }();
  return kSections;
}

std::vector<std::size_t> findInHelp(const QString& words) {
  const QStringList wanted = words.split(' ', Qt::SkipEmptyParts);
  std::vector<std::pair<int, std::size_t>> found;
  const std::vector<HelpSection>& sections = helpSections();
  for (std::size_t i = 0; i < sections.size() && !wanted.isEmpty(); ++i) {
    int weight = 0;
    for (const QString& word : wanted) {
      const int inHeading =
          static_cast<int>((sections[i].title + ' ' + sections[i].heading).count(word, Qt::CaseInsensitive));
      const int inText = static_cast<int>(sections[i].text.count(word, Qt::CaseInsensitive));
      if (inHeading + inText == 0) {
        weight = 0;
        break;
      }
      weight += inHeading * kHeadingWeight + inText;
    }
    if (weight > 0) found.emplace_back(-weight, i);
  }
  std::sort(found.begin(), found.end());
  std::vector<std::size_t> indices;
  for (const auto& [weight, index] : found) indices.push_back(index);
  return indices;
}

}  // namespace octaphon::app
