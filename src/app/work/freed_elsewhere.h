// What takes long to take apart is taken apart on another thread, whoever lets go of it last.
#pragma once

#include <memory>
#include <QThreadPool>

namespace octaphon::app {

template <class T>
std::shared_ptr<const T> freedElsewhere(std::unique_ptr<T> thing) {
  return {thing.release(),
          [](const T* last) { QThreadPool::globalInstance()->start([last] { delete last; }); }};
}

}  // namespace octaphon::app
