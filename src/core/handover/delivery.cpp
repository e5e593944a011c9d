#include "handover/delivery.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <numeric>
#include <tuple>

#include "base/in_parallel.h"
#include "base/unicode.h"
#include "handover/checksum.h"

namespace octaphon {
namespace {

/// Of a row's key, between its slashes; empty where it has fewer.
std::string partOf(const std::string& key, std::size_t index) {
  std::size_t from = 0;
  for (; index > 0; --index) {
    from = key.find('/', from);
    if (from == std::string::npos) return {};
    ++from;
  }
  return key.substr(from, key.find('/', from) - from);
}

/// Why a remark does not count, by what is accepted of its brief.
std::optional<std::string> reasonFor(const MadeRemark& remark, const std::string& row,
                                     const std::vector<Accepted>& accepted) {
  for (const Accepted& one : accepted)
    if (one.code == remark.code && std::find(one.rows.begin(), one.rows.end(), row) != one.rows.end())
      return one.reason;
  return std::nullopt;
}

/// What the file tells of a file that a receipt of an earlier version knows by its bytes alone.
MadeFile toldByFile(const ReadBack& there) {
  MadeFile made;
  made.encoding = there.facts.encoding;
  made.rate = there.facts.rate;
  made.channels = there.facts.channels;
  made.figures = there.figures;
  made.marks = there.facts.marks;
  made.loops = there.facts.loops;
  made.tags = there.facts.tags();
  return made;
}

/// Quiet sounds have a shape too.
std::vector<WaveColumn> rooted(std::vector<WaveColumn> wave) {
  for (WaveColumn& column : wave)
    column = {-std::sqrt(std::min(1.0f, -column.low)), std::sqrt(std::min(1.0f, column.high))};
  return wave;
}

class Reader {
 public:
  Reader(const DeliveryRequest& request, JobControl* job, SafeFolder folder, CheckReport report)
      : request_(request), job_(job), folder_(std::move(folder)), report_(std::move(report)) {
    delivery_.base = request.base;
    delivery_.receipt = report_.receipt;
  }

  Result<Delivery> read() {
    chooseBriefs();
    for (const CheckedFile& file : report_.files)
      if (const auto brief = places_.find(file.line->brief());
          brief != places_.end() && isNewest(*file.line, delivery_.briefs[brief->second]))
        delivery_.files.push_back(fileOf(file, brief->second));
    giveFindings();
    putInOrder();
    sumUp();
    if (isStopped(job_)) return fail(ErrorCode::Cancelled, request_.base.full().string());
    return std::move(delivery_);
  }

 private:
  const Receipt& receipt() const { return *report_.receipt; }

  /// Those of which files are there, in the order of their sessions.
  void chooseBriefs() {
    std::set<std::string> ids;
    for (const CheckedFile& file : report_.files) ids.insert(file.line->brief());
    for (const std::string& id : ids) {
      DeliveredEdition brief;
      brief.words.brief = id;
      if (const auto found = receipt().briefs().find(id); found != receipt().briefs().end())
        brief.words = found->second;
      if (const auto found = receipt().editions().find(id); found != receipt().editions().end())
        brief.edition = found->second;
      if (const auto found = receipt().accepted().find(id); found != receipt().accepted().end())
        brief.accepted = found->second;
      delivery_.briefs.push_back(std::move(brief));
    }
    std::sort(delivery_.briefs.begin(), delivery_.briefs.end(),
              [](const DeliveredEdition& a, const DeliveredEdition& b) {
                const auto rank = [](const DeliveredEdition& one) {
                  return std::tie(one.words.session, one.words.place, one.words.brief);
                };
                return rank(a) < rank(b);
              });
    for (std::size_t i = 0; i < delivery_.briefs.size(); ++i) places_[delivery_.briefs[i].words.brief] = i;
  }

  static bool isNewest(const ReceiptLine& line, const DeliveredEdition& brief) {
    return !brief.edition || line.edition == 0 || line.edition == brief.edition->version;
  }

  DeliveredFile fileOf(const CheckedFile& checked, std::size_t brief) const {
    DeliveredFile file;
    file.file = checked.name;
    file.key = checked.line->key;
    file.brief = brief;
    file.gainDb = checked.line->gainDb;
    const ReadBack* there = checked.there();
    file.isThere = there != nullptr;
    if (checked.made)
      file.made = *checked.made;
    else if (there != nullptr)
      file.made = toldByFile(*there);
    file.frames = there != nullptr ? there->figures.frames : file.made.figures.frames;
    if (there != nullptr) {
      file.levels = there->levels.rounded();
      file.bytes = there->bytes;
      file.picture = rooted(there->wave);
    }
    const std::string row = file.key.substr(std::min(file.key.size(), file.key.find('/') + 1));
    for (const MadeRemark& remark : file.made.remarks)
      file.remarks.push_back({remark, reasonFor(remark, row, delivery_.briefs[brief].accepted)});
    return file;
  }

  void giveFindings() {
    std::map<std::string, DeliveredFile*> byName;
    for (DeliveredFile& file : delivery_.files) byName[file.file] = &file;
    std::set<std::string> older;  // of earlier editions: nobody gets them now
    for (const CheckedFile& file : report_.files)
      if (!byName.contains(file.name)) older.insert(file.name);
    for (FileFinding& finding : report_.findings) {
      if (older.contains(finding.file)) continue;
      const auto file = byName.find(finding.file);
      (file == byName.end() ? delivery_.strangers : file->second->findings).push_back(std::move(finding));
    }
  }

  /// Rule of the order of files: spans by start, then longer first, then id; sources in the order of the
  /// brief.
  void putInOrder() {
    std::vector<std::map<std::string, std::size_t>> sources(delivery_.briefs.size());
    for (std::size_t b = 0; b < delivery_.briefs.size(); ++b)
      for (const std::string& key : delivery_.briefs[b].words.sources)
        sources[b].emplace(key, sources[b].size());
    struct Rank {
      std::tuple<std::size_t, double, double, std::string, std::size_t, std::string> order;
      std::size_t file;
    };
    std::vector<Rank> ranks;
    for (std::size_t i = 0; i < delivery_.files.size(); ++i) {
      const DeliveredFile& file = delivery_.files[i];
      const MadePlace& place = file.made.place;
      const double session = std::max(1, place.sessionRate), rate = std::max(1, file.made.rate);
      const double body =
          static_cast<double>(place.start) / session + static_cast<double>(place.leadIn) / rate;
      const auto source = sources[file.brief].find(file.sourceKey());
      const std::size_t last = sources[file.brief].size();
      ranks.push_back({{file.brief, body, -static_cast<double>(place.body) / rate, file.spanKey(),
                        source == sources[file.brief].end() ? last : source->second, file.file},
                       i});
    }
    std::sort(ranks.begin(), ranks.end(), [](const Rank& a, const Rank& b) { return a.order < b.order; });
    std::vector<DeliveredFile> files;
    for (const Rank& rank : ranks) files.push_back(std::move(delivery_.files[rank.file]));
    delivery_.files = std::move(files);
  }

  /// A file that was there a moment ago and is not any more stays without.
  void sumUp() {
    if (!request_.checksums) return;
    expectParts(job_, delivery_.files.size());
    inParallel(delivery_.files.size(), [&](std::size_t i) {
      DeliveredFile& file = delivery_.files[i];
      if (file.isThere && !isStopped(job_))
        if (const auto opened = folder_.openFile(file.file))
          if (auto sum = sha256Of(opened->get(), file.file, job_)) file.sha256 = std::move(*sum);
      finishPart(job_);
    });
  }

  const DeliveryRequest& request_;
  JobControl* job_;
  SafeFolder folder_;
  CheckReport report_;
  std::map<std::string, std::size_t> places_;  // of briefs, by id
  Delivery delivery_;
};

}  // namespace

std::string DeliveredFile::spanKey() const { return partOf(key, 1); }
std::string DeliveredFile::sourceKey() const { return partOf(key, 2); }

std::pair<std::string, std::string> DeliveredFile::formAndChannel() const {
  return {partOf(key, 3), partOf(key, 4)};
}

double DeliveredFile::seconds() const { return made.rate > 0 ? static_cast<double>(frames) / made.rate : 0; }

std::size_t Delivery::findings() const {
  const auto open = [](const std::vector<FileFinding>& findings) {
    return static_cast<std::size_t>(std::count_if(
        findings.begin(), findings.end(), [](const FileFinding& one) { return !one.accepted.has_value(); }));
  };
  return std::accumulate(
      files.begin(), files.end(), open(strangers),
      [&](std::size_t sum, const DeliveredFile& file) { return sum + open(file.findings); });
}

std::size_t Delivery::accepted() const {
  std::size_t all = strangers.size();
  for (const DeliveredFile& file : files) all += file.findings.size();
  return all - findings();
}

double Delivery::seconds() const {
  return std::accumulate(files.begin(), files.end(), 0.0,
                         [](double sum, const DeliveredFile& file) { return sum + file.seconds(); });
}

std::uint64_t Delivery::bytes() const {
  return std::accumulate(files.begin(), files.end(), std::uint64_t{0},
                         [](std::uint64_t sum, const DeliveredFile& file) { return sum + file.bytes; });
}

std::vector<std::string> Delivery::sessions() const {
  std::vector<std::string> names;
  for (const DeliveredEdition& brief : briefs)
    if (!brief.words.session.empty() &&
        std::find(names.begin(), names.end(), brief.words.session) == names.end())
      names.push_back(brief.words.session);
  return names;
}

Result<Delivery> readDelivery(const DeliveryRequest& request, JobControl* job) {
  CheckRequest check;
  check.base = request.base;
  check.briefs = request.briefs;
  check.measures = true;
  if (request.pictures) check.wave = kNotePoints;
  OCTAPHON_ASSIGN(CheckReport report, checkFolder(check, job));
  OCTAPHON_ASSIGN(SafeFolder folder, SafeFolder::open(request.base, false));
  return Reader(request, job, std::move(folder), std::move(report)).read();
}

}  // namespace octaphon
