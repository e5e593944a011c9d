#include "app/work/document.h"

#include <algorithm>
#include <QUndoCommand>

#include "edit/locks.h"
#include "session/session_file.h"

namespace octaphon::app {

constexpr int kMostSteps = 1000;

namespace {

/// A path of a medium that was told from one folder, told from another: media stay where they are.
void pointFrom(Medium& medium, const std::filesystem::path& before, const std::filesystem::path& after) {
  medium.file = (std::filesystem::absolute(before) / medium.file)
                    .lexically_normal()
                    .lexically_relative(std::filesystem::absolute(after).lexically_normal())
                    .string();
}

/// Media stay where they are, however the session names them.
void moveTo(Session& session, const std::filesystem::path& file) {
  const auto before = session.folder();
  session.file = file;
  if (session.folder() == before) return;
  for (Medium& medium : session.media) pointFrom(medium, before, session.folder());
}

}  // namespace

class PatchCommand : public QUndoCommand {
 public:
  /// `joins`: it continues the command before it.
  PatchCommand(Document& document, SessionPatch patch, const QString& words, QString merge, bool joins)
      : QUndoCommand(words),
        document_(document),
        patch_(std::move(patch)),
        folder_(document.session_->folder()),
        merge_(std::move(merge)),
        joins_(joins) {}

  void undo() override {
    apply([this](Session& session) { patch_.undo(session); });
  }

  void redo() override {
    if (std::exchange(isFresh_, false)) return;  // what it does has just been done
    apply([this](Session& session) { patch_.redo(session); });
  }

  int id() const override { return merge_.isEmpty() ? -1 : 1; }

  bool mergeWith(const QUndoCommand* other) override {
    const auto* next = static_cast<const PatchCommand*>(other);
    if (!next->joins_ || next->merge_ != merge_) return false;
    patch_ = SessionPatch(*document_.mergeBase_, *document_.session_, patch_.parts() | next->patch_.parts());
    folder_ = document_.session_->folder();
    setObsolete(patch_.empty());
    if (patch_.empty()) document_.endMerging();  // the command before it is another one
    return true;
  }

 private:
  template <class Change>
  void apply(const Change& change) {
    auto session = std::make_shared<Session>(*document_.session_);
    if (const auto now = session->folder(); now != folder_) {
      patch_.forEachMedium([&](Medium& medium) { pointFrom(medium, folder_, now); });
      folder_ = now;
    }
    change(*session);
    document_.endMerging();
    document_.put(std::move(session), patch_.parts());
  }

  Document& document_;
  SessionPatch patch_;
  std::filesystem::path folder_;  // its media are told from here
  QString merge_;
  bool joins_;
  bool isFresh_ = true;
};

Document::Document(QObject* parent) : QObject(parent) {
  undo_.setUndoLimit(kMostSteps);
  connect(&undo_, &QUndoStack::cleanChanged, this, [this](bool clean) { emit modifiedChanged(!clean); });
}

void Document::start(std::shared_ptr<const Session> session) {
  session_ = std::move(session);
  ++opening_;
  mergeKey_.clear();
  mergeBase_.reset();
  undo_.clear();
}

std::optional<SessionLock> Document::lockOf(const std::filesystem::path& file) {
  auto lock = SessionLock::take(file);
  return lock ? std::optional(std::move(*lock)) : std::nullopt;
}

Result<ReadDocument> Document::read(const std::filesystem::path& file, JobControl* job) {
  OCTAPHON_ASSIGN(Session session, loadSession(file, job));
  return ReadDocument{std::move(session), lockOf(file)};
}

void Document::open(ReadDocument read) {
  std::error_code error;
  const bool isAgain = !read.lock && lock_.isHeld() && session_ &&
                       std::filesystem::equivalent(session_->file, read.session.file, error);
  if (!isAgain) lock_ = std::move(read.lock).value_or(SessionLock());
  shared_ = !isAgain && !read.lock;
  new_ = false;
  start(std::make_shared<Session>(std::move(read.session)));
  emit opened();
}

void Document::adopt(Session session, bool isNew) {
  lock_.release();
  new_ = isNew;
  shared_ = false;
  if (!isNew) {
    auto lock = lockOf(session.file);
    shared_ = !lock;
    if (lock) lock_ = std::move(*lock);
  }
  start(std::make_shared<Session>(std::move(session)));
  undo_.resetClean();
  emit opened();
  emit modifiedChanged(true);
}

void Document::noteMedia(const MediaFacts& facts) {
  auto noted = std::make_shared<Session>(*session_);
  for (Medium& medium : noted->media) {
    const MediumFact* fact = facts.find(medium.id);
    if (fact == nullptr || fact->state != MediumFact::State::Ready) continue;
    medium.frames = fact->info.frames;
    medium.rate = fact->info.rate;
    medium.content = fact->content.hex();
  }
  session_ = std::move(noted);
}

SavedDocument Document::beginSaving(const std::filesystem::path& file) const {
  SavedDocument saving;
  saving.session = session_;
  saving.file = file.empty() ? session_->file : file;
  saving.mayReplace = !new_ || !file.empty();
  saving.needsLock = saving.file != session_->file || !lock_.isHeld();
  saving.opening = opening_;
  return saving;
}

Result<SavedDocument> Document::write(SavedDocument saving, JobControl* job) {
  std::error_code error;
  if (!saving.mayReplace && std::filesystem::exists(saving.file, error))
    return fail(ErrorCode::Occupied, saving.file.string(), "there is a file of this name already",
                "Save under another name");
  Session session = *saving.session;
  moveTo(session, saving.file);
  if (saving.needsLock) {
    OCTAPHON_ASSIGN(saving.lock, SessionLock::take(saving.file));
  }
  OCTAPHON_TRY(saveSession(session, saving.file, job));
  return saving;
}

void Document::noteSaved(SavedDocument saved) {
  if (saved.opening != opening_) return;
  const bool isSame = session_ == saved.session;
  const bool isMoved = session_->file != saved.file;
  if (saved.lock) lock_ = std::move(*saved.lock);
  shared_ = new_ = false;
  if (isMoved) {
    auto session = std::make_shared<Session>(*session_);
    moveTo(*session, saved.file);
    session_ = std::move(session);
  }
  endMerging();
  mergeBase_.reset();
  if (isSame)
    undo_.setClean();
  else
    undo_.resetClean();  // what is in the file is none of the steps any more
  if (isMoved) emit moved();
}

void Document::close() {
  lock_.release();
  shared_ = new_ = false;
  start(nullptr);
  emit opened();
}

void Document::put(std::shared_ptr<const Session> session, unsigned parts) {
  session_ = std::move(session);
  emit changed(parts);
}

bool Document::edit(const QString& words, const Change& change, const QString& merge) {
  return editParts(words, change, merge, kAllParts);
}

/// Nothing else is changed: in a large session it would take long to see so.
bool Document::editParts(const QString& words, const Change& change, const QString& merge, unsigned parts) {
  if (!session_) return false;
  auto after = std::make_shared<Session>(*session_);
  change(*after);
  const std::size_t locked = parts == kBriefs ? 0 : keepLocked(*session_, *after);  // briefs have no locks
  SessionPatch patch(*session_, *after, parts);
  const bool changes = !patch.empty();
  if (changes) {
    const bool joins = !merge.isEmpty() && merge == mergeKey_;
    if (!joins) mergeBase_ = merge.isEmpty() ? nullptr : session_;
    mergeKey_ = merge;
    const unsigned differing = patch.parts();
    session_ = std::move(after);
    undo_.push(new PatchCommand(*this, std::move(patch), words, merge, joins));
    emit changed(differing);
  }
  if (locked > 0) emit leftLocked(locked);
  return changes;
}

bool Document::editBriefs(const std::vector<std::string>& ids, const QString& words,
                          const BriefChange& change, const QString& merge) {
  const auto changeAll = [&](Session& session) {
    for (Brief& brief : session.briefs)
      if (std::find(ids.begin(), ids.end(), brief.id) != ids.end()) change(brief);
  };
  return editParts(words, changeAll, merge, kBriefs);
}

std::string Document::addBrief(Brief brief, const QString& words) {
  edit(words, [&](Session& session) {
    const auto taken = [&](const std::string& id) {
      return std::any_of(session.briefs.begin(), session.briefs.end(),
                         [&](const Brief& b) { return b.id == id; });
    };
    int number = 1;
    while (taken("brief-" + std::to_string(number))) ++number;
    brief.id = "brief-" + std::to_string(number);
    session.briefs.push_back(brief);
  });
  return brief.id;
}

void Document::removeBriefs(const std::vector<std::string>& ids, const QString& words) {
  edit(words, [&](Session& session) {
    std::erase_if(session.briefs, [&](const Brief& brief) {
      return std::find(ids.begin(), ids.end(), brief.id) != ids.end();
    });
  });
}

}  // namespace octaphon::app
