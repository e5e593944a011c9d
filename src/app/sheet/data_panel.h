// What the file of the selected row will say of itself, field by field, and what the one that is there says.
#pragma once

#include <QLabel>
#include <QTreeWidget>

#include "app/work/asker.h"
#include "app/work/work.h"
#include "formats/file_facts.h"

namespace octaphon::app {

class DataPanel : public QWidget {
  Q_OBJECT
 public:
  DataPanel(Work& work, QWidget* parent = nullptr);

 protected:
  void showEvent(QShowEvent* event) override;
  void hideEvent(QHideEvent* event) override;

 private:
  void reload();
  std::optional<Asker<FileFacts>::Work> question() const;
  void fill();

  Work& work_;
  QLabel* words_;
  QTreeWidget* lines_;
  FileFacts planned_;
  std::filesystem::path file_;  // of the row; empty: it has none
  Asker<FileFacts> there_;
};

}  // namespace octaphon::app
