// The session that is open, and every change of it as an undoable command with words.
#pragma once

#include <functional>
#include <memory>
#include <QObject>
#include <QUndoStack>

#include "base/result.h"
#include "session/session.h"

namespace octaphon::app {

class Document : public QObject {
  Q_OBJECT
 public:
  explicit Document(QObject* parent = nullptr);

  bool isOpen() const { return session_ != nullptr; }
  /// Never null; an empty session when none is open. Values do not change: an edit puts another one in its
  /// place.
  std::shared_ptr<const Session> session() const { return session_ ? session_ : empty_; }
  QUndoStack& undoStack() { return undo_; }
  bool isModified() const { return !undo_.isClean(); }

  Result<> open(const QString& file);
  Result<> save();
  Result<> saveAs(const QString& file);
  void close();

  /// Replaces a brief. Edits with the same `merge` (not empty) in a row become one step of undo.
  void editBrief(std::size_t index, Brief brief, const QString& words, const QString& merge = {});
  std::size_t addBrief(Brief brief, const QString& words);
  void removeBrief(std::size_t index, const QString& words);

 signals:
  void opened();         ///< another session, or none
  void briefsChanged();  ///< their content, number or order
  void modifiedChanged(bool modified);

 private:
  friend class BriefsCommand;
  void setBriefs(std::vector<Brief> briefs);
  void push(std::vector<Brief> after, const QString& words, const QString& merge);

  std::shared_ptr<const Session> session_;
  std::shared_ptr<const Session> empty_ = std::make_shared<Session>();
  QUndoStack undo_;
};

}  // namespace octaphon::app
