// A stranger at the keyboard: commands, keys, clicks and sessions in an order that nobody thought of, from a
// seed. After each step the session is valid and equal to its saved self, what is locked has stayed as it
// was, and nothing that is selected has gone; from time to time everything is undone to the first session and
// done again to the last. Started with --steps N [--seed S] it goes on for as long as one likes.
#include <cstdio>
#include <QRandomGenerator>

#include "edit/locks.h"
#include "edit/regions.h"
#include "opened.h"
#include "session/session_json.h"

using namespace octaphon;
using namespace octaphon::app;
using test::key;

namespace {

constexpr int kStepsInSuite = 250;
constexpr int kHistory = 40;       // steps that are told when something is wrong
constexpr int kCheckHistory = 60;  // steps between undoing everything

/// A small session with a bit of everything, whose files are quickly made.
QString makeSession(const QString& folder) {
  test::SessionMaker make(folder);
  for (const char* id : {"ma", "mb", "mc"})
    make.medium(id, test::noise(2, 9600, static_cast<unsigned>(id[1])));
  make.group("g").name = "Machines";
  make.track("t1", 2, "g").name = "Gear";
  make.track("t2", 2, "g").name = "Chain";
  make.track("t3").name = "Rain";
  Track hall;
  hall.id = "hall";
  hall.name = "Hall";
  hall.kind = TrackKind::Return;
  make.session.tracks.push_back(hall);
  for (int i = 0; i < 6; ++i)
    make.clip(i % 2 == 0 ? "t1"
              : i == 3   ? "t3"
                         : "t2",
              i % 3 == 0 ? "ma"
              : i == 4   ? "mc"
                         : "mb",
              i * 12'000, 9600);
  for (int i = 0; i < 4; ++i) {
    const std::string number = std::to_string(i + 1);
    make.region("r" + number, "Winch/Start 0" + number, i * 12'000, 9600);
  }
  ClipSet set;
  set.id = "s1";
  set.name = "Crane/Ratchet 01";
  set.clips = {make.session.tracks[1].clips[0].id, make.session.tracks[2].clips[0].id};
  make.session.clipSets = {set};
  addMarker(make.session, "ms", "Quay", 6000);
  addMarker(make.session, "ms", "Tower", 30000);
  make.session.tempo = {{0, 108, 3, 4, {}}};
  for (const char* name : {"One", "Two", "Three"}) make.brief(name).what.tracks = {true, {}};
  return make.save();
}

/// Types as a keyboard would, letters of any alphabet.
void type(QWidget* widget, const QString& words) {
  for (const QChar letter : words)
    for (const auto what : {QEvent::KeyPress, QEvent::KeyRelease}) {
      QKeyEvent event(what, letter.toUpper().unicode(), Qt::NoModifier, QString(letter));
      if (widget != nullptr) QApplication::sendEvent(widget, &event);
    }
}

/// Media by where they are, whatever the folder that is told from, and without what was noted when they were
/// last seen: saving changes both, and undo does not.
Session comparable(const Session& session) {
  Session same = session;
  for (Medium& medium : same.media) {
    medium.file = (std::filesystem::absolute(session.folder()) / medium.file).lexically_normal().string();
    medium.frames = 0;
    medium.rate = 0;
    medium.content.clear();
  }
  same.file.clear();
  return same;
}

class Stranger {
 public:
  explicit Stranger(unsigned seed)
      : seed_(seed),
        random_(seed),
        cache_((dir_.path() + "/cache").toStdString()),
        work_(cache_),
        window_(work_) {
    for (const char* name : {"first", "second"}) {
      QDir(dir_.path()).mkpath(name);
      sessions_ << makeSession(dir_.filePath(name));
    }
    answers_.setInterval(5);
    // Queued: an answer may bring up another question, which the same timer must see to.
    QObject::connect(&answers_, &QTimer::timeout, &answers_, [this] {
      QMetaObject::invokeMethod(
          &answers_, [this] { answer(); }, Qt::QueuedConnection);
    });
    answers_.start();
    QObject::connect(&work_.document(), &Document::opened, &answers_, [this] { begin(); });
    window_.resize(1280, 800);
    window_.show();
    (void)QTest::qWaitForWindowExposed(&window_);
    open(sessions_[0]);
  }
  ~Stranger() {
    work_.document().undoStack().setClean();
    answers_.stop();
  }

  /// Empty where all is well; else what is wrong, and what led to it.
  QString run(int steps) {
    for (int i = 0; i < steps; ++i) {
      const Session before = *work_.session();
      isHistory_ = false;
      sameSession_ = true;
      act();
      QString wrong = problemIn(before);
      if (wrong.isEmpty() && i % kCheckHistory == kCheckHistory - 1) wrong = problemInHistory();
      if (!wrong.isEmpty())
        return QString("seed %1, step %2: %3\n  %4").arg(seed_).arg(i).arg(wrong, done_.join("\n  "));
      if (i % 200 == 199) std::fprintf(stderr, "%d steps, %d edits\n", i + 1, edits_);
    }
    return problemInHistory();
  }
  int edits() const { return edits_; }

 private:
  int below(int most) { return static_cast<int>(random_.bounded(static_cast<quint32>(std::max(1, most)))); }
  template <class List>
  auto& oneOf(List& list) {
    return list[static_cast<std::size_t>(below(static_cast<int>(list.size())))];
  }
  void note(const QString& words) {
    if (qEnvironmentVariableIsSet("STRANGER_TELLS")) std::fprintf(stderr, "%s\n", qPrintable(words));
    done_ << words;
    if (done_.size() > kHistory) done_.removeFirst();
  }

  /// Another session begins: there its history does.
  void begin() {
    first_ = comparable(*work_.session());
    sameSession_ = false;
  }

  // --- dialogs that stand open are answered in some way

  void answer() {
    QWidget* dialog = QApplication::activeModalWidget();
    if (auto* popup = QApplication::activePopupWidget();
        dialog == nullptr && popup != nullptr && below(3) == 0)
      return void(popup->close());
    if (dialog == nullptr) return;
    if (auto* files = qobject_cast<QFileDialog*>(dialog)) return answerFiles(*files);
    if (auto* box = qobject_cast<QMessageBox*>(dialog)) {
      const auto buttons = box->buttons();
      note("  answers " + oneOf(buttons)->text());
      return oneOf(buttons)->click();
    }
    if (auto* input = qobject_cast<QInputDialog*>(dialog)) {
      input->setTextValue(QString("Set %1").arg(below(4)));
      return below(2) == 0 ? input->accept() : input->reject();
    }
    dialog->close();
  }

  void answerFiles(QFileDialog& dialog) {
    auto* field = dialog.findChild<QLineEdit*>("fileNameEdit");
    if (field == nullptr || below(4) == 0) return dialog.reject();
    QStringList paths = sessions_;
    if (dialog.acceptMode() == QFileDialog::AcceptSave) {
      QDir(dir_.path()).mkpath(QString("saved/%1").arg(below(3)));
      paths = {dir_.filePath(QString("saved/%1/Copy %2.octaphon").arg(below(2)).arg(below(3))),
               dir_.filePath("table.csv")};
    } else if (dialog.fileMode() == QFileDialog::Directory) {
      paths = {dir_.filePath("first/media"), dir_.filePath("second"), dir_.path()};
    } else if (!dialog.nameFilters().join(' ').contains("*.octaphon")) {
      paths = {dir_.filePath("first/media/ma.wav"), dir_.filePath("second/media/mb.wav"),
               dir_.filePath("nothing.wav")};
    }
    const QString path = oneOf(paths);
    note("  answers " + path);
    field->setText(path);
    key(field, Qt::Key_Return);
    if (dialog.isVisible()) dialog.reject();
  }

  // --- what one may do

  void act() {
    static const std::vector<std::pair<int, void (Stranger::*)()>> kActs{
        {30, &Stranger::command}, {14, &Stranger::select},     {8, &Stranger::history},
        {8, &Stranger::mouse},    {8, &Stranger::typeInPanel}, {7, &Stranger::phrase},
        {5, &Stranger::typeName}, {5, &Stranger::briefs},      {4, &Stranger::sheet},
        {1, &Stranger::reopen},   {8, &Stranger::wait}};
    int all = 0;
    for (const auto& [weight, what] : kActs) all += weight;
    int chosen = below(all);
    const int edits = work_.document().undoStack().index();
    for (const auto& [weight, what] : kActs)
      if ((chosen -= weight) < 0) {
        (this->*what)();
        break;
      }
    edits_ += work_.document().undoStack().index() != edits ? 1 : 0;
    if (below(3) == 0)
      QApplication::processEvents(QEventLoop::AllEvents, below(25));  // sheets arrive now, or later
    if (QWidget* page = window_.findChild<QDialog*>()) page->close();
    window_.activateWindow();
  }

  void command() {
    QString id;
    int tries = 20;  // mostly of those that can be done now
    do id = oneOf(window_.commands().ids());
    while ((!window_.commands().action(id)->isEnabled() && --tries > 0) || id == "program.quit" ||
           (id.startsWith("make.") && below(6) != 0) || id == "brief.folder" ||
           (id.startsWith("session.") && below(4) != 0));
    note(id);
    isHistory_ = id == "edit.undo" || id == "edit.redo";
    window_.commands().action(id)->trigger();
  }

  void select() {
    const auto session = work_.session();
    const auto thing = static_cast<Thing>(below(static_cast<int>(kThings)));
    std::vector<std::string> all;
    const auto take = [&](const auto& list) {
      for (const auto& item : list) all.push_back(item.id);
    };
    if (thing == Thing::Region) take(session->regions);
    if (thing == Thing::Track) take(session->tracks);
    if (thing == Thing::ClipSet) take(session->clipSets);
    if (thing == Thing::Clip)
      for (const Track& track : session->tracks) take(track.clips);
    if (thing == Thing::Marker)
      for (const MarkerSet& set : session->markerSets) take(set.markers);
    if (all.empty()) return;
    Ids ids;
    for (int i = below(4); i >= 0; --i) ids.insert(oneOf(all));
    note("selects " + wordOf(thing, ids.size()));
    if (ids.size() == 1 && below(2) == 0) return work_.places().go(thing, *ids.begin());
    work_.selected().set(thing, ids);
    if (below(3) == 0) work_.selected().setRange(TimeSpan{below(60'000), 1 + below(30'000)});
    if (below(3) == 0) work_.transport().setPosition(below(70'000));
  }

  void history() {
    const int times = 1 + below(5);
    const bool undo = below(2) == 0;
    note(QString(undo ? "undo %1" : "redo %1").arg(times));
    isHistory_ = true;
    for (int i = 0; i < times; ++i)
      key(&window_, Qt::Key_Z, undo ? Qt::ControlModifier : Qt::ControlModifier | Qt::ShiftModifier);
  }

  void mouse() {
    auto* timeline = window_.findChild<TimelineView*>();
    if (!timeline->isVisible()) return;
    QWidget* view = timeline->viewport();
    const auto place = [&] { return QPoint(below(view->width()), below(view->height())); };
    const QPoint from = place(), to = place();
    const auto with = below(3) == 0 ? Qt::ControlModifier : below(2) == 0 ? Qt::AltModifier : Qt::NoModifier;
    note(QString("drags from %1,%2 to %3,%4").arg(from.x()).arg(from.y()).arg(to.x()).arg(to.y()));
    QTest::mousePress(view, Qt::LeftButton, with, from);
    for (int i = 1; i <= 3; ++i) {
      const QPoint now = from + (to - from) * i / 3;
      QMouseEvent move(QEvent::MouseMove, now, view->mapToGlobal(now), Qt::NoButton, Qt::LeftButton, with);
      QApplication::sendEvent(view, &move);
      if (below(8) == 0) history();  // in the middle of a drag
    }
    if (below(10) == 0) key(timeline, Qt::Key_Escape);
    QTest::mouseRelease(view, Qt::LeftButton, with, to);
    if (below(6) == 0) {
      QContextMenuEvent menu(QContextMenuEvent::Mouse, to, view->mapToGlobal(to));
      QApplication::sendEvent(view, &menu);
    }
  }

  /// Some field, box or button of what can be seen, in some panel.
  void typeInPanel() {
    static const QStringList panels{"sheet", "mark",   "names", "details",
                                    "check", "signal", "proof", "briefs"};
    const QString id = oneOf(panels);
    if (below(2) == 0) window_.commands().action("panel." + id)->trigger();
    QApplication::processEvents(QEventLoop::AllEvents, 40);
    QWidget* content = window_.panels().content(id);
    if (!content->isVisible()) return;
    typeInto(*content, id);
  }

  void typeInto(QWidget& parent, const QString& where) {
    std::vector<QWidget*> fields;
    for (QWidget* field : parent.findChildren<QWidget*>())
      if (field->isVisible() && field->isEnabled() && field->focusPolicy() != Qt::NoFocus)
        fields.push_back(field);
    if (fields.empty()) return;
    QWidget* field = oneOf(fields);
    note(QString("types in %1, %2 %3").arg(where, field->metaObject()->className(), field->accessibleName()));
    field->setFocus();
    static const std::vector<int> keys{Qt::Key_Up,     Qt::Key_Down, Qt::Key_Left,   Qt::Key_Right,
                                       Qt::Key_Return, Qt::Key_Home, Qt::Key_Delete, Qt::Key_End,
                                       Qt::Key_Tab,    Qt::Key_F2};
    const QPointer<QWidget> alive(field);
    const bool isText = qobject_cast<QLineEdit*>(field) || qobject_cast<QPlainTextEdit*>(field) ||
                        qobject_cast<QAbstractSpinBox*>(field);
    for (int i = 1 + below(4); i > 0 && alive; --i) {
      if (isText && below(3) != 0)
        type(alive, oneOf(kTexts));
      else
        key(alive, oneOf(keys), below(6) == 0 ? Qt::ShiftModifier : Qt::NoModifier);
      if (alive && below(4) == 0) key(alive, Qt::Key_Down, Qt::AltModifier);  // the selection moves under it
    }
  }

  void phrase() {
    auto* sentence = window_.findChild<SentenceView*>();
    if (!sentence->isVisible()) return;
    if (below(3) != 0) sentence->openEditor(static_cast<PhraseKind>(1 + below(13)));
    QApplication::processEvents(QEventLoop::AllEvents, 10);
    QWidget* editor = sentence->editor();
    typeInto(editor == nullptr ? *static_cast<QWidget*>(sentence) : *editor, "a phrase");
    QApplication::processEvents(QEventLoop::AllEvents, 10);
    if (below(3) == 0 && sentence->editor() != nullptr) key(sentence->editor(), Qt::Key_Escape);
  }

  void typeName() {
    window_.commands().action("mark.name")->trigger();
    auto* table = &window_.findChild<NamesPanel*>()->table();
    auto* editor = table->viewport()->findChild<QLineEdit*>();
    if (editor == nullptr) return;
    note("types a name");
    type(editor, oneOf(kTexts));
    if (below(3) == 0) history();  // while it is being typed
    if (editor = table->viewport()->findChild<QLineEdit*>(); editor != nullptr)
      key(editor, below(3) == 0 ? Qt::Key_Escape : below(2) == 0 ? Qt::Key_Tab : Qt::Key_Return);
  }

  void briefs() {
    const auto& all = work_.session()->briefs;
    if (all.empty()) return;
    std::vector<std::string> ids;
    for (int i = below(3); i >= 0; --i) ids.push_back(oneOf(all).id);
    note("chooses a brief");
    work_.briefs().choose(ids.front(), ids);
    if (below(2) == 0) work_.briefs().setTicked(ids.front(), below(2) == 0);
  }

  void sheet() {
    QTableView& table = window_.findChild<SheetView*>()->table();
    if (table.model()->rowCount() == 0) return;
    const int row = below(table.model()->rowCount());
    note("a row of the sheet");
    table.setCurrentIndex(table.model()->index(row, 0));
    if (below(3) == 0) table.sortByColumn(below(9), below(2) == 0 ? Qt::AscendingOrder : Qt::DescendingOrder);
    if (below(3) == 0) {
      const QPoint at = table.visualRect(table.currentIndex()).center();
      QContextMenuEvent menu(QContextMenuEvent::Mouse, at, table.viewport()->mapToGlobal(at));
      QApplication::sendEvent(table.viewport(), &menu);
    }
  }

  void reopen() {
    const QString file =
        below(2) == 0 ? oneOf(sessions_) : QString::fromStdString(work_.session()->file.string());
    note("opens " + file);
    QApplication::processEvents(QEventLoop::AllEvents, 10);
    open(file);
    if (!work_.document().isOpen()) open(sessions_[0]);
  }

  void open(const QString& file) {
    window_.sessions().open(file);
    (void)test::isFinished(work_);
  }

  void wait() {
    note("waits");
    QElapsedTimer clock;
    clock.start();
    while ((work_.sheets().isPlanning() || work_.making().isRunning()) && clock.elapsed() < 5000)
      QApplication::processEvents(QEventLoop::AllEvents, 20);
  }

  // --- what must hold

  QString problemIn(const Session& before) {
    const Session session = *work_.session();
    if (!work_.document().isOpen()) return {};
    auto read = readSession(writeSession(session), "written");
    if (!read) return "the session is not valid: " + QString::fromStdString(read.error().describe());
    read->file = session.file;
    if (!(*read == session)) return "the session is not what is saved of it";
    Session kept = session;
    (void)keepLocked(before, kept);
    if (sameSession_ && !isHistory_ && before.file == session.file && !(kept == session))
      return "something that was locked has changed";
    Selected& selected = work_.selected();
    for (const std::string& id : selected.tracks())
      if (findTrack(session, id) == nullptr) return "a track that is gone is selected";
    if (!session.briefs.empty() && work_.briefs().current() == nullptr) return "no brief is looked at";
    return {};
  }

  /// Everything undone is the first session; done again, the last.
  QString problemInHistory() {
    if (!work_.document().isOpen()) return {};
    QUndoStack& stack = work_.document().undoStack();
    if (stack.count() >= stack.undoLimit()) return {};  // the first steps are forgotten
    const int index = stack.index();
    const Session last = comparable(*work_.session());
    stack.setIndex(0);
    if (!(comparable(*work_.session()) == first_)) return "undone to the start, it is not the first session";
    stack.setIndex(stack.count());
    stack.setIndex(index);
    if (!(comparable(*work_.session()) == last)) return "done again, it is not the last session";
    return {};
  }

  static inline const std::vector<QString> kTexts{"a", "7", "-3",  "Winch/", " ", "{n:2}",
                                                  "=", "ü", "0.5", "..",     "%"};

  unsigned seed_;
  QRandomGenerator random_;
  QTemporaryDir dir_;
  MediaCache cache_;
  Work work_;
  MainWindow window_;
  QTimer answers_;
  QStringList sessions_;
  QStringList done_;
  Session first_;
  bool isHistory_ = false;
  bool sameSession_ = true;
  int edits_ = 0;
};

}  // namespace

class StrangerTest : public QObject {
  Q_OBJECT
 private slots:
  void initTestCase() { state_ = test::prepareTests(); }

  void nothingIsLost_data() {
    QTest::addColumn<uint>("seed");
    for (const uint seed : {1u, 2u, 3u}) QTest::addRow("%u", seed) << seed;
  }
  void nothingIsLost() {
    QFETCH(uint, seed);
    Stranger stranger(seed);
    const QString wrong = stranger.run(kStepsInSuite);
    QVERIFY2(wrong.isEmpty(), qPrintable(wrong));
    QVERIFY2(stranger.edits() > kStepsInSuite / 15, qPrintable(QString::number(stranger.edits())));
  }

 private:
  std::unique_ptr<QTemporaryDir> state_;
};

int main(int argc, char** argv) {
  QApplication application(argc, argv);
  const QStringList arguments = QCoreApplication::arguments();
  const auto number = [&](const QString& name, int otherwise) {
    const qsizetype at = arguments.indexOf(name);
    return at < 0 || at + 1 >= arguments.size() ? otherwise : arguments[at + 1].toInt();
  };
  if (!arguments.contains("--steps")) {
    StrangerTest test;
    return QTest::qExec(&test, argc, argv);
  }
  const auto state = test::prepareTests();
  Stranger stranger(static_cast<unsigned>(number("--seed", 1)));
  const QString wrong = stranger.run(number("--steps", 1000));
  std::printf("%s\n", wrong.isEmpty()
                          ? qPrintable(QString("all is well after %1 edits").arg(stranger.edits()))
                          : qPrintable(wrong));
  return wrong.isEmpty() ? 0 : 1;
}
#include "tst_stranger.moc"
