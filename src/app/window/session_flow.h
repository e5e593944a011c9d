// Sessions come and go: opened, made, saved, brought back after a crash; nothing that is not saved is lost on
// the way.
#pragma once

#include <filesystem>
#include <QObject>
#include <set>

#include "app/bring_in/bring_in_flow.h"
#include "app/commands/commands.h"
#include "app/look/offer_bar.h"

namespace octaphon::app {

class SessionFlow : public QObject {
  Q_OBJECT
 public:
  SessionFlow(Work& work, BringInFlow& bringIn, OfferBar& offers, QWidget* window);

  /// False where it was not opened: it cannot be, or what is open was to be kept.
  bool open(const QString& file);
  bool openDemo();
  void askForSession();
  /// A session without anything, not saved yet.
  bool makeEmpty();
  /// A session of files and folders.
  bool makeFrom(const QStringList& files);
  bool save();
  bool saveAs();
  void close();
  /// Offers all work that programs which are gone have left, one after the other.
  void offerRescue();
  /// Whether what is open may go: asks about what is not saved.
  bool maySwitch();
  /// Files that were dropped on the window: a session is opened, others are brought in or become one.
  void drop(const QStringList& files);

 private:
  void clearMessages();
  bool saveUnder(const QString& file);
  void bringBack(const RescuedWork& kept);
  bool isUnplaced() const;

  Work& work_;
  BringInFlow& bringIn_;
  OfferBar& offers_;
  QWidget* window_;
  std::set<QString> unreadable_;    // kept work that was asked for in vain
  std::filesystem::path proposed_;  // of a session that has no place of its own yet
};

void addSessionCommands(Commands& commands, SessionFlow& flow, BringInFlow& bringIn);

}  // namespace octaphon::app
