// Material on its way into the window: new sessions from files, files for the open one, and media that were
// lost.
#pragma once

#include <QObject>
#include <QWidget>

#include "document.h"
#include "exchange/bring_in.h"
#include "media/media_facts.h"
#include "offer_bar.h"
#include "selection.h"

namespace octaphon::app {

class BringInFlow : public QObject {
  Q_OBJECT
 public:
  BringInFlow(Document& document, Selected& selected, OfferBar& offers, QWidget* window);

  /// Asks for files, or a folder; nothing where nothing was chosen.
  QStringList askForFiles();
  QStringList askForFolder();

  /// A session of these files, not saved yet: its name is that of their folder. False where none can be used.
  bool makeSession(const QStringList& files);
  /// Audio files become tracks, MIDI files tempo, tables regions.
  void add(const QStringList& files, Frame at);

  /// Looks for all media that are missing in a folder.
  void findMissing(const QString& folder, const MediaFacts& facts);
  void replaceMedium(const std::string& id, const QString& file);
  /// Regions and markers for any spreadsheet.
  void writeTable(const QString& file);
  void copyMediaBeside(const MediaFacts& facts);

 signals:
  void said(const QString& words);
  void problem(const QString& words);

 private:
  void offerMore(const BroughtIn& brought);
  void place(const BroughtIn& brought);
  void group(const std::vector<std::string>& tracks, const std::vector<GroupGuess>& guesses);
  bool addOthers(Session& session, const QStringList& files);
  void tell(QStringList lines);
  void tellRefused(const std::vector<Error>& refused);
  void tellProblems(const BroughtIn& brought);

  Document& document_;
  Selected& selected_;
  OfferBar& offers_;
  QWidget* window_;
};

}  // namespace octaphon::app
