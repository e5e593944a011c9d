#include "app/delivery/proof_file.h"

#include <algorithm>
#include <QDesktopServices>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QUrl>
#include <QVBoxLayout>

#include "app/look/icons.h"
#include "app/look/theme.h"
#include "app/work/text.h"
#include "base/unicode.h"
#include "check/file_figures.h"

namespace octaphon::app {
namespace {

constexpr double kBefore = 0.5;  // seconds that are heard before a spot that was found

enum FigureColumn { FigureName, FigureValue, FigureAsked, FigureColumns };

/// Names of files have no spaces: they may break where their words do.
QString breakable(const QString& name) {
  QString words = name.toHtmlEscaped();
  for (const QChar mark : {QChar('_'), QChar('-'), QChar('/'), QChar('.')})
    words.replace(mark, mark + QString(QChar(0x200B)));
  return words;
}

}  // namespace

ProofFile::ProofFile(Work& work, Commands& commands, QWidget* parent)
    : QWidget(parent),
      work_(work),
      words_(new QLabel(this)),
      pages_(new QButtonGroup(this)),
      stack_(new QStackedWidget(this)),
      picture_(new FileView(this)),
      figures_(new QTreeWidget(this)) {
  words_->setWordWrap(true);
  words_->setTextFormat(Qt::RichText);
  words_->setAlignment(Qt::AlignTop);
  figures_->setAccessibleName(tr("Figures of the file"));
  figures_->setColumnCount(FigureColumns);
  figures_->setHeaderLabels({tr("Figure"), tr("Is"), tr("Was to be")});
  figures_->setRootIsDecorated(false);
  figures_->setUniformRowHeights(true);
  figures_->header()->setStretchLastSection(true);
  stack_->addWidget(picture_);
  stack_->addWidget(figures_);
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->setSpacing(4);
  layout->addWidget(words_);
  layout->addLayout(makePages());
  layout->addWidget(stack_, 1);
  layout->addLayout(makeHearing(commands));
  connect(&work_.looker(), &FileLooker::changed, this, &ProofFile::showPicture);
  connect(&work_.checking(), &Checking::changed, this, [this] {
    if (!work_.checking().isChecking()) work_.looker().lookAgain();  // it may be another file by now
  });
  connect(&work_.sheets(), &SheetKeeper::sheetChanged, this, &ProofFile::enableHearing);
  connect(picture_, &FileView::spotChanged, this, [this] { isSpotPlaced_ = true; });
  connect(&Theme::instance(), &Theme::changed, this, &ProofFile::showFigures);
  setPage(Page::Wave);
  show(nullptr);
}

QLayout* ProofFile::makePages() {
  auto* row = new QHBoxLayout;
  row->setSpacing(2);
  const auto add = [&](Page page, const QString& words, const QString& tip) {
    auto* button = new QToolButton(this);
    button->setText(words);
    button->setToolTip(tip);
    button->setAccessibleDescription(tip);
    button->setCheckable(true);
    pages_->addButton(button, static_cast<int>(page));
    row->addWidget(button);
    connect(button, &QToolButton::clicked, this, [this, page] { setPage(page); });
  };
  add(Page::Wave, tr("Wave"), tr("Its wave, and over it how loud it is as it goes on"));
  add(Page::Frequencies, tr("Frequencies"), tr("What sounds in it when, low frequencies below"));
  add(Page::Figures, tr("Figures"), tr("What was measured, and what it was to be"));
  row->addStretch(1);
  folder_ = new QToolButton(this);
  folder_->setIcon(icon("folder"));
  folder_->setToolTip(tr("Open the folder that the file lies in"));
  folder_->setAccessibleName(folder_->toolTip());
  connect(folder_, &QToolButton::clicked, this, &ProofFile::openFolder);
  connect(&Theme::instance(), &Theme::changed, folder_, [this] { folder_->setIcon(icon("folder")); });
  row->addWidget(folder_);
  return row;
}

QToolButton* ProofFile::addHearing(QLayout* row, const QString& words, const QString& tip,
                                   const std::function<void()>& hear) {
  auto* button = new QToolButton(this);
  button->setText(words);
  button->setToolTip(tip);
  button->setAccessibleDescription(tip);
  button->setObjectName("framed");
  if (hear) connect(button, &QToolButton::clicked, this, hear);
  row->addWidget(button);
  return button;
}

QLayout* ProofFile::makeHearing(Commands& commands) {
  auto* row = new QHBoxLayout;
  row->setSpacing(4);
  file_ = addHearing(row, tr("File"), tr("Hear the file as it lies on the disk, from the spot on"),
                     [this] { hear(Listening::Of::File); });
  session_ = addHearing(row, tr("Session"), tr("Hear what the session would write now, from the spot on"),
                        [this] { hear(Listening::Of::Session); });
  difference_ = addHearing(row, tr("Between"), tr("Hear what differs between them, from the spot on"),
                           [this] { hear(Listening::Of::Difference); });
  before_ = addHearing(row, tr("Before"), tr("Hear the file that this one replaced, from the spot on"),
                       [this] { hearBefore(); });
  QAction* const action = commands.action("row.equally-loud");
  QToolButton* equally =
      addHearing(row, "=", tr("Hear all of them as loud as the first one that is heard from now on"), {});
  equally->setAccessibleName(tr("Equally loud"));
  equally->setCheckable(true);
  equally->setChecked(action->isChecked());
  connect(equally, &QToolButton::clicked, action, &QAction::trigger);
  connect(action, &QAction::toggled, equally, &QToolButton::setChecked);
  row->addStretch(1);
  return row;
}

void ProofFile::setPage(Page page) {
  page_ = page;
  pages_->button(static_cast<int>(page))->setChecked(true);
  stack_->setCurrentWidget(page == Page::Figures ? static_cast<QWidget*>(figures_) : picture_);
  wantPicture();
  showPicture();
}

void ProofFile::wantPicture() {
  work_.looker().setWanted(isVisible() && line_ && page_ != Page::Figures, page_ == Page::Frequencies);
}

void ProofFile::showEvent(QShowEvent*) { wantPicture(); }
void ProofFile::hideEvent(QHideEvent*) { wantPicture(); }

void ProofFile::show(const ProofLine* line) {
  const bool isSame = line != nullptr && line_ && line->base == line_->base && line->name == line_->name;
  line_ = line != nullptr ? std::optional(*line) : std::nullopt;
  const bool isFile = line_ && !line_->name.empty();
  words_->setText(!line_ ? tr("Choose a line to see and hear its file.")
                         : QString("<b>%1</b> %2").arg(breakable(line_->file), line_->found.toHtmlEscaped()));
  words_->setToolTip(line_ ? line_->found : QString());
  for (QAbstractButton* button : pages_->buttons()) button->setVisible(isFile);
  for (QWidget* widget :
       {static_cast<QWidget*>(stack_), static_cast<QWidget*>(file_), static_cast<QWidget*>(session_),
        static_cast<QWidget*>(difference_), static_cast<QWidget*>(folder_)})
    widget->setVisible(isFile);
  work_.looker().lookAt(isFile ? line_->base : FolderPath{}, isFile ? line_->name : std::string());
  wantPicture();
  if (!isSame) {
    isSpotPlaced_ = false;
    picture_->setSpot(0);
  }
  placeSpot();
  showPicture();
  showFigures();
  enableHearing();
}

/// At what was found: where the difference is largest, where it is clipped; else at the beginning.
void ProofFile::placeSpot() {
  if (isSpotPlaced_ || !line_) return;
  const auto putAt = [this](Frame frame, int rate) {
    isSpotPlaced_ = true;
    picture_->setSpot(std::max<Frame>(0, frame - static_cast<Frame>(kBefore * rate)));
  };
  if (line_->change) {
    const auto& difference = line_->change->difference;
    if (difference && difference->at >= 0) putAt(difference->at, difference->rate);
    return;
  }
  const bool isOfPeak = line_->finding && (line_->finding->code == FindingCode::Clipped ||
                                           line_->finding->code == FindingCode::OverCeiling);
  if (const auto picture = work_.looker().picture(); isOfPeak && picture)
    putAt(picture_->loudestFrame(), picture->rate);
}

void ProofFile::showPicture() {
  const FileLooker& looker = work_.looker();
  picture_->show(looker.picture(), looker.frequencies(), page_ == Page::Frequencies,
                 looker.problem().isEmpty() ? tr("Reading …") : looker.problem());
  placeSpot();
}

const CheckedFile* ProofFile::checkedFile() const {
  if (!line_) return nullptr;
  const auto report = work_.checking().reports().find(line_->base);
  if (report == work_.checking().reports().end()) return nullptr;
  const auto& files = report->second->files;
  const auto found =
      std::lower_bound(files.begin(), files.end(), line_->name,
                       [](const CheckedFile& file, const std::string& name) { return file.name < name; });
  return found != files.end() && found->name == line_->name ? &*found : nullptr;
}

void ProofFile::showFigures() {
  figures_->clear();
  const CheckedFile* file = checkedFile();
  if (file == nullptr || file->there() == nullptr) {
    if (line_)
      new QTreeWidgetItem(figures_, {file != nullptr && file->isTrusted
                                         ? tr("It was not read this time: check again to see them")
                                         : tr("There are none: it could not be read")});
    figures_->setFirstColumnSpanned(0, {}, true);
    return;
  }
  for (const FileFigure& figure : figuresOf(*file)) {
    QString asked = text(figure.asked);
    if (figure.isRight && *figure.isRight && figure.asked == figure.value) asked = tr("the same");
    if (figure.isRight && !*figure.isRight) asked = tr("OFF: %1").arg(asked);
    auto* item = new QTreeWidgetItem(figures_, {text(figure.title), text(figure.value), asked});
    item->setToolTip(FigureName, text(figure.title));
    item->setToolTip(FigureValue, text(figure.value));
    if (!figure.tolerance.empty())
      item->setToolTip(FigureAsked, tr("%1, within %2").arg(text(figure.asked), text(figure.tolerance)));
    if (figure.isRight && !*figure.isRight) {
      item->setForeground(FigureAsked, colour(Role::Fault));
      item->setFont(FigureAsked, Theme::strong());
    }
  }
  const int room = width() - 24;
  figures_->setColumnWidth(FigureName, room * 32 / 100);
  figures_->setColumnWidth(FigureValue, room * 34 / 100);
}

void ProofFile::enableHearing() {
  const bool isRow = line_ && work_.sheets().sheet()->find(line_->row).has_value();
  for (QToolButton* button : {file_, session_, difference_}) button->setEnabled(isRow);
  before_->setVisible(line_ && line_->change && line_->change->replaced);
  before_->setEnabled(isRow);
}

std::optional<Frame> ProofFile::spotInSession() const {
  const Sheet& sheet = *work_.sheets().sheet();
  const auto found = line_ ? sheet.find(line_->row) : std::nullopt;
  if (!found) return std::nullopt;
  const Row& row = sheet.rows[*found];
  const auto picture = work_.looker().picture();
  const Frame spot = atRate(picture_->spot(), picture ? picture->rate : row.rate, sheet.rate);
  return std::clamp(row.start + spot, row.start, std::max(row.start, sheet.endOf(row) - 1));
}

void ProofFile::hear(Listening::Of of) {
  if (const auto from = spotInSession()) work_.listener().playRow(of, line_->row, *from);
}

void ProofFile::hearBefore() {
  const auto from = spotInSession();
  if (from && line_->change && line_->change->replaced)
    work_.listener().playBefore(line_->change->replaced, line_->row, *from, line_->change->levelsBefore);
}

void ProofFile::openFolder() const {
  if (!line_) return;
  const std::filesystem::path file = line_->base.full() / line_->name;
  QDesktopServices::openUrl(QUrl::fromLocalFile(text(file.parent_path().string())));
}

}  // namespace octaphon::app
