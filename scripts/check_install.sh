#!/usr/bin/env bash
# check_install.sh DEB: the package in a fresh Debian root: installed with what it depends on, run there by somebody who
# may write nowhere but at home, found by the desktop as what opens a job, and removed without a trace.
set -euo pipefail
deb=$(realpath "$1")
[[ $EUID -eq 0 ]] || { echo "a fresh root can only be made by root" >&2; exit 1; }
say() { printf '== %s\n' "$*"; }

fresh=$(mktemp -d)
trap 'umount "$fresh/proc" 2>/dev/null || true; rm -rf "$fresh"' EXIT
chmod 755 "$fresh"
inside() { chroot "$fresh" env -i HOME=/root PATH=/usr/sbin:/usr/bin:/sbin:/bin LANG=C.UTF-8 DEBIAN_FRONTEND=noninteractive "$@"; }
apt() { inside apt-get -q -y --no-install-recommends "$@" >"$fresh/apt.log" 2>&1 || { tail -20 "$fresh/apt.log"; exit 1; }; }

say "a fresh root"
suite=$(. /etc/os-release && echo "$VERSION_CODENAME")
mirror=$(apt-get indextargets --format '$(SITE)' "Codename: $suite" "Created-By: Packages" | head -1) # where this machine's come from
debootstrap --variant=minbase "$suite" "$fresh" "$mirror" >"$fresh.log" 2>&1 || { tail -20 "$fresh.log"; exit 1; }
rm -f "$fresh.log"
cp -r /etc/apt/. "$fresh/etc/apt/"
cp /etc/resolv.conf "$fresh/etc/resolv.conf"
mount -t proc proc "$fresh/proc" 2>/dev/null || true # not everywhere may one; it is missed by nothing here
apt update
apt install shared-mime-info desktop-file-utils xdg-utils libfile-mimeinfo-perl # what a desktop has

say "installed"
cp "$deb" "$fresh/vicegrip.deb"
apt install ./vicegrip.deb
inside useradd --create-home --uid 4000 installer
user() { inside setpriv --reuid 4000 --regid 4000 --clear-groups env HOME=/home/installer QT_QPA_PLATFORM=offscreen "$@"; }
jobs=/usr/share/vicegrip/jobs
for program in vicegrip vicegrip-cli vicegrip-bench; do
    user "$program" --version
done
user vicegrip-cli range "$jobs/petrel.vicegrip" --circuit map | grep -q kPa
user timeout 120 vicegrip --quit-when-usable
user timeout 120 vicegrip --quit-when-usable "$jobs/curlew.vicegrip"
user test ! -w /usr/share/vicegrip/library

say "a double click on a job opens it"
type=$(user xdg-mime query filetype "$jobs/curlew.vicegrip")
[[ $type == application/x-vicegrip-job ]] || { echo "a job is taken for $type"; exit 1; }
opens=$(user xdg-mime query default "$type")
[[ $opens == vicegrip.desktop ]] || { echo "a job is opened by ${opens:-nothing}"; exit 1; }
grep -q '^Exec=vicegrip %f' "$fresh/usr/share/applications/vicegrip.desktop"

say "removed"
apt purge vicegrip
rm "$fresh/vicegrip.deb"
left=$(inside find / -xdev -iname '*vicegrip*' -not -path '/home/installer/*' -not -path '/proc/*' -not -path '/var/log/*')
[[ -z $left ]] || { printf 'left behind:\n%s\n' "$left"; exit 1; }
inside sh -c "echo words >/tmp/words.txt"
[[ $(user xdg-mime query filetype /tmp/words.txt) == text/plain ]] # the database of types is whole
if grep -rq vicegrip "$fresh/usr/share/mime" "$fresh/usr/share/applications"; then
    echo "the desktop still knows it"
    exit 1
fi
