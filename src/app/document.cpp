#include "document.h"

#include <QUndoCommand>

#include "session/session_file.h"

namespace octaphon::app {

constexpr int kMostSteps = 1000;

class PatchCommand : public QUndoCommand {
 public:
  PatchCommand(Document& document, SessionPatch patch, const QString& words, QString merge)
      : QUndoCommand(words), document_(document), patch_(std::move(patch)), merge_(std::move(merge)) {}

  void undo() override {
    auto session = std::make_shared<Session>(*document_.session_);
    patch_.undo(*session);
    document_.mergeKey_.clear();
    document_.put(std::move(session), patch_.parts());
  }

  void redo() override {
    if (std::exchange(isFresh_, false)) return;  // what it does has just been done
    auto session = std::make_shared<Session>(*document_.session_);
    patch_.redo(*session);
    document_.mergeKey_.clear();
    document_.put(std::move(session), patch_.parts());
  }

  int id() const override { return merge_.isEmpty() ? -1 : 1; }

  bool mergeWith(const QUndoCommand* other) override {
    const auto* next = static_cast<const PatchCommand*>(other);
    if (next->merge_ != merge_ || !document_.mergeBase_) return false;
    patch_ = SessionPatch(*document_.mergeBase_, *document_.session_);
    setObsolete(patch_.empty());
    return true;
  }

 private:
  Document& document_;
  SessionPatch patch_;
  QString merge_;
  bool isFresh_ = true;
};

namespace {

/// Media stay where they are; their paths are told from the session's new folder.
void pointMediaFrom(Session& session, const std::filesystem::path& before) {
  const std::filesystem::path target = std::filesystem::absolute(session.folder());
  for (Medium& medium : session.media)
    medium.file = (std::filesystem::absolute(before) / medium.file)
                      .lexically_normal()
                      .lexically_relative(target.lexically_normal())
                      .string();
}

}  // namespace

Document::Document(QObject* parent) : QObject(parent) {
  undo_.setUndoLimit(kMostSteps);
  connect(&undo_, &QUndoStack::cleanChanged, this, [this](bool clean) { emit modifiedChanged(!clean); });
}

void Document::start(std::shared_ptr<const Session> session) {
  session_ = std::move(session);
  mergeKey_.clear();
  mergeBase_.reset();
  undo_.clear();
}

Result<> Document::open(const QString& file) {
  OCTAPHON_ASSIGN(Session session, loadSession(file.toStdString()));
  lock_.release();
  auto lock = SessionLock::take(session.file);
  shared_ = !lock;
  if (lock) lock_ = std::move(*lock);
  new_ = false;
  start(std::make_shared<Session>(std::move(session)));
  emit opened();
  return {};
}

void Document::adopt(Session session, bool isNew) {
  lock_.release();
  new_ = isNew;
  shared_ = false;
  if (!isNew) {
    auto lock = SessionLock::take(session.file);
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

Result<> Document::save() {
  std::error_code error;
  if (new_ && std::filesystem::exists(session_->file, error))
    return fail(ErrorCode::Occupied, session_->file.string(), "there is a file of this name already",
                "Save under another name");
  return saveAs(QString::fromStdString(session_->file.string()));
}

Result<> Document::saveAs(const QString& file) {
  auto saved = std::make_shared<Session>(*session_);
  saved->file = file.toStdString();
  if (saved->folder() != session_->folder()) pointMediaFrom(*saved, session_->folder());
  const bool moved = saved->file != session_->file;
  if (moved || !lock_.isHeld()) {
    OCTAPHON_ASSIGN(SessionLock lock, SessionLock::take(saved->file));
    OCTAPHON_TRY(saveSession(*saved, saved->file));
    lock_ = std::move(lock);
  } else {
    OCTAPHON_TRY(saveSession(*saved, saved->file));
  }
  shared_ = new_ = false;
  session_ = std::move(saved);
  mergeKey_.clear();
  mergeBase_.reset();
  undo_.setClean();
  if (moved) emit opened();
  return {};
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
  if (!session_) return false;
  auto after = std::make_shared<Session>(*session_);
  change(*after);
  SessionPatch patch(*session_, *after);
  if (patch.empty()) return false;
  const bool joins = !merge.isEmpty() && merge == mergeKey_;
  if (!joins) mergeBase_ = merge.isEmpty() ? nullptr : session_;
  mergeKey_ = merge;
  const unsigned parts = patch.parts();
  session_ = std::move(after);
  undo_.push(new PatchCommand(*this, std::move(patch), words, merge));
  emit changed(parts);
  return true;
}

void Document::editBrief(std::size_t index, Brief brief, const QString& words, const QString& merge) {
  edit(
      words, [&](Session& session) { session.briefs[index] = std::move(brief); }, merge);
}

std::size_t Document::addBrief(Brief brief, const QString& words) {
  edit(words, [&](Session& session) {
    int number = 1;
    const auto taken = [&](const std::string& id) {
      return std::any_of(session.briefs.begin(), session.briefs.end(),
                         [&](const Brief& b) { return b.id == id; });
    };
    while (taken("brief-" + std::to_string(number))) ++number;
    brief.id = "brief-" + std::to_string(number);
    session.briefs.push_back(std::move(brief));
  });
  return session_->briefs.size() - 1;
}

void Document::removeBrief(std::size_t index, const QString& words) {
  edit(words, [&](Session& session) {
    session.briefs.erase(session.briefs.begin() + static_cast<std::ptrdiff_t>(index));
  });
}

}  // namespace octaphon::app
