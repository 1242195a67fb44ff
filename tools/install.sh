#!/usr/bin/env bash
# Installs Omnipel for one person, without root, or takes it away again: `tools/install.sh install | uninstall`.
# The program goes to ~/.local/lib/omnipel, its commands to ~/.local/bin, the rest to where the desktop looks for it. Your shop is never touched.
set -euo pipefail
cd "$(dirname "$0")/.."
python=${PYTHON:-python3}
home=$HOME/.local/lib/omnipel
bin=$HOME/.local/bin

fail() {
  echo "Omnipel: $*" >&2
  exit 1
}

case ${1:-} in
install)
  "$python" -c 'import sys; sys.exit(sys.version_info < (3, 11))' || fail "Python 3.11 or newer is needed; set PYTHON=/path/to/python3.11"
  mkdir -p "$home" "$bin"
  [ -x "$home/venv/bin/python" ] || "$python" -m venv "$home/venv" || fail "the environment could not be made"
  pip=("$home/venv/bin/python" -m pip --disable-pip-version-check --quiet)
  echo "Installing the libraries that requirements.txt pins (about 600 MB)."
  "${pip[@]}" install --require-hashes -r requirements.txt
  "${pip[@]}" install --no-deps --no-build-isolation --force-reinstall .
  for name in omnipel omnipel-cutter; do
    if [ -e "$bin/$name" ] && [ "$(readlink "$bin/$name" || true)" != "$home/venv/bin/$name" ]; then
      fail "$bin/$name is there already, and is not ours"
    fi
    ln -sfn "$home/venv/bin/$name" "$bin/$name"
  done
  "$bin/omnipel" desktop --program "$bin/omnipel"
  case :$PATH: in *":$bin:"*) ;; *) echo "Note: $bin is not in your PATH; log in anew, or start it from the menu." ;; esac
  echo "Installed. Start it from the menu, or with: omnipel"
  ;;
uninstall)
  [ -x "$home/venv/bin/omnipel" ] && "$home/venv/bin/omnipel" desktop --remove
  for name in omnipel omnipel-cutter; do
    [ "$(readlink "$bin/$name" || true)" = "$home/venv/bin/$name" ] && rm -f "$bin/$name"
  done
  rm -rf "$home"
  rmdir --ignore-fail-on-non-empty -p "$bin" "$HOME/.local/lib" 2>/dev/null || true
  echo "Taken away. Your shop is still in ${XDG_DATA_HOME:-$HOME/.local/share}/omnipel, if there was one."
  ;;
*) fail "say install or uninstall" ;;
esac
