// A selection as lines: what is taken in and left out, by rules and by hand.
#pragma once

#include <functional>
#include <QComboBox>
#include <QToolButton>
#include <QVBoxLayout>
#include <QWidget>
#include <vector>

#include "plan/selection_words.h"

namespace octaphon::app {

/// What a selection is about, and how its rules are called.
struct SelectionSubject {
  QString title;  ///< above the lines: `Regions`
  struct Rule {
    PickBy by;
    QString label;          ///< `in group`
    bool isListed = false;  ///< the value is one of those offered
  };
  QList<Rule> rules;
  /// What a rule may go by: shown text and value.
  std::function<QList<std::pair<QString, QString>>(PickBy)> values;
  std::function<PickedKind()> kind;
};

class SelectionLines : public QWidget {
  Q_OBJECT
 public:
  SelectionLines(SelectionSubject subject, QWidget* parent);

  void show(const Selection& selection);

 signals:
  /// Changes of one `property` (not empty) in a row are one step.
  void edited(const octaphon::Selection& selection, const QString& property);

 protected:
  void keyPressEvent(QKeyEvent* event) override;

 private:
  struct Line {
    QWidget* widget = nullptr;
    QToolButton* way = nullptr;                 // checked: out
    QComboBox *by = nullptr, *value = nullptr;  // not of things by hand
    std::size_t first = 0, count = 0;           // picks; none while it has no value yet
  };
  void arrange();
  void addLine(std::size_t first, std::size_t count);
  void addPending();
  void fill(Line& line);
  void fillValues(const Line& line, PickBy by, const QString& shown);
  QToolButton* addWay(const Line& line, std::size_t index);
  static void showWay(const Line& line, bool out);
  void take(std::size_t line);
  void remove(std::size_t line);
  const SelectionSubject::Rule& ruleOf(const Line& line) const;
  static std::string valueOf(const Line& line, bool isListed);

  SelectionSubject subject_;
  Selection selection_;
  std::vector<std::pair<int, std::size_t>> arranged_;  // what the lines are made of
  std::vector<Line> lines_;
  QVBoxLayout* layout_;
  QWidget* addRow_;
  bool isFilling_ = false;
};

}  // namespace octaphon::app
