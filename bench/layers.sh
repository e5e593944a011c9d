#!/bin/sh
# What layers cost against the mix alone, with effects: see layers.py.
set -eu
cd "$(dirname "$0")/.."
work=${OCTAPHON_BENCH_DIR:-build/bench-data}
cmake --preset release > /dev/null
cmake --build build/release --target octaphon-cli > /dev/null
mkdir -p "$work"
exec /usr/bin/python3 bench/layers.py build/release "$work"
