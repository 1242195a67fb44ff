#!/usr/bin/env bash
# Makes .venv ready: `tools/setup.sh run` for using the program, `tools/setup.sh dev` for working on it.
set -euo pipefail
cd "$(dirname "$0")/.."
want=${1:-run}
python=${PYTHON:-python3}

"$python" -c 'import sys; sys.exit(sys.version_info < (3, 11))' 2>/dev/null || {
  echo "Omnipel needs Python 3.11 or newer; '$python' is not. Set PYTHON=/path/to/python3.11." >&2
  exit 1
}

# Qt comes with the requirements, but these it takes from the system.
declare -A package_of=(
  [libEGL.so.1]=libegl1 [libGL.so.1]=libgl1 [libxkbcommon.so.0]=libxkbcommon0
  [libdbus-1.so.3]=libdbus-1-3 [libfontconfig.so.1]=libfontconfig1 [libglib-2.0.so.0]=libglib2.0-0
)
# Wanted for a real screen under X11; tests run without one.
if [ "$want" = run ] || [ -n "${DISPLAY:-}" ]; then
  package_of+=([libxcb-cursor.so.0]=libxcb-cursor0 [libxkbcommon-x11.so.0]=libxkbcommon-x11-0
    [libxcb-icccm.so.4]=libxcb-icccm4 [libxcb-keysyms.so.1]=libxcb-keysyms1
    [libxcb-image.so.0]=libxcb-image0 [libxcb-render-util.so.0]=libxcb-render-util0 [libxcb-xkb.so.1]=libxcb-xkb1)
fi
missing=()
for library in "${!package_of[@]}"; do
  "$python" -c "import ctypes, sys; ctypes.CDLL(sys.argv[1])" "$library" 2>/dev/null || missing+=("${package_of[$library]}")
done
if [ "${#missing[@]}" -gt 0 ]; then
  command="apt-get install -y ${missing[*]}"
  if [ "$(id -u)" = 0 ] && command -v apt-get >/dev/null; then
    echo "Installing what Qt needs from the system: ${missing[*]}"
    apt-get update -qq && DEBIAN_FRONTEND=noninteractive $command -qq >/dev/null
  else
    echo "Qt needs system libraries that are not here. Install them with:" >&2
    echo "    sudo $command" >&2
    exit 1
  fi
fi

[ -x .venv/bin/python ] || "$python" -m venv .venv
pip=(.venv/bin/python -m pip --disable-pip-version-check --quiet)
"${pip[@]}" install --require-hashes -r requirements.txt
[ "$want" = dev ] && "${pip[@]}" install --require-hashes -r requirements-dev.txt
# The package itself, editable, built by the locked setuptools and not by one fetched for the occasion.
"${pip[@]}" install --no-deps --no-build-isolation --editable .
touch .venv/.run-ready
[ "$want" = dev ] && touch .venv/.dev-ready
echo "Ready."
