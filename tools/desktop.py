"""Job files are opened by a double click: a desktop entry and a file type for this checkout, for one person; or both taken away again.

    python tools/desktop.py [--remove]

They lie where the desktop looks for what a person has installed ($XDG_DATA_HOME, else ~/.local/share).
"""

import argparse
import os
import shutil
import subprocess
import sys
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
TYPE = "application/x-omnipel-job"
ENTRY = """[Desktop Entry]
Type=Application
Name=Omnipel
Comment=Drafts the panels of a fitted cover, and says whether it will go on
Exec={program} %F
Terminal=false
Categories=Graphics;
MimeType={type};
"""
FILE_TYPE = """<?xml version="1.0" encoding="UTF-8"?>
<mime-info xmlns="http://www.freedesktop.org/standards/shared-mime-info">
  <mime-type type="{type}">
    <comment>cover with its photos</comment>
    <glob pattern="*.omnipel"/>
    <glob pattern="*.omnipel.json"/>
  </mime-type>
</mime-info>
"""


def quoted(path: Path) -> str:
    """A path as an argument of a desktop entry's Exec line (Desktop Entry Specification, the Exec key)."""
    text = str(path)
    for sign in ("\\", '"', "`", "$"):
        text = text.replace(sign, f"\\{sign}")
    return '"{}"'.format(text.replace("%", "%%").replace("\\", "\\\\"))


def files(home: Path, program: Path) -> dict[Path, str]:
    """What is written where."""
    return {
        home / "applications" / "omnipel.desktop": ENTRY.format(program=quoted(program), type=TYPE),
        home / "mime" / "packages" / "omnipel.xml": FILE_TYPE.format(type=TYPE),
    }


def main() -> int:
    """Install, or take away; the exit code."""
    parser = argparse.ArgumentParser(description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter)
    parser.add_argument("--remove", action="store_true", help="take both away again")
    asked = parser.parse_args()
    home = Path(os.environ.get("XDG_DATA_HOME") or Path.home() / ".local" / "share")
    program = ROOT / ".venv" / "bin" / "omnipel"
    if not asked.remove and not program.is_file():
        print(f"{program}: make setup comes first", file=sys.stderr)
        return 1
    for path, text in files(home, program).items():
        if asked.remove:
            path.unlink(missing_ok=True)
        else:
            path.parent.mkdir(parents=True, exist_ok=True)
            path.write_text(text, encoding="utf-8")
    for told in (["update-mime-database", str(home / "mime")], ["update-desktop-database", str(home / "applications")]):
        if shutil.which(told[0]) and Path(told[1]).is_dir():
            subprocess.run(told, check=False)
    return 0


if __name__ == "__main__":
    sys.exit(main())
