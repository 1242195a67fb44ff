#!/usr/bin/env bash
# Does the program work on the other Pythons that it says it works on? For each of them that is here: an environment of its own from
# requirements.txt, then a job from the first command to the booklet, and the window on the sample shop.
set -euo pipefail
cd "$(dirname "$0")/.."
versions=("$@")
[ ${#versions[@]} -gt 0 ] || versions=(3.12 3.13)
own=$(.venv/bin/python -c 'import sys; print("%d.%d" % sys.version_info[:2])' 2>/dev/null || echo none)

python_of() {
  local found
  for found in "$(command -v "python$1" || true)" "$HOME/.pyenv/versions/$1."*/bin/python3; do
    [ -x "$found" ] && "$found" -c 'import venv, ensurepip' 2>/dev/null && echo "$found" && return
  done
  return 1
}

work=$(mktemp -d)
trap 'rm -rf "$work"' EXIT
for version in "${versions[@]}"; do
  [ "$version" = "$own" ] && continue
  if ! python=$(python_of "$version"); then
    echo "Python $version is not to be had here: not tried"
    continue
  fi
  "$python" -m venv "$work/$version"
  pip=("$work/$version/bin/python" -m pip --disable-pip-version-check --quiet)
  "${pip[@]}" install --require-hashes -r requirements.txt
  "${pip[@]}" install --no-deps --no-build-isolation .
  bin=$work/$version/bin
  (
    cd "$work"
    export QT_QPA_PLATFORM=offscreen OMNIPEL_QUIT_AFTER=shelf HOME=$work TMPDIR=$work LANGUAGE=en
    "$bin/omnipel" new drum wall-and-lid -o "$version.json"
    "$bin/omnipel" check "$version.json"
    "$bin/omnipel" export "$version.json" --book "$version.pdf" --dxf "$version.dxf" --hpgl "$version.hpgl" --spreadsheet "$version.ods"
    "$bin/omnipel" lay "$version.json" --seconds 1 > "$version.lay"
    "$bin/omnipel" --demo
    [ "$(head -c 4 "$version.pdf")" = %PDF ] && grep -q "to buy" "$version.lay"
  )
  echo "Python $version: works"
done
