#!/bin/sh
# Builds the Debian packages of Octaphon into build/packages, and says how they are installed.
set -eu
cd "$(dirname "$0")"
./setup.sh package
cmake --preset release > build-package.log 2>&1 || { cat build-package.log >&2; exit 1; }
rm -f build-package.log
cmake --build build/release --target installed
# As old as its newest change, so that the same sources give the same bytes.
SOURCE_DATE_EPOCH=$(date -u -d "$(sed -n 's/^ -- .*>  //p' packaging/changelog | head -n 1)" +%s)
export SOURCE_DATE_EPOCH
rm -rf build/packages
cpack --config build/release/CPackConfig.cmake -B build/packages > build/release/package.log 2>&1 || { cat build/release/package.log >&2; exit 1; }
rm -rf build/packages/_CPack_Packages
ls build/packages/*.deb
cat <<EOF

To install all of it:             sudo apt install $PWD/build/packages/*.deb
The command line alone:           sudo apt install $PWD/build/packages/octaphon-cli_*.deb
EOF
