#include "app/delivery/proof_lines.h"

#include <algorithm>
#include <QLocale>
#include <QObject>
#include <set>

#include "app/look/numbers.h"
#include "app/work/text.h"
#include "base/decibels.h"
#include "base/unicode.h"

namespace octaphon::app {
namespace {

/// Finer than decibelText(), which takes what is under −144 dB for silence.
QString residualText(double decibels) {
  return decibels <= kExactSumDb ? tr("exact") : numberText(decibels, 1) + " dB";
}

bool isJudged(const MadeSum& sum) { return sum.outcome.verdict != SumVerdict::NotJudged; }

std::string keyOf(const MadeSum& sum) {
  return sum.brief + "\n" + std::to_string(static_cast<int>(sum.span.kind)) + "\n" + sum.span.id;
}

void addFailures(const RunProof& run, std::vector<ProofGroup>& groups) {
  ProofGroup group{tr("Not made"), Severity::Fault};
  for (const MadeFailure& failure : run.failed())
    group.add([&] { return ProofLine{failure.file, failure.why, {}, {}, failure.key, failure.span}; });
  groups.push_back(std::move(group));
}

/// Findings begin with the file's name, which stands beside them, and end with the cure; what is accepted
/// needs none.
QString wordsOf(const FileFinding& finding) {
  QString words = text(printable(finding.text, 2000));
  const QString name = shownName(finding.file) + " ", cure = " " + text(findingInfo(finding.code).cure);
  if (words.startsWith(name)) words.remove(0, name.size());
  if (finding.accepted && words.endsWith(cure)) words.chop(cure.size());
  return words;
}

ProofLine lineOf(const FileFinding& finding, const FolderPath& base) {
  ProofLine line{shownName(finding.file), wordsOf(finding), base, finding.file, finding.row};
  line.finding = finding;
  if (finding.accepted)
    line.found += " " + (finding.accepted->empty() ? tr("Accepted.")
                                                   : tr("Accepted: %1").arg(shownName(*finding.accepted)));
  return line;
}

/// Faults first, then by cause; what was accepted is for the end.
void addFindings(const Checking& checking, bool accepted, std::vector<ProofGroup>& groups) {
  std::map<std::pair<int, FindingCode>, ProofGroup> byCause;
  for (const auto& [base, report] : checking.reports())
    for (const FileFinding& finding : report->findings) {
      if (finding.accepted.has_value() != accepted) continue;
      const FindingInfo& info = findingInfo(finding.code);
      ProofGroup& group = byCause[{-static_cast<int>(info.severity), finding.code}];
      group.severity = accepted ? Severity::Note : info.severity;
      group.isOpen = !accepted;
      group.title = accepted ? tr("Accepted: %1").arg(text(info.title)) : text(info.title);
      group.code = finding.code;
      group.add([&] { return lineOf(finding, base); });
    }
  for (auto& [cause, group] : byCause) groups.push_back(std::move(group));
}

void addSums(const RunProof& run, SumVerdict verdict, const QString& title, Severity severity,
             std::vector<ProofGroup>& groups) {
  ProofGroup group{title, severity, severity == Severity::Fault};
  for (const MadeSum& sum : run.sums())
    if (sum.outcome.verdict == verdict)
      group.add([&] {
        const QString words = shownName(sum.briefName) + ": " + text(sum.outcome.text);
        return ProofLine{shownName(sum.span.name), words, {}, {}, {}, sum.span};
      });
  std::sort(group.lines.begin(), group.lines.end(),
            [](const ProofLine& a, const ProofLine& b) { return a.file.localeAwareCompare(b.file) < 0; });
  groups.push_back(std::move(group));
}

void addRemarks(const RunProof& run, std::vector<ProofGroup>& groups) {
  ProofGroup group{tr("Noticed while they were made"), Severity::Warning};
  for (const MadeRemark& remark : run.remarks())
    group.add([&] { return ProofLine{remark.file, text(remark.text), {}, {}, {}, remark.span}; });
  groups.push_back(std::move(group));
}

/// The largest first.
void addChanges(const Checking& checking, std::vector<ProofGroup>& groups) {
  ProofGroup other{tr("Otherwise than last time"), Severity::Note};
  ProofGroup alike{tr("Written anew, and as they were"), Severity::Note, false};
  const auto peakOf = [](const FileChange* change) {
    return change->difference ? change->difference->peak : -1;
  };
  std::vector<const FileChange*> changes;
  for (const FileChange& change : checking.changes()) changes.push_back(&change);
  std::stable_sort(changes.begin(), changes.end(),
                   [&](const FileChange* a, const FileChange* b) { return peakOf(a) > peakOf(b); });
  for (const FileChange* change : changes) {
    const bool isOther = !change->before.empty() || (change->difference && !change->difference->isNone());
    (isOther ? other : alike).add([&] {
      ProofLine line{shownName(change->file), text(changeText(*change)), change->base, change->file,
                     change->row};
      line.change = *change;
      return line;
    });
  }
  groups.push_back(std::move(other));
  groups.push_back(std::move(alike));
}

QString wellText(const CheckedFile& file) {
  if (file.isTrusted) return tr("not read this time: it is as old as when it was made");
  return file.isDecoded ? tr("as it was made") : tr("has the bytes that were written");
}

void addWell(const Checking& checking, std::vector<ProofGroup>& groups) {
  ProofGroup group{tr("Nothing found"), Severity::Note, false};
  for (const auto& [base, report] : checking.reports()) {
    std::set<std::string> found;
    for (const FileFinding& finding : report->findings) found.insert(finding.file);
    for (const CheckedFile& file : report->files) {
      if (found.contains(file.name)) continue;
      group.add([&] {
        return ProofLine{shownName(file.name), wellText(file), base, file.name, file.line->key};
      });
    }
  }
  groups.push_back(std::move(group));
}

}  // namespace

void RunProof::take(const MadeReport& report) {
  std::set<std::string> again;
  for (const MadeFile& made : report.made) again.insert(made.key);
  for (const MadeFailure& failure : report.failed) again.insert(failure.key);
  std::erase_if(failed_, [&](const MadeFailure& failure) { return again.contains(failure.key); });
  failed_.insert(failed_.end(), report.failed.begin(), report.failed.end());
  std::set<QString> files;
  for (const MadeFile& made : report.made) files.insert(made.file);
  for (const MadeFailure& failure : report.failed) files.insert(failure.file);
  std::erase_if(remarks_, [&](const MadeRemark& remark) { return files.contains(remark.file); });
  remarks_.insert(remarks_.end(), report.remarks.begin(), report.remarks.end());
  std::set<std::string> summed;
  for (const MadeSum& sum : report.sums) summed.insert(keyOf(sum));
  std::erase_if(sums_, [&](const MadeSum& sum) { return summed.contains(keyOf(sum)); });
  sums_.insert(sums_.end(), report.sums.begin(), report.sums.end());
}

QString sumsText(const std::vector<MadeSum>& sums) {
  std::size_t judged = 0, adds = 0;
  double worst = kExactSumDb;
  for (const MadeSum& sum : sums) {
    if (!isJudged(sum)) continue;
    ++judged;
    adds += sum.outcome.verdict == SumVerdict::AddsUp ? 1 : 0;
    worst = std::max(worst, sum.outcome.residualDb);
  }
  if (judged == 0) return {};
  if (adds < judged)
    return tr("layers differ in %1 of %2").arg(judged - adds).arg(text(counted(judged, "span")));
  const QString most = worst <= kExactSumDb ? tr("exactly") : tr("%1 at most").arg(residualText(worst));
  return tr("layers add up in %1 (%2)").arg(text(counted(judged, "span")), most);
}

std::vector<ProofGroup> proofGroups(const RunProof& run, const Checking& checking) {
  std::vector<ProofGroup> groups;
  addFailures(run, groups);
  addFindings(checking, false, groups);
  addSums(run, SumVerdict::Differs, tr("Layers did not add up while they were made"), Severity::Fault,
          groups);
  addRemarks(run, groups);
  addChanges(checking, groups);
  addFindings(checking, true, groups);
  addSums(run, SumVerdict::AddsUp, tr("Layers add up"), Severity::Note, groups);
  addSums(run, SumVerdict::NotJudged, tr("Sums not judged"), Severity::Note, groups);
  addWell(checking, groups);
  std::erase_if(groups, [](const ProofGroup& group) { return group.count == 0; });
  return groups;
}

QString proofText(const RunProof& run, const Checking& checking) {
  QStringList parts;
  if (!run.failed().empty())
    parts << tr("%1 could not be made").arg(text(counted(run.failed().size(), "file")));
  if (checking.isChecking()) {
    parts << tr("checking …");
  } else if (!checking.isEmpty()) {
    std::size_t files = 0;
    for (const auto& [base, report] : checking.reports()) files += report->files.size();
    QString words =
        checking.wasDecoded() ? tr("%1 checked at %2: ") : tr("%1 checked by their bytes at %2: ");
    words = words.arg(text(counted(files, "file")), QLocale().toString(checking.at().time(), "HH:mm"));
    words += checking.open() == 0 ? tr("nothing found") : text(counted(checking.open(), "finding"));
    if (checking.accepted() > 0) words += tr(", %1 accepted").arg(checking.accepted());
    parts << words;
  }
  if (const QString sums = sumsText(run.sums()); !sums.isEmpty() && checking.open() == 0) parts << sums;
  if (checking.notCompared() > 0)
    parts << tr("%1 replaced too fast to be compared").arg(text(counted(checking.notCompared(), "file")));
  if (parts.isEmpty())
    return tr("Nothing was made or checked yet. Make files, and here stands whether each is right.");
  const QString words = parts.join("; ");
  return words.left(1).toUpper() + words.mid(1);
}

}  // namespace octaphon::app
