// A list that its copies share until one of them is written to: copying a session of many things costs
// little, and so does seeing that two copies are equal. Reading needs no care; several threads may read what
// they share.
#pragma once

#include <algorithm>
#include <atomic>
#include <initializer_list>
#include <memory>
#include <utility>
#include <vector>

namespace octaphon {

template <class T>
class SharedList {
 public:
  using value_type = T;
  using const_iterator = typename std::vector<T>::const_iterator;

  SharedList() = default;
  SharedList(std::vector<T> things) : things_(std::make_shared<std::vector<T>>(std::move(things))) {}
  SharedList(std::initializer_list<T> things) : SharedList(std::vector<T>(things)) {}

  const std::vector<T>& all() const {
    static const std::vector<T> kNone;
    return things_ ? *things_ : kNone;
  }
  operator const std::vector<T>&() const { return all(); }
  /// To be written to, by this list alone.
  std::vector<T>& writable() {
    if (!things_ || things_.use_count() > 1) things_ = std::make_shared<std::vector<T>>(all());
    std::atomic_thread_fence(std::memory_order_acquire);  // another thread may just have read its last of it
    return *things_;
  }

  bool empty() const { return all().empty(); }
  std::size_t size() const { return all().size(); }
  const_iterator begin() const { return all().begin(); }
  const_iterator end() const { return all().end(); }
  const T* data() const { return all().data(); }
  const T& operator[](std::size_t at) const { return all()[at]; }
  const T& front() const { return all().front(); }
  const T& back() const { return all().back(); }

  T& operator[](std::size_t at) { return writable()[at]; }
  T& front() { return writable().front(); }
  T& back() { return writable().back(); }
  void push_back(T thing) { writable().push_back(std::move(thing)); }
  void clear() { things_.reset(); }
  void erase(const_iterator from, const_iterator to) {
    const auto first = from - begin(), last = to - begin();
    std::vector<T>& things = writable();
    things.erase(things.begin() + first, things.begin() + last);
  }
  template <class Goes>
  std::size_t eraseIf(const Goes& goes) {
    if (std::none_of(begin(), end(), goes)) return 0;
    return std::erase_if(writable(), goes);
  }

  bool isSharedWith(const SharedList& other) const { return things_ == other.things_; }
  friend bool operator==(const SharedList& a, const SharedList& b) {
    return a.isSharedWith(b) || a.all() == b.all();
  }

 private:
  std::shared_ptr<std::vector<T>> things_;  // null: none
};

/// Calls change(thing) for each that `which` picks.
template <class T, class Which, class Change>
void changeWhere(SharedList<T>& list, const Which& which, const Change& change) {
  for (std::size_t i = 0; i < list.size(); ++i)
    if (which(list.all()[i])) change(list.writable()[i]);
}
template <class T, class Which, class Change>
void changeWhere(std::vector<T>& list, const Which& which, const Change& change) {
  for (T& thing : list)
    if (which(std::as_const(thing))) change(thing);
}

}  // namespace octaphon
