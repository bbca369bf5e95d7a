#!/usr/bin/env bash
# The Debian package: built, judged by the tools of the trade, unpacked elsewhere and run from there by another user.
set -euo pipefail
cd "$(dirname "$0")/.."

work=$(mktemp -d)
trap 'rm -rf "$work"' EXIT
chmod 755 "$work"
say() { printf '== %s\n' "$*"; }

say "build"
(cd build/dev && cpack -B "$work" >"$work/cpack.log" 2>&1) || { cat "$work/cpack.log"; exit 1; }
deb=$(ls "$work"/*.deb)
root=$work/root
dpkg-deb -x "$deb" "$root"
share=$root/usr/share

say "lintian"
lintian --allow-root --fail-on error,warning --suppress-tags initial-upload-closes-no-bugs "$deb" # nobody uploads it
say "desktop entry, metadata, manual pages"
desktop-file-validate "$share/applications/vicegrip.desktop"
appstreamcli validate --no-net --explain "$share"/metainfo/*.xml
for page in "$share"/man/man1/*.gz; do
    LC_ALL=C.UTF-8 man --warnings -E UTF-8 -l -Tutf8 -Z "$page" 2>"$work/man" >/dev/null
    if [[ -s $work/man ]]; then cat "$work/man"; exit 1; fi
done

say "the file's type"
cp -r /usr/share/mime "$work/mime" && cp "$share/mime/packages/vicegrip.xml" "$work/mime/packages/"
update-mime-database "$work/mime"
mkdir -p "$work/data" && ln -s "$work/mime" "$work/data/mime"
cp data/jobs/petrel.vicegrip "$work/no-ending" # told by what it begins with
for file in data/jobs/petrel.vicegrip "$work/no-ending"; do
    type=$(XDG_DATA_HOME="$work/none" XDG_DATA_DIRS="$work/data" xdg-mime query filetype "$file")
    [[ $type == application/x-vicegrip-job ]] || { echo "$file is taken for $type"; exit 1; }
done

say "run by another user"
home=$work/home
mkdir -p "$home"
as=() # somebody who may write nowhere but at home
if [[ $EUID -eq 0 ]]; then
    chown nobody "$home"
    as=(setpriv --reuid nobody --clear-groups)
fi
run() { "${as[@]}" env -i HOME="$home" PATH="$root/usr/bin:/usr/bin:/bin" QT_QPA_PLATFORM=offscreen LANG=C.UTF-8 "$@"; }
for program in vicegrip vicegrip-cli vicegrip-bench; do
    run "$program" --version
done
cd "$home"
run vicegrip-cli check "$share/vicegrip/jobs/petrel.vicegrip" >"$work/said" || [[ $? -eq 1 ]]
run vicegrip-cli range "$share/vicegrip/jobs/petrel.vicegrip" --circuit map >"$work/said" # from the library
grep -q kPa "$work/said"
run timeout 60 vicegrip --quit-when-usable
run timeout 60 vicegrip --quit-when-usable "$share/vicegrip/jobs/curlew.vicegrip"
run bash -c 'source '"$share"'/bash-completion/completions/vicegrip-cli; COMP_WORDS=(vicegrip-cli pi); COMP_CWORD=1
    _vicegrip_cli; [[ ${COMPREPLY[*]} == pins ]]'
if grep -rlq "$OLDPWD" "$root/usr/share" "$root/usr/bin"; then
    echo "the package names the folder it was built in"
    exit 1
fi
cd "$OLDPWD"
scripts/check_install.sh "$deb"
say "fine"
