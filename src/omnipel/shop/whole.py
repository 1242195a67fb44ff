"""One way to write a file: whole or not at all.

A temporary file in the same folder, synced, renamed over the old one. Whatever goes wrong (a full disk, a kill, a folder that cannot be
written), the old file is still there, and still whole.
"""

import contextlib
import errno
import fcntl
import os
import stat
import time
from pathlib import Path
from typing import Final

from omnipel.core.words.phrases import Name, Phrase, Refusal, tr
from omnipel.shop.reasons import reason_of

FIRST: Final = ".omnipel-"
LAST: Final = ".part"
STALE_S: Final = 60.0
"""Somebody who has begun to write a file holds its lock long before this."""


class NotWritten(Refusal):
    """A file could not be written: which, and why. What was there before is untouched."""

    def __init__(self, path: Path, reason: Phrase) -> None:
        self.path, self.reason = path, reason
        super().__init__(tr("{path}: {reason}", path=Name(str(path)), reason=reason))


def write_whole(path: Path, content: bytes | str) -> None:
    """Write a file whole or not at all; text as UTF-8. A link stays a link, mode and owner stay as they were.

    Raises:
        NotWritten: it cannot be written; what was there before is untouched.
    """
    held = content.encode("utf-8") if isinstance(content, str) else content
    try:
        target = Path(os.path.realpath(path))
        known = _stat(target)
        if known is not None and stat.S_ISDIR(known.st_mode):
            raise IsADirectoryError(errno.EISDIR, "is a directory")
        if known is not None and not stat.S_ISREG(known.st_mode):  # a pipe or a device takes what comes
            target.write_bytes(held)
            return
        if known is not None and not os.access(target, os.W_OK):  # the folder would let us replace it; its owner would not
            raise PermissionError(errno.EACCES, "permission denied")
        sweep(target.parent)
        _replace(target, held, known)
    except (OSError, ValueError) as error:  # ValueError: a name with a zero byte
        raise NotWritten(path, _reason(error, path)) from error


def _replace(target: Path, held: bytes, known: os.stat_result | None) -> None:
    new = target.parent / f"{FIRST}{os.urandom(8).hex()}{LAST}"
    handle = os.open(new, os.O_WRONLY | os.O_CREAT | os.O_EXCL | os.O_CLOEXEC, 0o666)  # the umask takes away what it always does
    try:
        with os.fdopen(handle, "wb") as file:
            with contextlib.suppress(OSError):  # a file system without locks: then only its age tells a leftover
                fcntl.flock(file, fcntl.LOCK_EX | fcntl.LOCK_NB)
            if known is not None:
                _keep_owner(file.fileno(), known)
            file.write(held)
            file.flush()
            os.fsync(file.fileno())
            os.replace(new, target)
    except BaseException:
        with contextlib.suppress(OSError):
            new.unlink(missing_ok=True)
        raise
    with contextlib.suppress(OSError):  # that the name is on disk, too; some file systems cannot
        folder = os.open(target.parent, os.O_RDONLY | os.O_DIRECTORY)
        try:
            os.fsync(folder)
        finally:
            os.close(folder)


def _keep_owner(handle: int, known: os.stat_result) -> None:
    """Give a new file the owner, group and mode of the one it replaces, as far as we may."""
    for user, group in ((known.st_uid, known.st_gid), (-1, known.st_gid)):
        with contextlib.suppress(OSError):
            os.fchown(handle, user, group)
            break
    with contextlib.suppress(OSError):  # some file systems know no modes
        os.fchmod(handle, stat.S_IMODE(known.st_mode))


def sweep(folder: Path) -> None:
    """Remove what a killed process has left half-written in a folder: old enough, and nobody holds its lock."""
    with contextlib.suppress(OSError):
        for left in folder.glob(f"{FIRST}*{LAST}"):
            with contextlib.suppress(OSError), open(left, "rb") as file:
                fcntl.flock(file, fcntl.LOCK_EX | fcntl.LOCK_NB)
                if time.time() - left.stat().st_mtime > STALE_S:
                    left.unlink()


def _stat(path: Path) -> os.stat_result | None:
    try:
        return path.stat()
    except FileNotFoundError:
        return None


def _reason(error: Exception, path: Path) -> Phrase:
    if isinstance(error, FileNotFoundError) and not path.parent.exists():
        return tr("there is no folder “{folder}”", folder=Name(str(path.parent)))
    return reason_of(error)
