#include "app/work/seam_listener.h"

#include "check/file_seam.h"
#include "naming/file_name.h"
#include "run/region_seam.h"

namespace octaphon::app {
namespace {

constexpr std::size_t kMostVariations = 64;

/// Regions whose names differ in their number alone.
std::vector<Region> variationsOf(const Region& region, const Session& session) {
  std::vector<Region> variations;
  for (const Region& each : session.regions)
    if (baseName(each.name) == baseName(region.name) && variations.size() < kMostVariations)
      variations.push_back(each);
  if (variations.size() < 2) variations.clear();
  return variations;
}

}  // namespace

SeamListener::SeamListener(SheetKeeper& sheets, Selected& selected, RowChoice& rows, MediaCache& cache,
                           PluginPasses& passes, QObject* parent)
    : QObject(parent),
      sheets_(sheets),
      selected_(selected),
      rows_(rows),
      cache_(cache),
      passes_(passes),
      asker_([this] { return question(); }, [this] { takeAnswer(); }),
      placeAsker_([this] { return placeQuestion(); }, [this] { emit looked(); }) {
  placeAsker_.setWanted(true);
  connect(&selected_, &Selected::changed, this, [this] {
    if (of() == Of::Mix) asker_.ask();
  });
  connect(&rows_, &RowChoice::changed, this, [this] {
    if (wanted_ == Of::File) return asker_.ask();
    emit changed();
  });
  connect(&sheets_, &SheetKeeper::sheetChanged, this, [this] { asker_.ask(); });
}

void SeamListener::setOf(Of of) {
  if (wanted_ == of) return;
  wanted_ = of;
  asker_.ask();
}

void SeamListener::setSearchMs(double searchMs) {
  if (searchMs_ == searchMs) return;
  searchMs_ = searchMs;
  asker_.ask();
}

std::optional<std::size_t> SeamListener::fileRow() const {
  const auto row = rows_.currentRow();
  if (!row) return std::nullopt;
  const RowState state = sheets_.sheet()->rows[*row].state;
  return state == RowState::ToMake || state == RowState::Fault ? std::nullopt : row;
}

std::optional<Asker<HeardSeam>::Work> SeamListener::question() {
  if (!sheets_.session() || !sheets_.facts()) return std::nullopt;
  return of() == Of::File ? ofFile(*fileRow()) : ofRegion();
}

std::optional<Asker<HeardSeam>::Work> SeamListener::ofRegion() {
  const Region* region = selected_.firstRegion(*sheets_.session());
  if (region == nullptr) return std::nullopt;
  subject_ = region->id;
  RegionSeamQuestion question{
      sheets_.session(), sheets_.facts(), sheets_.plugins(), &passes_, {region->start, region->length},
      searchMs_};
  return [question = std::move(question), variations = variationsOf(*region, *sheets_.session()),
          &cache = cache_](const std::atomic<bool>& cancel) mutable -> Result<HeardSeam> {
    OCTAPHON_ASSIGN(FoundSeam found, seamOf(question, cache, cancel));
    HeardSeam heard{std::move(found), {}};
    for (const Region& variation : variations) {
      question.place = {variation.start, variation.length};
      const auto ms = firstOnsetOf(question, cache, cancel);
      if (!ms && cancel) return tl::unexpected(ms.error());
      // What is wrong with another one is no reason to show nothing of this one.
      heard.variations.push_back({variation.name, ms.value_or(std::nullopt)});
    }
    return heard;
  };
}

std::optional<Asker<HeardSeam>::Work> SeamListener::ofFile(std::size_t index) {
  const Sheet& sheet = *sheets_.sheet();
  const Row& row = sheet.rows[index];
  subject_ = row.file;
  // By the loop that the file names itself: where it is stale, the row is of another length by now.
  return [file = sheet.briefOf(row).base.full() / row.file,
          overlaps = sheet.endsOf(row).loop.asked.way == LoopWay::Overlap,
          searchMs = searchMs_](const std::atomic<bool>&) -> Result<HeardSeam> {
    OCTAPHON_ASSIGN(FoundSeam found, overlaps ? overlapSeamOf(file) : seamOf(file, std::nullopt, searchMs));
    return HeardSeam{std::move(found), {}, overlaps};
  };
}

/// Another place stays looked at while it is of the same thing, which has not been moved itself.
void SeamListener::takeAnswer() {
  if (const auto answer = found()) {
    const bool isSame = judged_ == subject_ && judgedPlace_ == answer->place;
    if (!isSame || !answer->heard.holds(place_)) place_ = answer->place;
    judged_ = subject_;
    judgedPlace_ = answer->place;
    placeAsker_.ask();
  }
  emit changed();
}

void SeamListener::lookAt(LoopPlace place) {
  const auto answer = found();
  if (!answer || place == place_ || !answer->heard.holds(place)) return;
  place_ = place;
  placeAsker_.ask();
  emit looked();
}

std::optional<Asker<Seam>::Work> SeamListener::placeQuestion() const {
  const auto answer = found();
  if (!answer || place_ == answer->place) return std::nullopt;
  return [answer, place = place_](const std::atomic<bool>&) -> Result<Seam> {
    return answer->heard.seamAt(place);
  };
}

const Seam* SeamListener::seam() const {
  const auto answer = found();
  if (!answer) return nullptr;
  return place_ == answer->place ? &answer->seam : placeAsker_.answer().get();
}

}  // namespace octaphon::app
