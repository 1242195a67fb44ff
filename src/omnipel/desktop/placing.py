"""Which files make the program a part of a person's desktop, and how they get there and away again.

They lie where the desktop looks for what a person has installed: `$XDG_DATA_HOME`, else `~/.local/share` (XDG Base Directory Specification).
"""

from __future__ import annotations

import contextlib
import os
import shutil
import subprocess
from collections.abc import Mapping
from pathlib import Path
from typing import Final

from omnipel.shop.whole import write_whole

HERE: Final = Path(__file__).parent
ID: Final = "org.omnipel.Omnipel"
TYPES: Final = ("application/x-omnipel", "application/x-omnipel+json")
SIZES: Final = (16, 24, 32, 48, 64, 128, 256)
ENTRY: Final = """[Desktop Entry]
Type=Application
Version=1.4
Name=Omnipel
GenericName=Cover drafting
GenericName[de]=Hüllen entwerfen
Comment=Drafts fitted fabric covers from tape readings
Comment[de]=Entwirft passende Stoffhüllen aus Maßbandablesungen
Exec={program} %F
Icon={id}
Terminal=false
Categories=Graphics;2DGraphics;VectorGraphics;
Keywords=sewing;pattern;cover;canvas;cloth;
MimeType={types};
StartupNotify=true
StartupWMClass={id}
Actions=new;samples;

[Desktop Action new]
Name=New job
Name[de]=Neuer Auftrag
Exec={program} --new

[Desktop Action samples]
Name=Sample shop
Name[de]=Beispielwerkstatt
Exec={program} --demo
"""


def quoted(path: Path) -> str:
    r"""A path as an argument of an Exec line (Desktop Entry Specification, the Exec key).

    >>> quoted(Path("/a b/100 %/x"))
    '"/a b/100 %%/x"'
    """
    text = str(path)
    for sign in ("\\", '"', "`", "$"):
        text = text.replace(sign, f"\\{sign}")
    return '"{}"'.format(text.replace("%", "%%").replace("\\", "\\\\"))


def data_home(environment: Mapping[str, str] = os.environ) -> Path:
    """Where a person's own data lie."""
    return Path(environment.get("XDG_DATA_HOME") or Path.home() / ".local" / "share")


def files(home: Path, program: Path) -> dict[Path, bytes]:
    """What is put where below a person's data: each file with its content; `program` is what is started."""
    made = {home / "applications" / f"{ID}.desktop": ENTRY.format(program=quoted(program), id=ID, types=";".join(TYPES)).encode()}
    made[home / "mime" / "packages" / f"{ID}.xml"] = (HERE / "mime.xml").read_bytes()
    made[home / "metainfo" / f"{ID}.metainfo.xml"] = (HERE / f"{ID}.metainfo.xml").read_bytes()
    icons = home / "icons" / "hicolor"
    made[icons / "scalable" / "apps" / f"{ID}.svg"] = (HERE / "icons" / "omnipel.svg").read_bytes()
    for size in SIZES:
        made[icons / f"{size}x{size}" / "apps" / f"{ID}.png"] = (HERE / "icons" / f"omnipel-{size}.png").read_bytes()
    made[home / "man" / "man1" / "omnipel.1"] = (HERE / "omnipel.1").read_bytes()
    made[home / "bash-completion" / "completions" / "omnipel"] = (HERE / "completion" / "omnipel.bash").read_bytes()
    made[home / "zsh" / "site-functions" / "_omnipel"] = (HERE / "completion" / "_omnipel").read_bytes()
    return made


def put(home: Path, program: Path) -> list[Path]:
    """Put everything there; which files these are.

    Raises:
        NotWritten: one cannot be written; what was before it stays.
    """
    made = files(home, program)
    for path, content in made.items():
        path.parent.mkdir(parents=True, exist_ok=True)
        write_whole(path, content)
    _tell(home)
    return list(made)


def take_away(home: Path) -> list[Path]:
    """Take everything away again, with folders that nothing is left in; which files were there."""
    gone = []
    for path in files(home, Path("omnipel")):
        if path.is_file():
            path.unlink()
            gone.append(path)
    _tell(home)
    for path in sorted(files(home, Path("omnipel")), key=lambda p: -len(p.parts)):
        for folder in path.parents:
            if home not in (folder, *folder.parents) or folder == home.parent:
                break
            with contextlib.suppress(OSError):
                _drop_caches(folder)
                folder.rmdir()
    return gone


CACHES: Final = {"mimeinfo.cache", "mime.cache", "icon-theme.cache"}
"""What the desktop's own tools make beside our files."""
OF_TYPES: Final = {
    "aliases", "generic-icons", "globs", "globs2", "icons", "magic", "mime.cache", "subclasses", "treemagic", "types", "version",
    "XMLnamespaces",
}  # fmt: skip
"""What they make of file types."""


def _drop_caches(folder: Path) -> None:
    """Take away what was made of our files where nothing else is left."""
    left = list(folder.iterdir())
    if folder.name == "mime" and all(p.name in OF_TYPES or (p.is_dir() and not any(p.iterdir())) for p in left):
        for path in left:
            path.rmdir() if path.is_dir() else path.unlink()
    elif left and all(path.name in CACHES for path in left) and all(path.stat().st_size < SMALL for path in left):
        for path in left:
            path.unlink()


SMALL: Final = 100_000
"""A cache of nothing is no larger, bytes."""


def _tell(home: Path) -> None:
    """Tell the desktop that something changed, as far as it wants to know."""
    for told in (
        ["update-mime-database", str(home / "mime")],
        ["update-desktop-database", "-q", str(home / "applications")],
        ["gtk-update-icon-cache", "-q", "-t", str(home / "icons" / "hicolor")],
    ):
        if shutil.which(told[0]) and Path(told[-1]).is_dir():
            with contextlib.suppress(OSError):
                subprocess.run(told, check=False, capture_output=True)
