#include "document.h"

#include <QUndoCommand>

#include "session/session_file.h"

namespace octaphon::app {

class BriefsCommand : public QUndoCommand {
 public:
  BriefsCommand(Document& document, std::vector<Brief> after, const QString& words, const QString& merge)
      : QUndoCommand(words),
        document_(document),
        before_(document.session()->briefs),
        after_(std::move(after)),
        merge_(merge) {}

  void undo() override { document_.setBriefs(before_); }
  void redo() override { document_.setBriefs(after_); }
  int id() const override { return merge_.isEmpty() ? -1 : 1; }

  bool mergeWith(const QUndoCommand* other) override {
    const auto* next = static_cast<const BriefsCommand*>(other);
    if (next->merge_ != merge_) return false;
    after_ = next->after_;
    setObsolete(after_ == before_);
    return true;
  }

 private:
  Document& document_;
  std::vector<Brief> before_;
  std::vector<Brief> after_;
  QString merge_;
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
  connect(&undo_, &QUndoStack::cleanChanged, this, [this](bool clean) { emit modifiedChanged(!clean); });
}

Result<> Document::open(const QString& file) {
  OCTAPHON_ASSIGN(Session session, loadSession(file.toStdString()));
  session_ = std::make_shared<Session>(std::move(session));
  undo_.clear();
  emit opened();
  return {};
}

Result<> Document::save() { return saveAs(QString::fromStdString(session_->file.string())); }

Result<> Document::saveAs(const QString& file) {
  auto saved = std::make_shared<Session>(*session_);
  saved->file = file.toStdString();
  if (saved->folder() != session_->folder()) pointMediaFrom(*saved, session_->folder());
  OCTAPHON_TRY(saveSession(*saved, saved->file));
  const bool moved = saved->file != session_->file;
  session_ = std::move(saved);
  undo_.setClean();
  if (moved) emit opened();
  return {};
}

void Document::close() {
  session_.reset();
  undo_.clear();
  emit opened();
}

void Document::setBriefs(std::vector<Brief> briefs) {
  auto changed = std::make_shared<Session>(*session_);
  changed->briefs = std::move(briefs);
  session_ = std::move(changed);
  emit briefsChanged();
}

void Document::push(std::vector<Brief> after, const QString& words, const QString& merge) {
  if (after == session_->briefs) return;
  undo_.push(new BriefsCommand(*this, std::move(after), words, merge));
}

void Document::editBrief(std::size_t index, Brief brief, const QString& words, const QString& merge) {
  std::vector<Brief> after = session_->briefs;
  after[index] = std::move(brief);
  push(std::move(after), words, merge);
}

std::size_t Document::addBrief(Brief brief, const QString& words) {
  std::vector<Brief> after = session_->briefs;
  int number = 1;
  const auto taken = [&](const std::string& id) {
    return std::any_of(after.begin(), after.end(), [&](const Brief& b) { return b.id == id; });
  };
  while (taken("brief-" + std::to_string(number))) ++number;
  brief.id = "brief-" + std::to_string(number);
  after.push_back(std::move(brief));
  push(std::move(after), words, {});
  return session_->briefs.size() - 1;
}

void Document::removeBrief(std::size_t index, const QString& words) {
  std::vector<Brief> after = session_->briefs;
  after.erase(after.begin() + static_cast<std::ptrdiff_t>(index));
  push(std::move(after), words, {});
}

}  // namespace octaphon::app
