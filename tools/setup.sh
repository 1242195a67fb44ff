#!/usr/bin/env bash
# Makes .venv ready: `tools/setup.sh run` for using the program, `tools/setup.sh dev` for working on it. `tools/setup.sh screen` looks for what a
# window needs from the system and is run each time before one is opened: whatever was set up before, and in whatever order.
set -euo pipefail
cd "$(dirname "$0")/.."
want=${1:-run}
python=${PYTHON:-python3}

fail() {
  echo "Omnipel: $*" >&2
  exit 1
}

command -v "$python" >/dev/null || fail "there is no $python here; install it with: sudo apt-get install python3 python3-venv (or set PYTHON=/path/to/python3.11)"
"$python" -c 'import sys; sys.exit(sys.version_info < (3, 11))' || fail "Python 3.11 or newer is needed; '$python' is $("$python" -V 2>&1). Set PYTHON=/path/to/python3.11."

# Qt comes with the requirements, but some libraries it takes from the system: always, and for the kind of screen there is.
platforms=()
if [ "$want" = screen ]; then
  [ -n "${DISPLAY:-}" ] && platforms+=(x)
  [ -n "${WAYLAND_DISPLAY:-}" ] && platforms+=(wayland)
fi
missing=$(PYTHONPATH=src "$python" -m omnipel.bench.screen ${platforms[@]+"${platforms[@]}"})
if [ -n "$missing" ]; then
  if [ "$(id -u)" = 0 ] && command -v apt-get >/dev/null; then
    echo "Installing what Qt needs from the system: $missing"
    { apt-get update -qq && DEBIAN_FRONTEND=noninteractive apt-get install -y -qq $missing >/dev/null; } ||
      fail "that did not work; install them by hand: sudo apt-get install $missing"
  else
    fail "Qt needs system libraries that are not here. Install them with: sudo apt-get install $missing"
  fi
fi
[ "$want" = screen ] && exit 0

if [ -e .venv ] && ! .venv/bin/python -c 'import pip, sys; sys.exit(sys.version_info < (3, 11))' 2>/dev/null; then
  echo "The .venv here is half-made or of another Python: making it anew."
  rm -rf .venv
fi
if [ ! -e .venv ]; then
  "$python" -c 'import ensurepip, venv' 2>/dev/null || fail "Python's venv is not here; install it with: sudo apt-get install python3-venv"
  echo "Making .venv in $(pwd) (about 600 MB, nothing is installed outside it)."
  "$python" -m venv .venv || { rm -rf .venv; fail "the .venv could not be made"; }
fi
pip=(.venv/bin/python -m pip --disable-pip-version-check --quiet)
# Whoever runs the program has everything compiled; tests and tools compile what they import, which is a small part of it and half of the time here.
as_used=()
[ "$want" = dev ] && as_used=(--no-compile)
echo "Installing the libraries that requirements.txt pins."
"${pip[@]}" install ${as_used[@]+"${as_used[@]}"} --require-hashes -r requirements.txt
if [ "$want" = dev ]; then
  echo "Installing the tools that requirements-dev.txt pins."
  "${pip[@]}" install ${as_used[@]+"${as_used[@]}"} --require-hashes -r requirements-dev.txt
fi
# The package itself, editable, built by the locked setuptools and not by one fetched for the occasion.
"${pip[@]}" install --no-deps --no-build-isolation --editable .
touch .venv/.run-ready
[ "$want" = dev ] && touch .venv/.dev-ready
echo "Ready."
