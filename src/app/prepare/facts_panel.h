// Facts of regions and clip sets in a table, chosen from a vocabulary.
#pragma once

#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QTableView>
#include <QTimer>

#include "app/prepare/facts_model.h"
#include "app/work/work.h"

namespace octaphon::app {

class FactsPanel : public QWidget {
  Q_OBJECT
 public:
  explicit FactsPanel(Work& work, QWidget* parent = nullptr);

 protected:
  bool eventFilter(QObject* watched, QEvent* event) override;
  void showEvent(QShowEvent* event) override;

 private:
  void layOut();
  void reload();
  void addFact();
  void copy() const;
  void bringVocabulary();
  void writeVocabularyTable();

  Work& work_;
  QLineEdit *filter_, *name_;
  QPushButton* vocabulary_;
  QLabel* words_;
  QTableView* table_;
  FactsModel* model_;
  QStringList more_;  // columns that no region has yet
  QTimer timer_;
};

}  // namespace octaphon::app
