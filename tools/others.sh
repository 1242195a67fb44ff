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

try() { # the version, its Python
  local bin=$work/$1/bin pip
  "$2" -m venv "$work/$1"
  pip=("$bin/python" -m pip --disable-pip-version-check --quiet)
  "${pip[@]}" install --no-compile --require-hashes -r requirements.txt
  "${pip[@]}" install --no-compile --no-deps "$work"/omnipel-*.whl
  mkdir "$work/$1/home"
  cd "$work/$1/home"
  export QT_QPA_PLATFORM=offscreen OMNIPEL_QUIT_AFTER=shelf HOME=$PWD TMPDIR=$PWD LANGUAGE=en
  "$bin/omnipel" new drum wall-and-lid -o drum.json
  "$bin/omnipel" check drum.json
  "$bin/omnipel" export drum.json --book drum.pdf --dxf drum.dxf --hpgl drum.hpgl --spreadsheet drum.ods
  "$bin/omnipel" lay drum.json --seconds 1 > drum.lay
  "$bin/omnipel" --demo
  [ "$(head -c 4 drum.pdf)" = %PDF ] && grep -q "to buy" drum.lay
}

.venv/bin/python -m pip --disable-pip-version-check --quiet wheel --no-deps --no-build-isolation --wheel-dir "$work" .
# Side by side: most of it is waiting for libraries.
declare -A trying=()
for version in "${versions[@]}"; do
  [ "$version" = "$own" ] && continue
  if python=$(python_of "$version"); then
    (set -e; try "$version" "$python") > "$work/$version.log" 2>&1 &
    trying[$version]=$!
  else
    echo "Python $version is not to be had here: not tried"
  fi
done
failed=0
for version in ${trying[@]+"${!trying[@]}"}; do
  if wait "${trying[$version]}"; then
    echo "Python $version: works"
  else
    failed=1
    echo "Python $version: does not work" >&2
    cat "$work/$version.log" >&2
  fi
done
exit "$failed"
