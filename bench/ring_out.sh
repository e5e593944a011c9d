#!/bin/sh
# What it costs to listen to tails: the same files with tails that ring out, and with fixed ones of the length that was
# heard, in turns. Usage: bench/ring_out.sh [ROUNDS], 7 by default.
set -eu
cd "$(dirname "$0")/.."
rounds=${1:-7}
work=${OCTAPHON_BENCH_DIR:-build/bench-data}
bin=build/release
cmake --preset release > /dev/null
cmake --build "$bin" --target octaphon-cli octaphon-demo > /dev/null
mkdir -p "$work"
"$bin/demo/octaphon-demo" "$work/demo"
exec /usr/bin/python3 bench/ring_out.py "$bin" "$work" "$rounds"
