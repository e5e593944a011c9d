#!/bin/sh
# What a fold costs against the plain render and against folding afterwards by a script, and how long the search for a better
# join takes: see loops.py. Usage: bench/loops.sh [ROUNDS], 7 by default.
set -eu
cd "$(dirname "$0")/.."
rounds=${1:-7}
work=${OCTAPHON_BENCH_DIR:-build/bench-data}
cmake --preset release > /dev/null
cmake --build build/release --target octaphon-cli > /dev/null
mkdir -p "$work"
exec /usr/bin/python3 bench/loops.py build/release "$work" "$rounds"
