#include "app/window/panels.h"

#include <QApplication>
#include <QHBoxLayout>
#include <QLabel>
#include <QTabBar>
#include <QTimer>
#include <QToolButton>
#include <QVBoxLayout>

#include "app/look/first_focus.h"
#include "app/look/icons.h"
#include "app/look/theme.h"

namespace octaphon::app {
namespace {

constexpr int kSideWidth = 220, kBriefsWidth = 350, kLowerHeight = 290;

/// The room of a panel. It asks for the same size whatever is in it, so that nothing around it moves; what is
/// behind another tab is hidden, and does no work.
class PanelRoom : public QWidget {
 public:
  PanelRoom(QWidget* content, QSize least, QDockWidget* dock)
      : QWidget(dock), content_(content), least_(least) {
    content_->setParent(this);
    content_->hide();
  }
  QSize sizeHint() const override { return least_; }
  QSize minimumSizeHint() const override { return least_; }
  void setShown(bool on) {
    content_->setGeometry(rect());
    content_->setVisible(on);
  }

 protected:
  void resizeEvent(QResizeEvent*) override { content_->setGeometry(rect()); }

 private:
  QWidget* content_;
  QSize least_;
};

/// The heading of a panel that stands alone, or has tools.
class Heading : public QWidget {
 public:
  Heading(const QString& words, QWidget* tools, QDockWidget* dock)
      : QWidget(dock), hasTools_(tools != nullptr) {
    setObjectName("panelHeading");
    setAttribute(Qt::WA_StyledBackground);
    title_ = new QLabel(words.toUpper(), this);
    title_->setFont(Theme::heading());
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(14, 4, 6, 2);
    row->setSpacing(2);
    row->addWidget(title_);
    row->addStretch();
    if (tools != nullptr) row->addWidget(tools);
    const auto button = [&](const char* icon, const QString& tip, auto act) {
      auto* made = new QToolButton(this);
      keepIcon(made, icon);
      made->setToolTip(tip);
      made->setAccessibleName(tip);
      made->setFocusPolicy(Qt::NoFocus);
      made->setIconSize({12, 12});
      row->addWidget(made);
      QObject::connect(made, &QToolButton::clicked, dock, act);
    };
    button("detach", QObject::tr("Into a window of its own, or back"),
           [dock] { dock->setFloating(!dock->isFloating()); });
    button("close", QObject::tr("Close the panel"), [dock] { dock->close(); });
  }
  /// Among tabs, the tab says the name.
  void setAmongTabs(bool on) {
    isSlim_ = on && !hasTools_;
    title_->setVisible(!on);
    setVisible(!isSlim_);
    updateGeometry();
  }
  QSize sizeHint() const override { return isSlim_ ? QSize(0, 0) : QWidget::sizeHint(); }
  QSize minimumSizeHint() const override { return isSlim_ ? QSize(0, 0) : QWidget::minimumSizeHint(); }

 private:
  bool hasTools_;
  bool isSlim_ = false;
  QLabel* title_;
};

}  // namespace

Panels::Panels(QWidget* timeline, const std::vector<Panel>& panels, Commands& commands, QWidget* parent)
    : QMainWindow(parent, Qt::Widget), panels_(panels) {
  setObjectName("panels");
  setDockOptions(AllowTabbedDocks | AllowNestedDocks | GroupedDragging);
  setTabPosition(Qt::AllDockWidgetAreas, QTabWidget::North);
  setCorner(Qt::BottomLeftCorner, Qt::LeftDockWidgetArea);
  setCorner(Qt::BottomRightCorner, Qt::RightDockWidgetArea);
  setCentralWidget(timeline);
  for (const Panel& panel : panels_) {
    add(panel);
    const QString id = panel.id;
    QList<QKeySequence> keys;
    if (panel.key != 0) keys << QKeySequence(Qt::CTRL | static_cast<Qt::Key>(panel.key));
    commands.add(Command{.id = "panel." + id,
                         .words = panel.words,
                         .keys = keys,
                         .needs = needs::session,
                         .run = [this, id] { show(id); },
                         .tip = panel.tip});
    commandIds_ << "panel." + id;
  }
  commands.add(std::vector<Command>{
      {"panels.window",
       tr("Panel into a &window of its own, or back"),
       {Qt::CTRL | Qt::Key_0},
       needs::session,
       [this] { toggleFloating(); }},
      {"panels.close",
       tr("Close the panel in use"),
       {},
       needs::session,
       [this] {
         if (QDockWidget* dock = focused()) dock->close();
       }},
      {"panels.anew", tr("Panels as at first"), {}, needs::session, [this] { arrangeAnew(); }}});
  commandIds_ << ""
              << "panels.window"
              << "panels.close"
              << "panels.anew";
}

void Panels::add(const Panel& panel) {
  auto* dock = new QDockWidget(panel.words.simplified().remove('&'), this);
  dock->setObjectName(QString("panel-") + panel.id);
  dock->setToolTip({});
  QWidget* content = panel.make(dock);
  auto* room = new PanelRoom(content, panel.least, dock);
  dock->setWidget(room);
  auto* heading = new Heading(dock->windowTitle(), panel.tools ? panel.tools(content) : nullptr, dock);
  dock->setTitleBarWidget(heading);
  addDockWidget(panel.area, dock);
  docks_[panel.id] = dock;
  contents_[panel.id] = content;
  connect(dock, &QDockWidget::visibilityChanged, room, &PanelRoom::setShown);
  const auto later = [this] { QTimer::singleShot(0, this, [this] { showHeadings(); }); };
  connect(dock, &QDockWidget::topLevelChanged, this, later);
  connect(dock, &QDockWidget::dockLocationChanged, this, later);
  connect(dock, &QDockWidget::visibilityChanged, this, later);
}

/// A panel among tabs needs no heading of its own.
void Panels::showHeadings() {
  for (const auto& [id, dock] : docks_) {
    bool amongTabs = false;
    if (!dock->isFloating())
      for (const QDockWidget* other : tabifiedDockWidgets(dock)) amongTabs = amongTabs || !other->isHidden();
    static_cast<Heading*>(dock->titleBarWidget())->setAmongTabs(amongTabs);
  }
  for (QTabBar* bar : findChildren<QTabBar*>(Qt::FindDirectChildrenOnly)) {
    bar->setDrawBase(false);
    bar->setExpanding(false);
    bar->setElideMode(Qt::ElideNone);
    bar->setAccessibleName(tr("Panels"));
  }
}

void Panels::show(const QString& id) {
  QDockWidget* dock = docks_.at(id);
  dock->show();
  dock->raise();
  if (dock->isFloating()) dock->activateWindow();
  dock->widget()->setFocus(Qt::ShortcutFocusReason);  // what has nothing to type into has the keyboard too
  QWidget* first = firstFocusOf(content(id));
  (first != nullptr ? first : content(id))->setFocus(Qt::ShortcutFocusReason);
}

QDockWidget* Panels::focused() const {
  for (QWidget* widget = QApplication::focusWidget(); widget != nullptr; widget = widget->parentWidget())
    if (auto* dock = qobject_cast<QDockWidget*>(widget)) return dock;
  return nullptr;
}

void Panels::toggleFloating() {
  if (QDockWidget* dock = focused()) dock->setFloating(!dock->isFloating());
}

/// Sizes count once there is room for them.
void Panels::arrange(const QByteArray& arrangement) {
  waiting_ = arrangement;
  isArranged_ = false;
  if (isVisible()) arrangeNow();
}

void Panels::arrangeNow() {
  isArranged_ = true;
  arrangeAnew();
  if (!waiting_.isEmpty()) restoreState(waiting_, kVersion);
  showHeadings();
}

void Panels::showEvent(QShowEvent* event) {
  QMainWindow::showEvent(event);
  if (!isArranged_) arrangeNow();
}

void Panels::arrangeAnew() {
  std::map<Qt::DockWidgetArea, QDockWidget*> first;
  for (const Panel& panel : panels_) {
    QDockWidget* dock = docks_.at(panel.id);
    dock->setFloating(false);
    dock->show();
    addDockWidget(panel.area, dock);
    const auto [found, isNew] = first.try_emplace(panel.area, dock);
    if (!isNew) tabifyDockWidget(found->second, dock);
  }
  for (const auto& [area, dock] : first) dock->raise();
  const auto of = [&](Qt::DockWidgetArea area) { return first.contains(area) ? first[area] : nullptr; };
  if (of(Qt::LeftDockWidgetArea) && of(Qt::RightDockWidgetArea))
    resizeDocks({of(Qt::LeftDockWidgetArea), of(Qt::RightDockWidgetArea)}, {kSideWidth, kBriefsWidth},
                Qt::Horizontal);
  if (of(Qt::BottomDockWidgetArea)) resizeDocks({of(Qt::BottomDockWidgetArea)}, {kLowerHeight}, Qt::Vertical);
  showHeadings();
}

}  // namespace octaphon::app
