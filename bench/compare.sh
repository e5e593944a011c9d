#!/bin/sh
# Makes the same 200 files with Octaphon, with the least any program must do, with ffmpeg and with sox, in turns, and
# prints medians, ratios and peak memory. Usage: bench/compare.sh [ROUNDS], 3 by default.
set -eu
cd "$(dirname "$0")/.."
rounds=${1:-3}
work=${OCTAPHON_BENCH_DIR:-build/bench-data}
bin=build/release
cmake --preset release > /dev/null
cmake --build "$bin" --target octaphon-cli octaphon-bench-data octaphon-bench-bound octaphon-bench-large > /dev/null
mkdir -p "$work"
"$bin/bench/octaphon-bench-data" job "$work/job"
exec /usr/bin/python3 bench/compare.py "$bin" "$work" "$rounds"
