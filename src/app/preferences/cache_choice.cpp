#include "app/preferences/cache_choice.h"

#include <QHBoxLayout>
#include <QLocale>

#include "app/work/settings.h"
#include "app/work/text.h"

namespace octaphon::app {
namespace {

constexpr std::uint64_t kGigabyte = 1'000'000'000;

}  // namespace

CacheChoice::CacheChoice(Work& work, QWidget* parent)
    : QWidget(parent),
      work_(work),
      limit_(new QSpinBox(this)),
      size_(new QLabel(this)),
      clear_(new QPushButton(tr("Clear"), this)) {
  limit_->setRange(1, 1000);
  limit_->setValue(settings::cacheGigabytes());
  limit_->setSuffix(tr(" GB"));
  limit_->setAccessibleName(tr("Most that is kept"));
  limit_->setKeyboardTracking(false);
  size_->setObjectName("second");
  clear_->setAutoDefault(false);
  clear_->setAccessibleName(tr("Clear what is kept"));
  auto* layout = new QHBoxLayout(this);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->addWidget(limit_);
  layout->addWidget(clear_);
  layout->addWidget(size_, 1);
  setFocusProxy(limit_);
  connect(limit_, &QSpinBox::valueChanged, this, &CacheChoice::take);
  connect(clear_, &QPushButton::clicked, this, &CacheChoice::clear);
  look();
}

/// It may hold thousands of files.
void CacheChoice::look() {
  work_.jobs().start<KeptInCache>(
      LongJobs::Kind::Other, tr("Looking at what is kept"),
      [&cache = work_.cache()](JobControl&) { return cache.kept(); },
      [label = QPointer(size_)](const KeptInCache& kept) {
        if (label)
          label->setText(tr("%1 kept: %2")
                             .arg(QLocale::c().formattedDataSize(static_cast<qint64>(kept.bytes), 1,
                                                                 QLocale::DataSizeSIFormat),
                                  app::text(kept.words())));
      });
}

void CacheChoice::clear() {
  if (work_.making().isRunning())
    return work_.news().tell(tr("Files are being made from what is kept. Stop that, or wait for it to end"));
  clear_->setEnabled(false);
  work_.jobs().start<quint64>(
      LongJobs::Kind::Other, tr("Clearing what is kept"),
      [&cache = work_.cache()](JobControl&) { return static_cast<quint64>(cache.clear()); },
      [self = QPointer(this)](quint64) {
        if (!self) return;
        self->clear_->setEnabled(true);
        self->look();
      });
}

void CacheChoice::take(int gigabytes) {
  settings::setCacheGigabytes(gigabytes);
  const std::uint64_t bytes = static_cast<std::uint64_t>(gigabytes) * kGigabyte;
  work_.cache().setLimit(bytes);
  if (work_.making().isRunning()) return;  // its end makes room
  work_.jobs().start<bool>(
      LongJobs::Kind::Other, tr("Making room"),
      [&cache = work_.cache(), bytes](JobControl&) {
        cache.shrinkTo(bytes);
        return true;
      },
      [self = QPointer(this)](bool) {
        if (self) self->look();
      });
}

}  // namespace octaphon::app
