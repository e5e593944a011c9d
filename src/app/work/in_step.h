// Keeps what is selected on the sheet, and on timeline and outline, in step: who chooses rows has their
// regions selected, who selects regions, clip sets or tracks has their rows chosen.
#pragma once

#include <QObject>
#include <utility>
#include <vector>

#include "app/work/document.h"
#include "app/work/row_choice.h"
#include "app/work/selection.h"

namespace octaphon::app {

class InStep : public QObject {
  Q_OBJECT
 public:
  InStep(Document& document, Selected& selected, RowChoice& rows, QObject* parent = nullptr);

  /// Someone chose these rows on the sheet itself.
  void followRows(const Sheet& sheet, const std::vector<std::size_t>& rows);

  /// While there is one, the rows stay as they are chosen, whatever is selected.
  class Pause {
   public:
    explicit Pause(InStep& inStep) : inStep_(inStep), was_(std::exchange(inStep.isFollowing_, true)) {}
    ~Pause() { inStep_.isFollowing_ = was_; }
    Pause(const Pause&) = delete;
    Pause& operator=(const Pause&) = delete;

   private:
    InStep& inStep_;
    bool was_;
  };

 private:
  void followThings();

  Document& document_;
  Selected& selected_;
  RowChoice& rows_;
  bool isFollowing_ = false;
};

}  // namespace octaphon::app
