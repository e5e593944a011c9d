#!/bin/sh
# Installs what is needed, builds Octaphon, makes the sounds of the demo and opens it. Where there is no display, it makes
# the demo's files with the command line instead.
set -eu
cd "$(dirname "$0")"
./setup.sh run
cmake --preset release > build-demo.log 2>&1 || { cat build-demo.log >&2; exit 1; }
rm -f build-demo.log
cmake --build build/release --target octaphon octaphon-cli octaphon-worker octaphon-receiver octaphon-demo
build/release/demo/octaphon-demo build/release/demo
session=build/release/demo/Tidewheel.octaphon
if [ -n "${DISPLAY:-}${WAYLAND_DISPLAY:-}" ]; then
  exec build/release/src/app/octaphon "$session"
fi
build/release/src/cli/octaphon-cli render "$session"
rm -f build/release/demo/Results.octaphon
build/release/src/cli/octaphon-cli collect build/release/demo/Deliveries/Game build/release/demo/Results.octaphon
cat <<EOF

There is no display, so the files of the demo were made with the command line. They are in
  $PWD/build/release/demo/Deliveries
with a delivery note and a manifest in Game, and a session of these in Results.octaphon beside the demo.
To see the window, run this on a desktop, or over a connection that forwards one (ssh -X):
  ./demo.sh
EOF
