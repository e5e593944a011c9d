// Briefs into files and out of them: what a file's briefs find in the session is told before they are taken.
#pragma once

#include <QObject>

#include "app/commands/commands.h"
#include "app/look/offer_bar.h"
#include "session/brief_file.h"

namespace octaphon::app {

class BriefFlow : public QObject {
  Q_OBJECT
 public:
  BriefFlow(Work& work, OfferBar& offers, QWidget* window);

  void save();
  void saveTo(const QString& file);
  void askForFile();
  /// Tells what would come of it, and offers to take them over.
  void offer(const QString& file);

 private:
  QString folder() const;
  void take(const BriefFile& file);

  Work& work_;
  OfferBar& offers_;
  QWidget* window_;
};

void addBriefFileCommands(Commands& commands, BriefFlow& flow);

}  // namespace octaphon::app
