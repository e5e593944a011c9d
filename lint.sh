#!/bin/sh
# Looks at the sources without running them: layout (clang-format), includes (which folder may use which), and with
# clang-tidy what its settings ask for. `./lint.sh quick` leaves clang-tidy out; it takes the longest by far.
set -eu
cd "$(dirname "$0")"
./setup.sh lint
sources=$(git ls-files 'src/*.cpp' 'src/*.h' 'tests/*.cpp' 'tests/*.h' 'bench/*.cpp' 'demo/*.cpp' 'demo/*.h' 'docs/*.cpp')
# shellcheck disable=SC2086
clang-format --dry-run -Werror $sources
python3 tests/check_layers.py .
[ "${1:-all}" = quick ] && exit 0
# A build folder of its own: clang-tidy cannot read what gcc precompiled.
cmake --preset release -B build/lint -DCMAKE_DISABLE_PRECOMPILE_HEADERS=ON -DCMAKE_EXPORT_COMPILE_COMMANDS=ON > build-lint.log 2>&1 ||
  { cat build-lint.log >&2; exit 1; }
cmake --build build/lint --target octaphon_app_autogen > build-lint.log 2>&1 || { cat build-lint.log >&2; exit 1; }
rm -f build-lint.log
run-clang-tidy -quiet -p build/lint "^$PWD/src/(core|cli|worker|app)/.*\.cpp\$"
