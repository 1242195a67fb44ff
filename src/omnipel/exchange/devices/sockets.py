"""Local sockets lie in a folder as files do: before one is removed or spoken to it is looked at whose it is."""

import os
import stat
from pathlib import Path


def ours(path: Path) -> bool | None:
    """Whether a socket of this person's own lies at a path; None where nothing lies there.

    Raises:
        OSError: it cannot be looked at.
    """
    try:
        known = path.lstat()
    except FileNotFoundError:
        return None
    return stat.S_ISSOCK(known.st_mode) and known.st_uid == os.getuid()
