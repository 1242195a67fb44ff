"""What is written down when something goes wrong inside the program: where, of which version, on what; nothing of the job itself."""

from __future__ import annotations

import platform
import sys
import traceback
from datetime import datetime
from pathlib import Path
from types import TracebackType
from typing import Final

from omnipel import __version__

KEPT: Final = 20
"""So many reports are kept, the newest."""
MOST: Final = 200_000
"""No report is longer, letters."""


def folder() -> Path:
    """Where reports lie."""
    import platformdirs

    return Path(platformdirs.user_state_dir("omnipel")) / "reports"


def written(
    kind: type[BaseException], error: BaseException, trace: TracebackType | None, now: datetime | None = None
) -> Path | None:
    """Write a report; where it lies, or None where it cannot be written."""
    from PySide6 import __version__ as qt

    now = now or datetime.now().astimezone()
    told = [
        f"Omnipel {__version__}, {now:%Y-%m-%d %H:%M:%S %z}",
        f"Python {platform.python_version()}, Qt for Python {qt}, {platform.platform()}",
        f"arguments: {len(sys.argv) - 1}",
        "",
        "".join(traceback.format_exception(kind, error, trace))[-MOST:],
    ]
    try:
        there = folder()
        there.mkdir(parents=True, exist_ok=True)
        path = there / f"{now:%Y-%m-%d-%H%M%S-%f}.txt"
        path.write_text("\n".join(told), encoding="utf-8")
        for old in sorted(there.glob("*.txt"))[:-KEPT]:
            old.unlink()
    except OSError:
        return None
    return path
