#!/usr/bin/env bash
# A Debian package in dist/: the program with the very libraries that requirements.txt pins, in /opt/omnipel, run by Debian's own Python.
# What it makes fits the Python and the processor that it is made with.
set -euo pipefail
cd "$(dirname "$0")/.."
python=${PYTHON:-.venv/bin/python}
command -v dpkg-deb >/dev/null || { echo "Omnipel: dpkg-deb is not here; a Debian package is made on Debian" >&2; exit 1; }

tree=build/debian
inside=$tree/opt/omnipel
rm -rf "$tree"
mkdir -p "$inside" "$tree/usr/bin" "$tree/DEBIAN" dist
pip=("$python" -m pip --disable-pip-version-check --quiet install --target "$inside")
"${pip[@]}" --require-hashes -r requirements.txt
"${pip[@]}" --no-deps --no-build-isolation --upgrade .
rm -rf "$inside/bin"
version=$("$python" -c 'import omnipel; print(omnipel.__version__)')
minor=$("$python" -c 'import sys; print(sys.version_info[1])')

for name in omnipel omnipel-cutter; do
  module=omnipel.cli
  [ "$name" = omnipel ] || module=omnipel.cutter
  printf '#!/bin/sh\nPYTHONPATH=/opt/omnipel exec /usr/bin/python3.%s -B -s -m %s "$@"\n' "$minor" "$module" > "$tree/usr/bin/$name"
  chmod 755 "$tree/usr/bin/$name"
done
XDG_DATA_HOME=$PWD/$tree/usr/share PYTHONPATH=$inside "$python" -s -m omnipel.cli desktop --program /usr/bin/omnipel >/dev/null
gzip -9n "$tree/usr/share/man/man1/omnipel.1"
rm -f "$tree"/usr/share/applications/mimeinfo.cache "$tree"/usr/share/icons/hicolor/icon-theme.cache
find "$tree/usr/share/mime" -mindepth 1 -maxdepth 1 ! -name packages -exec rm -rf {} + 2>/dev/null || true
mkdir -p "$tree/usr/share/doc/omnipel"
cp LICENSE "$tree/usr/share/doc/omnipel/copyright"
cp docs/licences.md "$tree/usr/share/doc/omnipel/"

needs=$("$python" -c 'from omnipel.bench.screen import ALWAYS, FOR_X; print(", ".join(sorted({*ALWAYS.values(), *FOR_X.values()})))')
cat > "$tree/DEBIAN/control" <<END
Package: omnipel
Version: $version
Architecture: $(dpkg --print-architecture)
Maintainer: The founders of Omnipel <nobody@localhost>
Section: graphics
Priority: optional
Installed-Size: $(du -sk "$tree" | cut -f1)
Depends: python3.$minor${needs:+, $needs}
Description: drafts fitted fabric covers from tape readings
 Omnipel drafts the panels of protective fitted covers, says whether the cover
 will go on, lays the panels on cloth, lists what to buy, orders the sewing.
END
dpkg-deb --root-owner-group -Zzstd -z9 --build "$tree" "dist/omnipel_${version}_$(dpkg --print-architecture).deb" >/dev/null
ls -sh dist/omnipel_*.deb
