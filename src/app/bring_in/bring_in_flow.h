// Material on its way into the window: new sessions from files, files for the open one, and media that were
// lost.
#pragma once

#include <filesystem>
#include <functional>
#include <map>
#include <QObject>
#include <QWidget>

#include "app/commands/commands.h"
#include "app/look/offer_bar.h"
#include "exchange/bring_in.h"
#include "exchange/incoming_files.h"

namespace octaphon::app {

/// What is in files that are to come into the session.
struct ReadFiles {
  IncomingFiles sounds;
  OtherFiles others;
  bool isStopped = false;
};

class BringInFlow : public QObject {
  Q_OBJECT
 public:
  BringInFlow(Work& work, OfferBar& offers, QWidget* window);

  /// Asks for files, or a folder; nothing where nothing was chosen.
  QStringList askForFiles();
  QStringList askForFolder();

  /// A session of these files, not saved yet: its name is that of their folder. Once they were looked into,
  /// `ask` is given what puts it in the place of what is open.
  void makeSession(const QStringList& files, std::function<void(std::function<void()> adopt)> ask);
  /// Audio files become tracks, MIDI files tempo, tables regions, in the session as it is once they were
  /// looked into.
  void add(const QStringList& files, Frame at);

  /// Looks for all media that are missing in a folder, which is asked for.
  void findMissing();
  /// Every clip that plays the medium of the selected one plays another file, which is asked for.
  void replaceMedium();
  /// Regions and markers for any spreadsheet, into a file that is asked for.
  void writeTable();
  void copyMediaBeside();

 private:
  void joinTakesOf(const BroughtIn& brought);
  void offerMore(const BroughtIn& brought);
  void place(const BroughtIn& brought);
  void group(const std::vector<std::string>& tracks, const std::vector<GroupGuess>& guesses);
  void read(const QStringList& files, std::function<void(const ReadFiles& read)> then);
  void adopt(Session session, const ReadFiles& read);
  void point(const QString& words, const Session& before,
             const std::map<std::string, std::filesystem::path>& files);
  void tell(QStringList lines);
  void tellRefused(const std::vector<Error>& refused);
  void tellProblems(const BroughtIn& brought);

  Work& work_;
  Document& document_;
  Selected& selected_;
  OfferBar& offers_;
  QWidget* window_;
};

void addBringInCommands(Commands& commands, BringInFlow& flow);

}  // namespace octaphon::app
