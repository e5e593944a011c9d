// The session that is open, and every change of it as an undoable command with words.
#pragma once

#include <functional>
#include <memory>
#include <optional>
#include <QObject>
#include <QUndoStack>

#include "base/job_control.h"
#include "base/result.h"
#include "edit/patch.h"
#include "media/media_facts.h"
#include "session/session.h"
#include "session/session_lock.h"

namespace octaphon::app {

/// A session as it was read from its file, which is locked with it where no other program has it.
struct ReadDocument {
  Session session;
  std::optional<SessionLock> lock;  ///< none: another program has it open
};

/// A session on its way to its file.
struct SavedDocument {
  std::shared_ptr<const Session> session;  ///< as it was when saving began
  std::filesystem::path file;              ///< that it goes to
  bool mayReplace = true;                  ///< whether a file may be there
  bool needsLock = false;
  std::optional<SessionLock> lock;  ///< of the file, where it needed one
  unsigned opening = 0;             ///< which session of the document it is
};

class Document : public QObject {
  Q_OBJECT
 public:
  explicit Document(QObject* parent = nullptr);

  bool isOpen() const { return session_ != nullptr; }
  /// Never null; an empty session when none is open. Values do not change: an edit puts another one in its
  /// place.
  std::shared_ptr<const Session> session() const { return session_ ? session_ : empty_; }
  QUndoStack& undoStack() { return undo_; }
  const QUndoStack& undoStack() const { return undo_; }
  bool isModified() const { return !undo_.isClean(); }
  /// Whether another program has the same session open: then it is not saved over it.
  bool isShared() const { return shared_; }
  /// Whether the session's file was never written.
  bool isNew() const { return new_; }

  /// Reads a session, from any thread; Cancelled where the job was stopped.
  static Result<ReadDocument> read(const std::filesystem::path& file, JobControl* job = nullptr);
  void open(ReadDocument read);
  /// A session that was made or brought back here: it counts as changed until it is saved.
  void adopt(Session session, bool isNew);
  /// Writes down what the media were when they were last seen, so that they can be found again. No edit: it
  /// goes along with the next saving.
  void noteMedia(const MediaFacts& facts);
  /// What is to be written of the session as it is now; `file` is empty for its own.
  SavedDocument beginSaving(const std::filesystem::path& file = {}) const;
  /// Writes it, from any thread. Occupied for a new session whose name is taken; Busy where another program
  /// has it open; Cancelled where the job was stopped, and nothing is written.
  static Result<SavedDocument> write(SavedDocument saving, JobControl* job = nullptr);
  /// The session goes on under the name that it was written to, and what was done can still be undone. What
  /// was changed since it was begun is not saved. Nothing happens where another session is open by now.
  void noteSaved(SavedDocument saved);
  void close();

  using Change = std::function<void(Session& session)>;
  /// Applies a change as one step of undo; false, and no step, where it changed nothing. What is locked stays
  /// as it is. Edits with the same `merge` (not empty: it names the property and the things) in a row become
  /// one step, until endMerging().
  bool edit(const QString& words, const Change& change, const QString& merge = {});
  /// The next edit is a step of its own, whatever it is of.
  void endMerging() { mergeKey_.clear(); }

  using BriefChange = std::function<void(Brief& brief)>;
  /// Changes several briefs, by id, in one step.
  bool editBriefs(const std::vector<std::string>& ids, const QString& words, const BriefChange& change,
                  const QString& merge = {});
  /// Gives its id.
  std::string addBrief(Brief brief, const QString& words);
  void removeBriefs(const std::vector<std::string>& ids, const QString& words);

 signals:
  void opened();                 ///< another session, or none
  void moved();                  ///< the same session, under another name
  void changed(unsigned parts);  ///< SessionPart bits
  void modifiedChanged(bool modified);
  void leftLocked(std::size_t things);  ///< an edit would have changed them, but they are locked

 private:
  bool editParts(const QString& words, const Change& change, const QString& merge, unsigned parts);
  friend class PatchCommand;
  void put(std::shared_ptr<const Session> session, unsigned parts);
  void start(std::shared_ptr<const Session> session);
  static std::optional<SessionLock> lockOf(const std::filesystem::path& file);

  std::shared_ptr<const Session> session_;
  std::shared_ptr<const Session> empty_ = std::make_shared<Session>();
  QUndoStack undo_;
  SessionLock lock_;
  bool shared_ = false;
  bool new_ = false;
  unsigned opening_ = 0;                      // counts the sessions that were open
  QString mergeKey_;                          // of the latest edit, while more may join it
  std::shared_ptr<const Session> mergeBase_;  // before the first that it was joined to
};

}  // namespace octaphon::app
