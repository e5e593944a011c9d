#!/bin/sh
# Hostile runs that take minutes, many megabytes or root: kills, media that change under a run, full and read-only disks,
# few handles, mutated sessions, packages on a bare system. Prints a table of case, expected and found; exits 1 where they differ. Run by hand:
# tests/long.sh [CASE]…
set -eu
cd "$(dirname "$0")/.."
cmake --preset release > /dev/null
cmake --build build/release --target octaphon-cli octaphon-worker octaphon-demo > /dev/null
exec python3 tests/long.py build/release "$@"
