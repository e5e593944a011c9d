#include "base/in_parallel.h"

#include <tbb/parallel_for.h>
#include <tbb/task_arena.h>

namespace octaphon {

void inParallel(std::size_t count, const std::function<void(std::size_t i)>& work) {
  tbb::this_task_arena::isolate([&] { tbb::parallel_for(std::size_t{0}, count, work); });
}

}  // namespace octaphon
