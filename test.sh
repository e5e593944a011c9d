#!/bin/sh
# Installs what is needed, builds everything and runs all tests through ctest: offscreen, and the window once more on a real
# X server that the test starts itself. `./test.sh asan` or `./test.sh tsan` does it with sanitizers.
set -eu
cd "$(dirname "$0")"
preset=${1:-release}
./setup.sh
cmake --preset "$preset" -DOCTAPHON_TESTS=ON > build-test.log 2>&1 || { cat build-test.log >&2; exit 1; }
rm -f build-test.log
cmake --build "build/$preset"
ctest --test-dir "build/$preset" --output-on-failure -j "$(nproc)"
