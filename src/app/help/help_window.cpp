#include "app/help/help_window.h"

#include <QCoreApplication>
#include <QDesktopServices>
#include <QFileInfo>
#include <QImage>
#include <QScrollBar>
#include <QSplitter>
#include <QTextBlock>
#include <QTextList>
#include <QTextTable>
#include <QVBoxLayout>
#include <vector>

#include "app/look/theme.h"

namespace octaphon::app {
namespace {

constexpr int kPageRole = Qt::UserRole, kHeadingRole = Qt::UserRole + 1;
constexpr int kWidestPicture = 640;  // px
constexpr int kPauseMs = 150;

/// Where documents are, seen from the program: installed, or beside what was built.
QString documentsFolder() {
  const QString program = QCoreApplication::applicationDirPath();
  for (const char* place : {"/../share/doc/octaphon-doc", "/../../../../docs", "/../../../docs"})
    if (QFileInfo(program + place + "/screenshots").isDir()) return program + place;
  return {};
}

QTextCharFormat sized(const QFont& font) {
  QTextCharFormat format;
  format.setFont(font, QTextCharFormat::FontPropertiesSpecifiedOnly);
  return format;
}

/// Bold is our semi-bold: there is no heavier one, and Qt would smear it.
void dressWords(QTextDocument& document, const QTextBlock& block) {
  const int level = block.blockFormat().headingLevel();
  QFont heading = Theme::strong();
  heading.setPixelSize(level == 1 ? 21 : level == 2 ? 16 : 14);
  std::vector<QTextFragment> fragments;
  for (auto it = block.begin(); !it.atEnd(); ++it) fragments.push_back(it.fragment());
  for (const QTextFragment& fragment : fragments) {
    if (level == 0 && fragment.charFormat().fontWeight() <= QFont::DemiBold) continue;
    QTextCursor words(&document);
    words.setPosition(fragment.position());
    words.setPosition(fragment.position() + fragment.length(), QTextCursor::KeepAnchor);
    QTextCharFormat format = sized(heading);
    if (level == 0) {
      format = {};
      format.setFontWeight(QFont::DemiBold);
    }
    words.mergeCharFormat(format);
  }
}

/// Room between paragraphs, headings of our sizes, tables with lines.
void dress(QTextDocument& document) {
  QTextCursor all(&document);  // laid out once, behind all changes
  all.beginEditBlock();
  for (QTextBlock block = document.begin(); block.isValid(); block = block.next()) {
    QTextBlockFormat format = block.blockFormat();
    const bool isHeading = format.headingLevel() > 0,
               isInTable = QTextCursor(block).currentTable() != nullptr;
    format.setTopMargin(isHeading && block.position() > 0 ? 18 : 0);
    const bool isCode = format.hasProperty(QTextFormat::BlockCodeFence);
    format.setBottomMargin(isHeading ? 6 : isCode ? 0 : isInTable ? 0 : block.textList() != nullptr ? 4 : 9);
    format.setLineHeight(122, QTextBlockFormat::ProportionalHeight);
    QTextCursor(block).setBlockFormat(format);
    dressWords(document, block);
  }
  for (QTextFrame* frame : document.rootFrame()->childFrames())
    if (auto* table = qobject_cast<QTextTable*>(frame)) {
      QTextTableFormat format = table->format();
      format.setBorderCollapse(true);
      format.setBorder(1);
      format.setBorderBrush(colour(Role::Hairline));
      format.setCellPadding(4);
      format.setBottomMargin(12);
      table->setFormat(format);
    }
  all.endEditBlock();
}

}  // namespace

HelpBrowser::HelpBrowser(QWidget* parent) : QTextBrowser(parent) {
  setAccessibleName(tr("Page"));
  setOpenLinks(false);
  setFrameShape(QFrame::NoFrame);
  document()->setDocumentMargin(18);
  document()->setDefaultFont(Theme::body());
  connect(this, &QTextBrowser::anchorClicked, this, [this](const QUrl& link) {
    if (link.scheme().startsWith("http")) return void(QDesktopServices::openUrl(link));
    const QString page = QFileInfo(link.path()).fileName();
    if (page.endsWith(".md")) show(page);
  });
}

void HelpBrowser::show(const QString& page, const QString& heading) {
  setSource(QUrl("qrc:/help/" + page), QTextDocument::MarkdownResource);
  setExtraSelections({});
  dress(*document());
  goTo(heading);
}

void HelpBrowser::goTo(const QString& heading) {
  QTextCursor top(document());
  if (!heading.isEmpty())
    for (QTextBlock block = document()->begin(); block.isValid(); block = block.next())
      if (block.blockFormat().headingLevel() > 0 && block.text() == heading) {
        top.setPosition(block.position());
        break;
      }
  setTextCursor(top);
  verticalScrollBar()->setValue(verticalScrollBar()->value() + cursorRect(top).top() - 12);
}

void HelpBrowser::mark(const QString& words) {
  QList<QTextEdit::ExtraSelection> places;
  QTextCharFormat marked;
  marked.setBackground(colour(Role::Selection));
  for (const QString& word : words.split(' ', Qt::SkipEmptyParts))
    for (QTextCursor at = document()->find(word); !at.isNull(); at = document()->find(word, at))
      places << QTextEdit::ExtraSelection{at, marked};
  setExtraSelections(places);
}

QVariant HelpBrowser::loadResource(int type, const QUrl& name) {
  if (type != QTextDocument::ImageResource) return QTextBrowser::loadResource(type, name);
  const QString folder = documentsFolder();
  const QImage picture(folder + "/screenshots/" + QFileInfo(name.path()).fileName());
  if (folder.isEmpty() || picture.isNull()) return {};
  return picture.width() > kWidestPicture ? picture.scaledToWidth(kWidestPicture, Qt::SmoothTransformation)
                                          : picture;
}

HelpWindow::HelpWindow(QWidget* parent)
    : PageDialog(parent),
      field_(new QLineEdit(this)),
      list_(new QListWidget(this)),
      browser_(new HelpBrowser(this)) {
  setAttribute(Qt::WA_DeleteOnClose);
  setWindowTitle(tr("Help"));
  setAccessibleName(tr("Help"));
  field_->setPlaceholderText(tr("Search all pages"));
  field_->setAccessibleName(tr("Search all pages"));
  field_->setClearButtonEnabled(true);
  list_->setAccessibleName(tr("Pages, and what was found"));
  list_->setWordWrap(true);
  list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  auto* side = new QWidget(this);
  side->setObjectName("pane");
  auto* column = new QVBoxLayout(side);
  column->setContentsMargins(10, 10, 6, 10);
  column->addWidget(field_);
  column->addWidget(list_, 1);
  auto* halves = new QSplitter(this);
  halves->addWidget(side);
  halves->addWidget(browser_);
  halves->setSizes({260, 740});
  halves->setChildrenCollapsible(false);
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->addWidget(halves);
  const QSize wanted(1000, 720);
  resize(parent == nullptr ? wanted : wanted.boundedTo(parent->size()));
  connect(field_, &QLineEdit::textChanged, this, &HelpWindow::list);
  connect(field_, &QLineEdit::returnPressed, list_, qOverload<>(&QWidget::setFocus));
  pause_.setSingleShot(true);
  pause_.setInterval(kPauseMs);
  connect(&pause_, &QTimer::timeout, this, &HelpWindow::showCurrent);
  connect(list_, &QListWidget::currentRowChanged, &pause_, qOverload<>(&QTimer::start));
  list();
  showCurrent();
  field_->setFocus();
}

/// Pages, where nothing is looked for.
void HelpWindow::list() {
  list_->clear();
  const auto add = [&](const QString& words, const QString& page, const QString& heading) {
    auto* item = new QListWidgetItem(words, list_);
    item->setData(kPageRole, page);
    item->setData(kHeadingRole, heading);
  };
  const QString words = field_->text().trimmed();
  if (words.isEmpty()) {
    for (const HelpPageInfo& page : helpPages()) add(tr(page.title), page.file, {});
  } else {
    for (const std::size_t index : findInHelp(words)) {
      const HelpSection& section = helpSections()[index];
      add(section.heading.isEmpty() ? section.title : section.title + " › " + section.heading, section.page,
          section.heading);
    }
    if (list_->count() == 0) {
      auto* none = new QListWidgetItem(tr("Nothing has all of these words"), list_);
      none->setFlags(Qt::NoItemFlags);
      return;
    }
  }
  list_->setCurrentRow(0);
}

void HelpWindow::showCurrent() {
  pause_.stop();
  const QListWidgetItem* item = list_->currentItem();
  if (item == nullptr) return;
  browser_->show(item->data(kPageRole).toString(), item->data(kHeadingRole).toString());
  browser_->mark(field_->text());
}

}  // namespace octaphon::app
