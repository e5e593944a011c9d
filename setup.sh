#!/bin/sh
# Installs the Debian packages that Octaphon is built and tested with, where they are missing. demo.sh and test.sh call
# it; `./setup.sh run` leaves out what only tests need, `./setup.sh lint` adds
# what looks at the sources.
set -eu
build="g++ cmake ninja-build mold ccache pkg-config libsndfile1-dev libsoxr-dev libtbb-dev libxxhash-dev libexpected-dev robin-map-dev
 libcli11-dev nlohmann-json3-dev libicu-dev libflac-dev libogg-dev libvorbis-dev libopus-dev libmp3lame-dev libpugixml-dev libtag1-dev libboost-dev liblilv-dev lv2-dev libssl-dev libpango1.0-dev libcairo2-dev libebur128-dev libkissfft-dev qt6-base-dev qt6-base-dev-tools qt6-multimedia-dev qt6-svg-dev
 libgl1-mesa-dev fonts-inter fonts-jetbrains-mono librsvg2-bin python3 python3-fonttools"
tests="xvfb xauth ffmpeg sox mediainfo python3-numpy python3-scipy python3-jsonschema python3-mido util-linux sonic-pi-samples sndfile-programs flac lame opus-tools vorbis-tools oggz-tools python3-mutagen unicode-data bzip2 trash-cli faketime time dbus-daemon tidy poppler-utils man-db groff-base zsh fish desktop-file-utils appstream shared-mime-info fonts-dejavu-core fonts-ipafont-gothic
 mda-lv2 lv2-examples lsp-plugins-lv2"
case ${1:-all} in
  run) wanted=$build ;;
  package) wanted="$build dpkg-dev file" ;;
  lint) wanted="$build clang-format clang-tidy" ;;
  *) wanted="$build $tests" ;;
esac

missing=""
for package in $wanted; do
  dpkg-query -W -f='${Status}' "$package" 2>/dev/null | grep -q "install ok installed" || missing="$missing $package"
done
[ -z "$missing" ] && exit 0

root=""
if [ "$(id -u)" -ne 0 ]; then
  command -v sudo > /dev/null || { echo "These packages are missing, and sudo is not there to install them:$missing" >&2; exit 1; }
  root=sudo
fi
echo "Installing:$missing"
$root apt-get update -qq
# shellcheck disable=SC2086
$root env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends $missing > /dev/null
