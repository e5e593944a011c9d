// Sessions come and go: opened, made, saved, brought back after a crash; nothing that is not saved is lost on
// the way.
#pragma once

#include <filesystem>
#include <functional>
#include <memory>
#include <QObject>
#include <set>

#include "app/bring_in/bring_in_flow.h"
#include "app/commands/commands.h"
#include "app/look/offer_bar.h"

namespace octaphon::app {

class SessionFlow : public QObject {
  Q_OBJECT
 public:
  using Then = std::function<void()>;
  SessionFlow(Work& work, BringInFlow& bringIn, OfferBar& offers, QWidget* window);

  /// Reads it while what is open stays; it takes its place when it is there.
  void open(const QString& file);
  void openDemo();
  void askForSession();
  /// A session without anything, not saved yet.
  void makeEmpty();
  /// A session of files and folders.
  void makeFrom(const QStringList& files);
  /// `then` is done once it is in its file; never where it cannot be.
  void save(Then then = {});
  void saveAs(Then then = {});
  void close();
  /// Offers all work that programs which are gone have left, one after the other.
  void offerRescue();
  /// Whether what is open can go, unasked.
  bool maySwitch() const;
  /// Does it once what is open may go: asks about what is not saved, saves it, waits for what is being saved.
  /// `otherwise` where it is to stay.
  void whenMaySwitch(Then then, Then otherwise = {});
  /// Files that were dropped on the window: a session is opened, others are brought in or become one.
  void drop(const QStringList& files);

 private:
  void clearMessages();
  void saveTo(const QString& file, SavedDocument saving, Then then);
  void takeOpened(const QString& file, const std::shared_ptr<Result<ReadDocument>>& read);
  void bringBack(const RescuedWork& kept);
  void takeBack(const RescuedWork& kept, const std::shared_ptr<Result<Session>>& session);
  bool isGivenUp() const;
  bool isUnplaced() const;

  Work& work_;
  BringInFlow& bringIn_;
  OfferBar& offers_;
  QWidget* window_;
  std::set<QString> unreadable_;            // kept work that was asked for in vain
  std::shared_ptr<const Session> givenUp_;  // it may go although it is not saved
  Then afterSaving_;
  std::filesystem::path proposed_;  // of a session that has no place of its own yet
};

void addSessionCommands(Commands& commands, SessionFlow& flow, BringInFlow& bringIn);

}  // namespace octaphon::app
