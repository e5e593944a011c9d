#include "app/brief/name_examples.h"

#include <algorithm>
#include <QGridLayout>
#include <set>

#include "app/look/theme.h"
#include "app/work/text.h"

namespace octaphon::app {

NameExamples::NameExamples(Work& work, QWidget* parent)
    : QWidget(parent), work_(work), none_(new QLabel(this)) {
  none_->setFont(Theme::caption());
  none_->setWordWrap(true);
  auto* layout = new QGridLayout(this);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->setHorizontalSpacing(10);
  layout->setVerticalSpacing(3);
  layout->setColumnStretch(1, 1);
  layout->addWidget(none_, 0, 0, 1, 2);
  for (const QString& caption : {tr("first"), tr("longest"), tr("odd"), tr("twice")}) {
    auto* label = new QLabel(caption, this);
    label->setFont(Theme::caption());
    label->setObjectName("second");
    auto* name = new ElidedLabel(this);
    name->setFont(Theme::mono());
    const int row = static_cast<int>(lines_.size()) + 1;
    layout->addWidget(label, row, 0);
    layout->addWidget(name, row, 1);
    lines_.push_back({label, name});
  }
  connect(&work_.briefs(), &BriefChoice::changed, this, &NameExamples::showSheet);
  connect(&work_.sheets(), &SheetKeeper::sheetChanged, this, &NameExamples::showSheet);
  connect(&work_.namesAhead(), &NamesAhead::changed, this, &NameExamples::showNames);
  showSheet();
}

NameExamples::~NameExamples() { work_.namesAhead().setShown(this, {}); }

void NameExamples::showSheet() {
  sheet_ = work_.sheets().sheet();
  const Sheet& sheet = *sheet_;
  const std::string& id = work_.briefs().currentId();
  const auto found = std::find_if(sheet.briefs.begin(), sheet.briefs.end(),
                                  [&](const PlannedBrief& brief) { return brief.brief.id == id; });
  if (found == sheet.briefs.end())
    return show(
        {}, work_.briefs().isTicked(id) ? QString() : tr("Not ticked: none of its files is in the sheet."));
  if (found->rowCount == 0) return show({}, tr("No file yet: choose regions and sources that have clips."));
  const auto brief = static_cast<std::size_t>(found - sheet.briefs.begin());
  Rows rows{};
  for (std::size_t i = 0; i < rows.size(); ++i)
    if (const auto row = work_.sheets().summary().briefs[brief].examples[i]) rows[i] = &sheet.rows[*row];
  show(rows, {});
}

/// Words stand instead of all.
void NameExamples::show(const Rows& rows, const QString& words) {
  none_->setText(words);
  none_->setVisible(!words.isEmpty());
  shown_ = rows;
  std::set<std::size_t> indices;
  for (std::size_t i = 0; i < rows.size(); ++i) {
    lines_[i].caption->setVisible(rows[i] != nullptr);
    lines_[i].name->setVisible(rows[i] != nullptr);
    if (rows[i] != nullptr) indices.insert(static_cast<std::size_t>(rows[i] - sheet_->rows.data()));
  }
  showNames();
  work_.namesAhead().setShown(this, std::move(indices));
}

void NameExamples::showNames() {
  for (std::size_t i = 0; i < shown_.size(); ++i)
    if (shown_[i] != nullptr) lines_[i].name->setWords(fileOf(*shown_[i]));
}

/// As it is called, or will be.
QString NameExamples::fileOf(const Row& row) const {
  const auto index = static_cast<std::size_t>(&row - sheet_->rows.data());
  const QString* ahead = work_.namesAhead().fileOf(*sheet_, index);
  const QString file = ahead != nullptr ? *ahead : text(row.file);
  return file.isEmpty() ? tr("(no name)") : file;
}

}  // namespace octaphon::app
