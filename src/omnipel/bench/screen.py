"""Whether a window can be opened here at all: looked at before Qt, which would abort without a word that helps.

`python -m omnipel.bench.screen x wayland` prints the packages that are missing, for the set-up.
"""

import ctypes
import os
import sys
from collections.abc import Mapping
from typing import Final

from omnipel.core.words.phrases import NOTHING, Name, Phrase, listed, tr

ALWAYS: Final = {
    "libEGL.so.1": "libegl1",
    "libGL.so.1": "libgl1",
    "libxkbcommon.so.0": "libxkbcommon0",
    "libdbus-1.so.3": "libdbus-1-3",
    "libfontconfig.so.1": "libfontconfig1",
    "libglib-2.0.so.0": "libglib2.0-0",
}
"""What Qt takes from the system, and the package of Debian and its kin that has it."""
FOR_X: Final = {
    "libX11-xcb.so.1": "libx11-xcb1",
    "libxcb-cursor.so.0": "libxcb-cursor0",
    "libxcb-icccm.so.4": "libxcb-icccm4",
    "libxcb-image.so.0": "libxcb-image0",
    "libxcb-keysyms.so.1": "libxcb-keysyms1",
    "libxcb-randr.so.0": "libxcb-randr0",
    "libxcb-render-util.so.0": "libxcb-render-util0",
    "libxcb-shape.so.0": "libxcb-shape0",
    "libxcb-shm.so.0": "libxcb-shm0",
    "libxcb-sync.so.1": "libxcb-sync1",
    "libxcb-util.so.1": "libxcb-util1",
    "libxcb-xfixes.so.0": "libxcb-xfixes0",
    "libxcb-xkb.so.1": "libxcb-xkb1",
    "libxkbcommon-x11.so.0": "libxkbcommon-x11-0",
}
"""The same for a screen under X11."""
FOR_WAYLAND: Final = {
    "libwayland-client.so.0": "libwayland-client0",
    "libwayland-cursor.so.0": "libwayland-cursor0",
    "libwayland-egl.so.1": "libwayland-egl1",
}
"""The same under Wayland."""


def missing(*platforms: str) -> list[str]:
    """The packages whose libraries cannot be loaded, for `x`, `wayland` or neither."""
    wanted = ALWAYS | (FOR_X if "x" in platforms else {}) | (FOR_WAYLAND if "wayland" in platforms else {})
    return sorted(package for library, package in wanted.items() if not _loads(library))


def _loads(library: str) -> bool:
    try:
        ctypes.CDLL(library)
    except OSError:
        return False
    return True


def wants_x(environment: Mapping[str, str]) -> bool:
    """Whether Qt would talk to an X server here: told to, or there is no Wayland and there is one."""
    asked = environment.get("QT_QPA_PLATFORM", "").split(":")[0].split(";")[0]
    return asked == "xcb" or (not asked and not environment.get("WAYLAND_DISPLAY") and bool(environment.get("DISPLAY")))


def hindrance(environment: Mapping[str, str] | None = None) -> Phrase:
    """Why no window can be opened here, in one line that says what to do; nothing when it can."""
    here = os.environ if environment is None else environment
    if not any(here.get(name) for name in ("QT_QPA_PLATFORM", "WAYLAND_DISPLAY", "DISPLAY")):
        return tr(
            "there is no screen here (neither DISPLAY nor WAYLAND_DISPLAY is set); omnipel --help shows what works without one"
        )
    asked = here.get("QT_QPA_PLATFORM", "")
    wayland = asked.startswith("wayland") or (not asked and bool(here.get("WAYLAND_DISPLAY")))
    packages = missing(*(["x"] if wants_x(here) else []), *(["wayland"] if wayland else []))
    if packages:
        return tr(
            "Qt needs system libraries that are not here; install them with: sudo apt-get install {packages}",
            packages=listed([Name(package) for package in packages], " "),
        )
    if wants_x(here) and not _answers(here.get("DISPLAY", "")):
        return tr("no screen answers at DISPLAY={display}", display=Name(here.get("DISPLAY", "")))
    return NOTHING


def _answers(display: str) -> bool:
    """Whether an X server takes us; what cannot be asked is taken as yes."""
    try:
        xcb = ctypes.CDLL("libxcb.so.1")
    except OSError:
        return True
    xcb.xcb_connect.restype = ctypes.c_void_p
    connection = xcb.xcb_connect(display.encode() or None, None)
    fault = xcb.xcb_connection_has_error(ctypes.c_void_p(connection))
    xcb.xcb_disconnect(ctypes.c_void_p(connection))
    return not fault


if __name__ == "__main__":
    print(" ".join(missing(*sys.argv[1:])))
