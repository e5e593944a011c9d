// The files that a brief makes of each sound: a format each, with rate, channels, suffix and folder.
#include <algorithm>
#include <QCheckBox>
#include <QComboBox>
#include <QGridLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QToolButton>

#include "app/brief/phrase_editor.h"
#include "app/look/first_focus.h"
#include "app/look/icons.h"
#include "app/look/number_box.h"
#include "app/look/theme.h"
#include "brief/row_marks.h"

namespace octaphon::app {
namespace {

/// The controls of one output.
class OutputLine : public QFrame {
 public:
  using Change = std::function<void(const QString& words, const std::function<void(Output&)>& change,
                                    const QString& property)>;

  OutputLine(std::size_t number, Change change, std::function<void()> remove, QWidget* parent)
      : QFrame(parent), change_(std::move(change)) {
    grid_ = new QGridLayout(this);
    grid_->setContentsMargins(0, 2, 0, 6);
    grid_->setHorizontalSpacing(6);
    grid_->setVerticalSpacing(2);
    grid_->setColumnStretch(0, 1);
    grid_->setColumnStretch(1, 1);
    QStringList formats, rates{tr("brief's rate")}, channels;
    for (const auto& choice : kChoices<Encoding>) formats << text(choice.words);
    for (const int rate : kFileRates) rates << tr("%1 kHz").arg(rate / 1000.0);
    for (const auto& choice : kChoices<OutputChannels>) channels << text(choice.label);
    channels[0] = tr("as tapped");
    const auto of = [&](const QString& words) { return tr("%1 of file %2").arg(words).arg(number + 1); };
    format_ = combo(0, 0, of(tr("Format")), formats,
                    [](Output& output, int i) { output.encoding = static_cast<Encoding>(i); });
    rate_ = combo(0, 1, of(tr("Rate")), rates, [](Output& output, int i) {
      output.rate = i == 0 ? 0 : kFileRates[static_cast<std::size_t>(i) - 1];
    });
    channels_ = combo(1, 0, of(tr("Channels")), channels,
                      [](Output& output, int i) { output.channels = static_cast<OutputChannels>(i); });
    channels_->setToolTip(
        tr("Folded by ITU-R BS.775: C into L and R, surrounds into the front, at −3.01 dB; the low channel "
           "is left out; "
           "mono is half of each side. What is mono stays mono."));
    split_ = new QCheckBox(tr("a file each"), this);
    split_->setToolTip(tr("A file for each channel, named by it: L, R, C …"));
    split_->setAccessibleName(of(tr("Files by channel")));
    grid_->addWidget(split_, 1, 1);
    connect(split_, &QCheckBox::clicked, this,
            [this](bool on) { change_(tr("Split files"), [on](Output& output) { output.split = on; }, {}); });
    addCoding(of);
    together_ = new QCheckBox(tr("all sources of a span in one file"), this);
    together_->setToolTip(
        tr("Their channels behind each other, with their names inside, for post-production"));
    together_->setAccessibleName(of(tr("All sources in one")));
    grid_->addWidget(together_, 4, 0, 1, 2);
    connect(together_, &QCheckBox::clicked, this, [this](bool on) {
      change_(tr("Put sources together"), [on](Output& output) { output.together = on; }, {});
    });
    suffix_ = line(3, 0, of(tr("Suffix")), tr("suffix, as _small"), "suffix", &Output::suffix);
    folder_ = line(3, 1, of(tr("Folder")), tr("folder below"), "folder", &Output::folder);
    remove_ = new QToolButton(this);
    keepIcon(remove_, "remove");
    remove_->setAccessibleName(tr("Take file %1 out").arg(number + 1));
    remove_->setToolTip(remove_->accessibleName());
    grid_->addWidget(remove_, 0, 2);
    connect(remove_, &QToolButton::clicked, this, std::move(remove));
  }

  void show(const Output& output, bool isOnly) {
    format_->setCurrentIndex(static_cast<int>(output.encoding));
    const auto rate = std::find(kFileRates.begin(), kFileRates.end(), output.rate);
    rate_->setCurrentIndex(rate == kFileRates.end() ? 0 : static_cast<int>(rate - kFileRates.begin()) + 1);
    channels_->setCurrentIndex(static_cast<int>(output.channels));
    split_->setChecked(output.split);
    split_->setEnabled(!output.together);
    channels_->setEnabled(!output.together);
    together_->setChecked(output.together);
    showCoding(output);
    for (const auto& [line, words] : {std::pair(suffix_, &output.suffix), std::pair(folder_, &output.folder)})
      if (line->text() != text(*words)) line->setText(text(*words));
    remove_->setVisible(!isOnly);
  }
  QWidget* first() const { return format_; }

 private:
  /// What its encoder is asked for: one number, whatever the format calls it.
  void addCoding(const std::function<QString(const QString&)>& of) {
    amount_ = new NumberBox(this);
    amount_->setAccessibleName(of(tr("Encoder setting")));
    variable_ = new QCheckBox(tr("on average"), this);
    variable_->setToolTip(tr("More bits where the sound asks for them"));
    variable_->setAccessibleName(of(tr("Bit rate as needed")));
    grid_->addWidget(amount_, 2, 0);
    grid_->addWidget(variable_, 2, 1);
    connect(amount_, &NumberBox::valueChanged, this, [this](double value) {
      if (isLoading_) return;
      change_(
          tr("Change a file's encoder"),
          [value](Output& output) {
            if (output.encoding == Encoding::Vorbis)
              output.coding.quality = value;
            else if (encodingInfo(output.encoding).isLossy())
              output.coding.bitRate = static_cast<int>(value);
            else
              output.coding.level = static_cast<int>(value);
          },
          "coding");
    });
    connect(variable_, &QCheckBox::clicked, this, [this](bool on) {
      change_(tr("Change a file's encoder"), [on](Output& output) { output.coding.variable = on; }, {});
    });
  }

  void showCoding(const Output& output) {
    isLoading_ = true;
    const EncodingInfo& info = encodingInfo(output.encoding);
    amount_->setVisible(info.isLossy() || info.container == Container::Flac);
    variable_->setVisible(output.encoding == Encoding::Mp3);
    variable_->setChecked(output.coding.variable);
    if (output.encoding == Encoding::Vorbis)
      showAmount(tr("quality "), "", kLeastVorbisQuality, kMostVorbisQuality, 1, output.coding.quality);
    else if (info.isLossy())
      showAmount("", tr(" kbit/s"), 0, kMostBitRate, 0, output.coding.bitRate);
    else
      showAmount(tr("level "), "", 0, kMostFlacLevel, 0, output.coding.level);
    amount_->setSpecialValueText(info.isLossy() && output.encoding != Encoding::Vorbis ? tr("usual bit rate")
                                                                                       : QString());
    isLoading_ = false;
  }

  void showAmount(const QString& before, const QString& behind, double least, double most, int decimals,
                  double value) {
    amount_->setDecimals(decimals);
    amount_->setRange(least, most);
    amount_->setPrefix(before);
    amount_->setSuffix(behind);
    amount_->setValue(value);
  }

  template <class Set>
  QComboBox* combo(int row, int column, const QString& name, const QStringList& items, Set set) {
    auto* made = new QComboBox(this);
    made->addItems(items);
    made->setAccessibleName(name);
    made->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    grid_->addWidget(made, row, column);
    connect(made, &QComboBox::activated, this, [this, set](int index) {
      change_(tr("Change a file"), [set, index](Output& output) { set(output, index); }, {});
    });
    return made;
  }
  QLineEdit* line(int row, int column, const QString& name, const QString& hint, const QString& property,
                  std::string Output::*member) {
    auto* made = new QLineEdit(this);
    made->setAccessibleName(name);
    made->setPlaceholderText(hint);
    grid_->addWidget(made, row, column);
    connect(made, &QLineEdit::textEdited, this, [this, member, property](const QString& typed) {
      change_(
          tr("Change a file's %1").arg(property),
          [member, typed](Output& output) { output.*member = typed.toStdString(); }, property);
    });
    return made;
  }

  Change change_;
  QGridLayout* grid_;
  QComboBox *format_, *rate_, *channels_;
  QCheckBox *split_, *variable_, *together_;
  NumberBox* amount_;
  bool isLoading_ = false;
  QLineEdit *suffix_, *folder_;
  QToolButton* remove_;
};

class OutputsEditor : public PhraseEditor {
 public:
  OutputsEditor(Work& work, QWidget* parent) : PhraseEditor(PhraseKind::Encoding, work, parent) {
    lines_ = new QVBoxLayout;
    layout_->addLayout(lines_);
    auto* add = new QPushButton(tr("Another file of each sound"), this);
    add->setObjectName("quiet");
    layout_->addWidget(add, 0, Qt::AlignLeft);
    connect(add, &QPushButton::clicked, this, [this] {
      edit(tr("Add a file"), [](std::vector<Output>& outputs) {
        if (outputs.size() < kMaxOutputs) outputs.push_back({Encoding::Pcm16});
      });
      if (!shown_.empty()) shown_.back()->first()->setFocus();
    });
    addNote(tr("All come from one pass. Files of one name need a suffix or a folder."));
  }

  void refresh() override {
    PhraseEditor::refresh();
    const std::vector<Output> outputs = briefs_.now().outputs();
    while (shown_.size() > outputs.size()) {
      shown_.back()->hide();
      shown_.back()->deleteLater();
      shown_.pop_back();
    }
    while (shown_.size() < outputs.size()) addLine();
    for (std::size_t i = 0; i < outputs.size(); ++i) shown_[i]->show(outputs[i], outputs.size() == 1);
  }

 private:
  void addLine() {
    const std::size_t i = shown_.size();
    auto* line = new OutputLine(
        i,
        [this, i](const QString& words, const std::function<void(Output&)>& change, const QString& property) {
          edit(
              words,
              [&](std::vector<Output>& outputs) {
                if (i < outputs.size()) change(outputs[i]);
              },
              property.isEmpty() ? property : QString("output/%1/%2").arg(property).arg(i));
        },
        [this, i] {
          edit(
              tr("Take a file out"),
              [i](std::vector<Output>& outputs) {
                if (i < outputs.size() && outputs.size() > 1)
                  outputs.erase(outputs.begin() + static_cast<std::ptrdiff_t>(i));
              },
              {}, i);
        },
        this);
    lines_->addWidget(line);
    line->QWidget::show();
    if (i == 0) setFirstFocus(this, line->first());
    shown_.push_back(line);
  }

  /// `removed`: the index of one that is taken out.
  void edit(const QString& words, const std::function<void(std::vector<Output>&)>& change,
            const QString& property = {}, std::optional<std::size_t> removed = {}) {
    briefs_.change(
        words,
        [&](Brief& brief) {
          std::vector<Output> outputs = brief.outputs();
          const std::size_t before = outputs.size();
          change(outputs);
          std::vector<std::optional<std::size_t>> from;
          for (std::size_t i = 0; i < before; ++i)
            if (i != removed || outputs.size() == before) from.emplace_back(i);
          changeOutputs(brief, std::move(outputs), from);
        },
        property);
  }

  QVBoxLayout* lines_;
  std::vector<OutputLine*> shown_;
};

}  // namespace

PhraseEditor* makeOutputsEditor(Work& work, QWidget* parent) { return new OutputsEditor(work, parent); }

}  // namespace octaphon::app
