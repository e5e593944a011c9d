// What came of making files: those that could not be made, whether layers add up, span by span, and what was
// found of their sound. A line leads to its span.
#pragma once

#include <optional>
#include <QLabel>
#include <QPushButton>
#include <QTreeWidget>
#include <QWidget>

#include "app/commands/commands.h"

namespace octaphon::app {

class ProofPanel : public QWidget {
  Q_OBJECT
 public:
  ProofPanel(Work& work, Commands& commands, QWidget* parent = nullptr);

  QTreeWidget& table() { return *table_; }

 private:
  struct Line {
    QString key;  ///< what was measured: brief and span, or file
    QStringList texts;
    double figure;  ///< to sort by
    bool isFault;
    PlannedSpan span;
    std::optional<MadeSum> sum;  ///< none: a file
  };
  /// A newer measurement takes the place of the older one.
  void take(const MadeReport& report);
  void clear();
  void reload();

  Work& work_;
  std::vector<Line> lines_;
  QTreeWidget* table_;
  QLabel* words_;
  QPushButton* again_;
};

/// In words, over several spans: `layers add up in 6 spans (−187 dB at most)`; empty where nothing was
/// judged.
QString sumsText(const std::vector<MadeSum>& sums);

}  // namespace octaphon::app
