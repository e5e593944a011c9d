#!/bin/sh
# tests/bare.sh PACKAGES FOLDER: installs the packages on a bare Debian 12 that is made in FOLDER, renders the demo, opens it in a
# window, and purges all again: nothing may be left but what the user made. Needs root.
set -eu
packages=$1
bare=$2
site=$(apt-get indextargets --format '$(SITE) $(RELEASE)' | awk '$2 == "bookworm" { print $1; exit }')
[ -x "$bare/usr/bin/apt-get" ] || debootstrap --variant=minbase bookworm "$bare" "$site" > "$bare.log" 2>&1
trap 'umount "$bare/proc" "$bare/dev" 2> /dev/null || true' EXIT
mount -t proc proc "$bare/proc"
mount --bind /dev "$bare/dev"
rm -rf "$bare/packages" "$bare/root/demo" "$bare/root/chapters"
mkdir "$bare/packages"
cp "$packages"/*.deb "$bare/packages"

inside() { chroot "$bare" env -i PATH=/usr/sbin:/usr/bin:/sbin:/bin HOME=/root LANG=C.UTF-8 DEBIAN_FRONTEND=noninteractive "$@"; }
install() { inside sh -c "apt-get install -y -qq --no-install-recommends $*" > "$bare.log" 2>&1 || { cat "$bare.log" >&2; exit 1; }; }
# What packages of others keep of what was installed is none of ours.
files() { inside sh -c "find /usr /etc /var /opt /srv -xdev \( -path /var/lib/dpkg -o -path /var/lib/apt -o -path /var/cache -o -path /var/log \) -prune -o -print | sort"; }

inside apt-get update -qq
install xvfb xauth x11-utils man-db desktop-file-utils shared-mime-info hicolor-icon-theme dbus
files > "$bare.before"

install /packages/octaphon-cli_*.deb
inside sh -c '! ldd /usr/bin/octaphon-cli | grep -i qt' || { echo "the command line needs a window system" >&2; exit 1; }
inside /usr/libexec/octaphon/octaphon-demo /root/demo
inside octaphon-cli render /root/demo/Tidewheel.octaphon --text | tail -n 1
inside octaphon-cli check /root/demo/Tidewheel.octaphon
inside man -w octaphon-cli-render > /dev/null

install /packages/octaphon_*.deb /packages/octaphon-doc_*.deb
# Its window belongs to its entry in the menu.
class=$(sed -n 's/^StartupWMClass=//p' "$bare/usr/share/applications/org.octaphon.Octaphon.desktop")
inside CLASS="$class" sh -c 'xvfb-run -a sh -c "octaphon /root/demo/Tidewheel.octaphon & for i in \$(seq 100); do
  xwininfo -root -tree | grep Tidewheel | grep -q \"\\\"$CLASS\\\")\" && { kill \$!; exit 0; }; sleep 0.2; done; exit 1"' 2> "$bare.log" ||
  { cat "$bare.log" >&2; echo "no window of the demo came that is $class" >&2; exit 1; }
inside sh -c 'cp -r /usr/share/doc/octaphon-doc/chapters /root && for session in /root/chapters/*/*.octaphon; do
  octaphon-cli render "$session" --text && octaphon-cli check "$session" || exit 1; done' > /dev/null
inside sh -c 'grep -q octaphon-session /usr/share/mime/globs2'

inside apt-get purge -y -qq octaphon octaphon-cli octaphon-doc > "$bare.log" 2>&1
inside apt-get autoremove --purge -y -qq >> "$bare.log" 2>&1
files > "$bare.after"
diff "$bare.before" "$bare.after" | grep '^[<>]' > "$bare.left" || true
[ -s "$bare.left" ] && { echo "left behind, or gone:" >&2; cat "$bare.left" >&2; exit 1; }
[ -d "$bare/root/demo/Deliveries" ] || { echo "what the user made has gone" >&2; exit 1; }
echo "installed, rendered, opened and purged"
