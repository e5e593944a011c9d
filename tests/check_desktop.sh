#!/bin/sh
# tests/check_desktop.sh FOLDER METAINFO: what a desktop reads of Octaphon, by the validators of freedesktop.org; and that names of files
# lead to their types (shared MIME database).
set -eu
folder=$1
id=org.octaphon.Octaphon
desktop-file-validate "$folder/$id.desktop"
appstreamcli validate --no-net --no-color "$2"
types=$(mktemp -d)
trap 'rm -rf "$types"' EXIT
mkdir "$types/packages"
cp "$folder/$id.mime.xml" "$types/packages"
update-mime-database "$types"
for type in session:octaphon brief:octaphon-brief; do
  grep -q "application/x-octaphon-${type%%:*}:\\*\\.${type##*:}\$" "$types/globs2" || { echo "no type for *.${type##*:}" >&2; exit 1; }
  grep -q "MimeType=.*application/x-octaphon-${type%%:*};" "$folder/$id.desktop" || { echo "${type%%:*} is not opened" >&2; exit 1; }
  [ -f "$folder/application-x-octaphon-${type%%:*}.svg" ] || { echo "${type%%:*} has no icon" >&2; exit 1; }
done
